import { openWorld, PASSWORDS, putFiles, realJpeg, type World } from '../testing/world';

let world: World;
let accessionId: number;
beforeAll(async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  await putFiles(drive, { 'a.jpg': await realJpeg({}, 20) });
  await world.takeIn(drive);
  accessionId = (await world.services.intake.accessions())[0]?.id ?? 0;
});
afterAll(() => world.close());

const SAID = {
  ...{ number: '2026-014', source: 'A cupboard in Norhaven', donor: 'Edda Kessel', agreement: 'Letter of 3 May' },
  ...{ restrictions: 'Not on posters', ends: '', note: '' },
};
const show = () => world.services.accessions.show(accessionId);
const cookieOf = async (name: keyof typeof PASSWORDS) => {
  const { headers } = await world.app.inject({
    method: 'POST',
    url: '/api/session',
    payload: { name, password: PASSWORDS[name] },
  });
  return String(headers['set-cookie']);
};

test('where an accession comes from is said, changed and undone', async () => {
  expect((await show()).provenance).toMatchObject({ number: '', donor: '' });
  await world.apply({ kind: 'describeAccession', accessionId, ...SAID });
  expect((await show()).provenance).toEqual(SAID);
  expect((await world.services.intake.accessions())[0]).toMatchObject({ number: '2026-014', donor: 'Edda Kessel' });
  await world.apply({ kind: 'describeAccession', accessionId, ...SAID, donor: 'Edda Kessel’s heirs' });
  await world.services.ledger.undo(world.keeperId);
  expect((await show()).provenance).toEqual(SAID);
  await expect(world.apply({ kind: 'describeAccession', accessionId: 999_999, ...SAID })).rejects.toThrow('accession');
});

test('photos of what was agreed for a time come on a work list before it ends', async () => {
  const keeper = await world.services.rights.personOf(world.keeperId);
  const list = async () => (await world.services.workLists.lists(keeper, '')).find(({ id }) => id === 'ending');
  expect(await list()).toBeUndefined();
  await world.apply({ kind: 'describeAccession', accessionId, ...SAID, ends: '2099-01-01' });
  expect(await list()).toBeUndefined();
  await world.apply({ kind: 'describeAccession', accessionId, ...SAID, ends: '2020-01-01' });
  expect(await list()).toMatchObject({ photos: 1, group: 'To settle' });
});

test('papers are attached, fetched as they were, and taken off; nobody gets them who takes nothing in', async () => {
  const content = Buffer.from('%PDF-1.7 a letter');
  await world.services.accessions.addPaper(accessionId, 'Letter – 3 May.pdf', content, world.keeperId);
  const [paper] = (await show()).papers;
  expect(paper).toMatchObject({ name: 'Letter – 3 May.pdf', bytes: content.length, addedBy: 'The keeper' });
  const fetch = async (name: keyof typeof PASSWORDS) =>
    world.app.inject({ method: 'GET', url: `/api/papers/${paper?.id}`, headers: { cookie: await cookieOf(name) } });
  const fetched = await fetch('keeper');
  expect(fetched.rawPayload.equals(content)).toBe(true);
  expect(fetched.headers).toMatchObject({
    'content-type': 'application/octet-stream',
    'content-disposition': expect.stringContaining('Letter%20%E2%80%93%203%20May.pdf') as string,
  });
  expect((await fetch('viewer')).statusCode).toBe(403);
  await world.services.accessions.removePaper(paper?.id ?? 0);
  expect((await show()).papers).toEqual([]);
  await expect(world.services.accessions.removePaper(paper?.id ?? 0)).rejects.toThrow('such paper');
});
