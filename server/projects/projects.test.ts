import { change as changeSchema, type ChangeInput } from '@stellin/contract/ledger';
import { openWorld, putFiles, realJpeg, type World } from '../testing/world';
import { PROGRAM } from '../catalogue/viewer';

let world: World;
let memberId: number;
let helperRole: number;

const FORM = { note: '', colour: '' as const, starts: '', ends: '', fieldSetId: null, templateId: null, ruleId: null };
const entry = (target: string, kind: string, choices: string[] = []) => ({ target, kind, choices });
const byMember = (change: ChangeInput) => world.services.ledger.apply(changeSchema.parse(change), memberId);
const photos = (query: string) => world.services.search.all.count(query);
const only = (name: string) => ({ query: `name:${name}` });
const projects = () => world.services.projects.list(PROGRAM);
const find = async (name: string) => {
  const found = (await projects()).find((project) => project.name === name);
  if (!found) throw new Error(`there is no project ${name}`);
  return found;
};
const dossierId = async (path: string) =>
  (await world.services.dossiers.list(PROGRAM)).find((dossier) => dossier.path === path)?.id ?? 0;
const set = (name: string, target: string, value: string | string[]): ChangeInput => ({
  kind: 'setFields',
  selection: only(name),
  edits: [{ target: `custom:${target}`, mode: 'replace', value }],
});
const valueOf = async (name: string, target: string) =>
  (await world.services.describing.agreement(PROGRAM, { ...only(name), minus: [], plus: [] })).fields.find(
    (field) => field.target === target,
  )?.values[0]?.value;

beforeAll(async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  const names = ['a.jpg', 'b.jpg', 'c.jpg', 'd.jpg'];
  await putFiles(
    drive,
    Object.fromEntries(
      await Promise.all(names.map(async (name, i) => [name, await realJpeg({}, 20 + i * 40)] as const)),
    ),
  );
  await world.takeIn(drive);
  await world.apply({ kind: 'addTerms', parentId: null, terms: [{ label: 'Loans' }] });
  await world.apply({
    kind: 'saveFieldSet',
    fieldSetId: null,
    name: 'Loan papers',
    entries: [
      entry('custom:Insurance value', 'number'),
      entry('custom:Back by', 'date'),
      entry('custom:Condition', 'choice', ['good', 'torn']),
      entry('custom:Returned', 'yesNo'),
    ] as never,
  });
  await world.apply({
    kind: 'saveTemplate',
    templateId: null,
    name: 'A loan',
    edits: [
      { target: 'creditLine', mode: 'replace', value: 'Lent to the Kiteham Museum' },
      { target: 'custom:Condition', mode: 'replace', value: 'good' },
    ],
    termIds: [1],
  });
  await world.apply({ kind: 'saveQualityRule', ruleId: null, name: 'Loan rule', query: '', requires: ['caption'] });
  const { id } = await world.services.accounts.add({
    name: 'runa',
    displayName: 'Runa Lind',
    role: null,
    password: 'seven lanterns out',
  });
  memberId = id;
  helperRole = await world.services.teams.saveRole({ id: null, name: 'Member', permissions: ['describe'] });
});
afterAll(() => world.close());

test('a project stands on nothing that is gone or another’s alone, and ends after it starts', async () => {
  const cataloguer = await world.services.accounts.find('cataloguer');
  await world.services.ledger.apply(
    changeSchema.parse({
      kind: 'saveTemplate',
      templateId: null,
      name: 'Mine alone',
      edits: [{ target: 'creditLine', mode: 'replace', value: 'Runa Lind' }],
      shared: false,
    }),
    cataloguer?.id ?? 0,
  );
  const [row] = await world.services.database.rows<{ id: number }>(`select id from template where name = 'Mine alone'`);
  for (const [form, message] of [
    [{ fieldSetId: 4711 }, 'There is no such field set'],
    [{ ruleId: 4711 }, 'There is no such rule'],
    [{ templateId: 4711 }, 'There is no such template'],
    [{ templateId: row?.id ?? 0 }, 'There is no such template'],
    [{ starts: '2030-05', ends: '2030-04-01' }, 'The project “Refused” can’t be kept: it would end'],
  ] as const)
    await expect(world.apply({ kind: 'makeProject', ...FORM, name: 'Refused', ...form })).rejects.toThrow(message);
});

test('a project is made with fields, template and rule; what comes into it is filled, what it says already stays', async () => {
  await world.apply({
    kind: 'setFields',
    selection: only('b.jpg'),
    edits: [{ target: 'creditLine', mode: 'replace', value: 'Its own line' }],
  });
  const made = await world.apply({
    ...FORM,
    kind: 'makeProject',
    name: 'Kiteham loan',
    starts: '2024-05',
    ends: '2024-09-30',
    fieldSetId: 1,
    templateId: 1,
    ruleId: 1,
  });
  expect(made.title).toBe('Make the project “Kiteham loan”');
  const put = await world.apply({
    kind: 'putInDossier',
    dossierId: await dossierId('Kiteham loan'),
    selection: { query: 'name:a.jpg or name:b.jpg' },
  });
  expect(put.title).toBe('Put 2 photos into “Kiteham loan”');
  expect([await valueOf('a.jpg', 'creditLine'), await valueOf('b.jpg', 'creditLine')]).toEqual([
    'Lent to the Kiteham Museum',
    'Its own line',
  ]);
  expect(await photos('project:"Kiteham loan" term:Loans own:"Condition: good"')).toBe(2);
  expect(await find('Kiteham loan')).toMatchObject({
    photos: 2,
    starts: '2024-05',
    closed: false,
    lacking: [{ part: 'caption', query: 'dossier:"Kiteham loan" missing:caption', photos: 2 }],
  });
  // All of it is one step.
  await world.services.ledger.undo(world.keeperId);
  expect(await photos('project:"Kiteham loan" or term:Loans or creditLine:"Lent*"')).toBe(0);
  await world.services.ledger.redo(world.keeperId);
  expect(await photos('project:"Kiteham loan" term:Loans')).toBe(2);
});

test('what its fields say is checked, wherever it is said, and compared in searches', async () => {
  await expect(world.apply(set('a.jpg', 'Insurance value', 'much'))).rejects.toThrow(
    'Insurance value: “much” is no number; write 12 or 12.5 (a.jpg)',
  );
  await expect(world.apply(set('c.jpg', 'Condition', 'lost'))).rejects.toThrow('is none of its choices');
  await world.apply(set('a.jpg', 'Insurance value', '1200'));
  await world.apply(set('b.jpg', 'Insurance value', '90'));
  await world.apply(set('b.jpg', 'Back by', '2024-09'));
  // In a template, in find and replace as well.
  await expect(
    world.apply({
      kind: 'replaceText',
      selection: { query: '' },
      targets: ['custom:Insurance value'],
      find: '90',
      how: 'text',
      replace: 'ninety',
    }),
  ).rejects.toThrow('no number');
  expect(await photos('own:"Insurance value: >=100"')).toBe(1);
  expect(await photos('own:"Insurance value: 10..2000"')).toBe(2);
  expect(await photos('own:"Back by: <=2024-09-30"')).toBe(1);
  const [facet] = await world.services.search.all.facets({
    query: '',
    facets: ['own:Condition'],
    limit: 5,
    containing: '',
  });
  expect(facet?.values).toMatchObject([{ label: 'good', photos: 2, query: 'own:"Condition: good"' }]);
  await expect(
    world.apply({
      kind: 'saveFieldSet',
      fieldSetId: null,
      name: 'Other papers',
      entries: [entry('custom:Insurance value', 'text')] as never,
    }),
  ).rejects.toThrow('“Insurance value” is a field of another kind in “Loan papers”');
});

test('members work within it and nowhere else', async () => {
  const home = await dossierId('Kiteham loan');
  await world.services.teams.giveRight({ kind: 'account', id: memberId }, helperRole, {
    kind: 'dossier',
    dossierId: home,
  });
  const member = await world.services.rights.personOf(memberId);
  expect((await world.services.projects.list(member)).map(({ name }) => name)).toEqual(['Kiteham loan']);
  const crates = await byMember({ kind: 'makeDossier', name: 'Crates', parentId: home, selection: only('a.jpg') });
  expect(crates.photos).toBe(1);
  await byMember({ kind: 'putInDossier', dossierId: crates.objectId ?? 0, selection: only('b.jpg') });
  await byMember({
    kind: 'saveSearch',
    name: 'Dear ones',
    query: 'own:"Insurance value: >500"',
    sort: 'taken',
    dossierId: home,
  });
  expect((await world.services.search.seenBy(member).list()).map(({ asks, count }) => [asks, count])).toEqual([
    ['dossier:"Kiteham loan" own:"Insurance value: >500"', 1],
  ]);
  await expect(byMember({ kind: 'makeDossier', name: 'Elsewhere' })).rejects.toThrow('may not change that');
  await expect(byMember({ kind: 'changeDossier', dossierId: home, name: 'Mine' })).rejects.toThrow(
    'may not change that',
  );
  await expect(byMember({ kind: 'saveSearch', name: 'All', query: '', sort: 'taken' })).rejects.toThrow('may not');
  // What is not theirs to see is not put in: there is no such photo.
  await expect(
    byMember({ kind: 'putInDossier', dossierId: crates.objectId ?? 0, selection: only('c.jpg') }),
  ).rejects.toThrow('Nothing would change');
  await expect(byMember({ ...FORM, kind: 'makeProject', name: 'Theirs' })).rejects.toThrow('Only keepers');
});

test('searches of a project follow its name, and stay within it', async () => {
  const { id: projectId } = await find('Kiteham loan');
  await world.apply({
    ...FORM,
    kind: 'changeProject',
    projectId,
    name: 'Loan to Kiteham',
    fieldSetId: 1,
    templateId: 1,
    ruleId: 1,
  });
  const [search] = await world.services.search.all.list();
  expect(search).toMatchObject({
    dossierId: await dossierId('Loan to Kiteham'),
    asks: 'dossier:"Loan to Kiteham" own:"Insurance value: >500"',
  });
  await world.apply({ kind: 'changeSearch', searchId: search?.id ?? 0, query: 'rating:>2', scope: '' });
  expect((await world.services.search.all.list())[0]?.asks).toBe('dossier:"Loan to Kiteham" rating:>2');
  // Definitions that are taken in know of no project.
  const [definition] = await world.services.search.definitions(PROGRAM);
  await world.apply({
    kind: 'importSearches',
    searches: [{ name: 'Dear ones', sort: 'taken', ...definition, query: 'rating:>3', scope: '' }],
  });
  expect((await world.services.search.all.list())[0]).toMatchObject({
    dossierId: await dossierId('Loan to Kiteham'),
    asks: 'dossier:"Loan to Kiteham" rating:>3',
  });
  await world.services.ledger.undo(world.keeperId);
});

test('a new project is made like a former one: its dossiers without photos, its searches, its members', async () => {
  const { id: like } = await find('Loan to Kiteham');
  const taken = { name: 'dear ones (loan to northmere)', query: 'rating:5', sort: 'taken' } as const;
  await world.apply({ kind: 'saveSearch', ...taken });
  await world.apply({ ...FORM, kind: 'makeProject', name: 'Loan to Northmere', fieldSetId: 'new', like });
  expect((await world.services.dossiers.list(PROGRAM)).map(({ path, photos: count }) => [path, count])).toEqual([
    ['Loan to Kiteham', 2],
    ['Loan to Kiteham/Crates', 2],
    ['Loan to Northmere', 0],
    ['Loan to Northmere/Crates', 0],
  ]);
  expect((await world.services.search.all.list()).map(({ name, asks }) => [name, asks])).toContainEqual([
    'Dear ones (Loan to Northmere) (2)',
    'dossier:"Loan to Northmere" rating:>2',
  ]);
  const member = await world.services.rights.personOf(memberId);
  expect((await world.services.projects.list(member)).map(({ name }) => name)).toEqual([
    'Loan to Kiteham',
    'Loan to Northmere',
  ]);
  expect(
    (await world.services.describing.prepared(await world.services.rights.personOf(world.keeperId))).fieldSets.map(
      ({ name }) => name,
    ),
  ).toContain('Loan to Northmere');
});

describe('a project that is closed', () => {
  beforeAll(async () => {
    const { id: projectId } = await find('Loan to Kiteham');
    await world.apply({ kind: 'closeProject', projectId, closed: true });
  });

  const closed = 'The project “Loan to Kiteham” is closed';
  test.each<[string, () => Promise<ChangeInput>]>([
    [
      'its dossier gets no photo',
      async () => ({ kind: 'putInDossier', dossierId: await dossierId('Loan to Kiteham'), selection: only('c.jpg') }),
    ],
    [
      'nor loses one',
      async () => ({
        kind: 'takeFromDossier',
        dossierId: await dossierId('Loan to Kiteham/Crates'),
        selection: only('a.jpg'),
      }),
    ],
    [
      'nor gets a dossier',
      async () => ({ kind: 'makeDossier', name: 'More', parentId: await dossierId('Loan to Kiteham') }),
    ],
    [
      'none of them goes',
      async () => ({ kind: 'removeDossier', dossierId: await dossierId('Loan to Kiteham/Crates') }),
    ],
    [
      'its searches stay',
      async () => ({
        kind: 'removeSearch',
        searchId: (await world.services.search.all.list()).find(({ name }) => name === 'Dear ones')?.id ?? 0,
      }),
    ],
    ['so does what its fields say of its photos', () => Promise.resolve(set('a.jpg', 'Insurance value', '1'))],
    [
      'it is not changed',
      async () => ({ ...FORM, kind: 'changeProject', projectId: (await find('Loan to Kiteham')).id, name: 'Other' }),
    ],
    ['nor removed', async () => ({ kind: 'removeProject', projectId: (await find('Loan to Kiteham')).id })],
  ])('%s', async (_, change) => {
    await expect(world.apply(await change())).rejects.toThrow(closed);
  });

  test('what else photos say, and the same fields of other photos, are changed as ever', async () => {
    await world.apply({ kind: 'setRating', selection: only('a.jpg'), rating: 3 });
    await world.apply(set('a.jpg', 'Note of the day', 'windy'));
    await world.apply(set('c.jpg', 'Insurance value', '7'));
  });

  test('members may look, and not more', async () => {
    const member = await world.services.rights.personOf(memberId);
    expect(await world.services.search.seenBy(member).count('')).toBe(2);
    await expect(byMember(set('a.jpg', 'Note of the day', 'calm'))).rejects.toThrow('may not change');
  });

  test('what was done in it before is not taken back; opened again it is', async () => {
    const put = (await world.services.ledger.list(PROGRAM, { limit: 50 })).find(({ title }) =>
      title.startsWith('Put 1 '),
    );
    await expect(world.services.ledger.reverse(put?.id ?? 0, 'undo', world.keeperId)).rejects.toThrow(closed);
    await world.apply({ kind: 'closeProject', projectId: (await find('Loan to Kiteham')).id, closed: false });
    await world.services.ledger.reverse(put?.id ?? 0, 'undo', world.keeperId);
    expect(await photos('dossier:"Loan to Kiteham/Crates"')).toBe(1);
  });
});

test('what a project stands on stays, and a removed one leaves its dossiers and searches', async () => {
  const { id: projectId, dossierId: home } = await find('Loan to Kiteham');
  for (const change of [
    { kind: 'removeFieldSet', fieldSetId: 1 },
    { kind: 'removeTemplate', templateId: 1 },
    { kind: 'removeQualityRule', ruleId: 1 },
  ] as const)
    await expect(world.apply(change)).rejects.toThrow('The project “Loan to Kiteham” works with it');
  await expect(world.apply({ kind: 'removeDossier', dossierId: home })).rejects.toThrow('Remove the project first');
  const other = (await find('Loan to Northmere')).dossierId;
  await expect(world.apply({ kind: 'placeDossier', dossierId: other, parentId: home, before: null })).rejects.toThrow(
    'it stays at the top',
  );
  await world.apply({ kind: 'removeProject', projectId });
  expect((await projects()).map(({ name }) => name)).toEqual(['Loan to Northmere']);
  expect(await photos('dossier:"Loan to Kiteham"')).toBe(2);
  const search = (await world.services.search.all.list()).find(({ name }) => name === 'Dear ones');
  expect(search).toMatchObject({ dossierId: null, asks: 'dossier:"Loan to Kiteham" rating:>2' });
  await world.services.ledger.undo(world.keeperId);
  expect((await projects()).map(({ name }) => name)).toEqual(['Loan to Kiteham', 'Loan to Northmere']);
});
