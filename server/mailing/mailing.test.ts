import pino from 'pino';
import sharp from 'sharp';
import { copySettings, type CopySettings } from '@stellin/contract/delivering';
import { openServices } from '../services';
import { openWorld, putFiles, realJpeg, type World } from '../testing/world';
import { BUSY, REFUSING } from './standIns/mailBox';

let world: World;
beforeEach(async () => {
  world = await openWorld({ connections: 3 });
  const drive = await world.addDrive('Vault');
  await putFiles(drive, { 'a.jpg': await realJpeg({ title: 'Dunes' }), 'b.jpg': await realJpeg({}, 90) });
  await world.takeIn(drive);
});
afterEach(() => world.close());

const personOf = async (name: string) => {
  const id = (await world.services.accounts.find(name))?.id ?? 0;
  return world.services.rights.personOf(id);
};
const keeper = () => personOf('keeper');

async function makeLink(settings: { title: string; tellAfter?: number }, query?: string) {
  const selection = { query: '', plus: [], minus: [] };
  const { id, address } = await world.services.viewLinks.make(
    {
      source: query === undefined ? { kind: 'fixed', selection } : { kind: 'following', query },
      settings,
    },
    await keeper(),
  );
  return { linkId: id, address: `http://archive.example${address}` };
}

const edda = { name: 'Edda Quill', address: 'edda@island.example' };
const TEXT = 'Dear {name},\n\n{title}: {link}\n\n{sender}\n';

async function sendLink(recipients: { name?: string; address: string }[] = [edda]) {
  const link = await makeLink({ title: 'Kites over the marsh' });
  const id = await world.services.mailing.send(
    { about: { kind: 'link', ...link }, subject: '{title}', text: TEXT, recipients },
    await keeper(),
  );
  return { id, ...link };
}

const recipients = async () =>
  (await world.services.mailing.list(await keeper())).letters.flatMap((each) => each.recipients);
const settled = () =>
  world.eventually(async () => (await recipients()).every(({ state, tries }) => state !== 'sending' && tries > 0));

test('a view link goes by mail to each in their name, into the stand-in where no server is settled, and its address is then forgotten', async () => {
  const { address } = await sendLink([edda, { address: 'rowan@island.example' }]);
  await settled();
  const { letters, way } = await world.services.mailing.list(await keeper());
  expect(way.server).toBeNull();
  expect(letters).toMatchObject([{ title: 'Kites over the marsh', kind: 'link', text: TEXT, mayRetry: false }]);
  expect(letters[0]?.recipients.map(({ state, problem }) => [state, problem])).toEqual([
    ['sent', null],
    ['sent', null],
  ]);
  const box = await world.services.mailing.box(await keeper());
  expect(box.map(({ subject, to }) => [subject, to])).toEqual(
    expect.arrayContaining([
      ['Kites over the marsh', '"Edda Quill" <edda@island.example>'],
      ['Kites over the marsh', 'rowan@island.example'],
    ]),
  );
  expect(box.find(({ to }) => to.includes('edda'))?.text).toBe(
    `Dear Edda Quill,\n\nKites over the marsh: ${address}\n\nThe keeper\n`,
  );
  expect(box.find(({ to }) => to.includes('rowan'))?.text).toContain('Dear rowan@island.example,');
  // What the database holds opens no link.
  const rows = await world.services.database.rows('select link_address from letter');
  expect(rows).toEqual([{ link_address: null }]);
});

test('who was written to stands in the address book once, with the name that is known', async () => {
  await sendLink([{ address: 'Edda@island.example' }, { address: 'edda@ISLAND.example' }]);
  await sendLink([edda]);
  await sendLink([{ address: 'edda@island.example' }]);
  expect(await world.services.mailing.contacts()).toMatchObject([edda]);
});

test('who is refused came back, with what the server said; who is busy is tried again later, at once when it is asked for, or no more', async () => {
  await sendLink([{ address: `gone${REFUSING}` }, { address: `full${BUSY}` }]);
  await settled();
  const [gone, full] = await recipients();
  expect(gone).toMatchObject({ state: 'refused', nextAt: null });
  expect(gone?.problem).toContain('There is no such mailbox here');
  expect(full).toMatchObject({ state: 'waiting', tries: 1 });
  expect(full?.problem).toContain('busy');
  const wait = Date.parse(full?.nextAt ?? '') - Date.now();
  expect(wait).toBeGreaterThan(30_000);
  expect(wait).toBeLessThan(61_000);
  const { mailing } = world.services;
  await mailing.retry([full?.id ?? 0], await keeper());
  await world.eventually(async () =>
    (await recipients()).some(({ state, problem }) => state === 'waiting' && problem !== null),
  );
  await mailing.stop([full?.id ?? 0], await keeper());
  expect((await recipients())[1]).toMatchObject({ state: 'stopped' });
  // Nobody waits for the address any more: it is forgotten, and there is nothing to try again.
  await expect(mailing.retry([full?.id ?? 0], await keeper())).rejects.toThrow('no such letter');
  expect(await mailing.box(await keeper())).toEqual([]);
});

const LARGE_PIXELS = { width: 2600, height: 2100 };
/** Nothing makes noise smaller. */
const noise = () =>
  sharp({
    create: { ...LARGE_PIXELS, channels: 3, background: 'grey', noise: { type: 'gaussian', mean: 128, sigma: 60 } },
  })
    .png({ compressionLevel: 0 })
    .toBuffer();

async function sendDelivery(settings: Partial<CopySettings>) {
  const { id: deliveryId } = await world.services.deliveries.deliver(
    {
      ...{ selection: { query: '', plus: [], minus: [] }, sort: 'name', settings: copySettings.parse(settings) },
      ...{ presetId: null, recipient: 'Island museum', reason: '', target: { kind: 'download' } },
    },
    await keeper(),
  );
  const about = { kind: 'delivery' as const, deliveryId };
  await world.services.mailing.send(
    { about, subject: 'Copies', text: 'As you asked.', recipients: [edda] },
    await keeper(),
  );
  await settled();
}

test('a small delivery goes along as it would be downloaded; one that is too large does not, and that is said', async () => {
  await sendDelivery({ format: 'jpeg' });
  const [message] = await world.services.mailing.box(await keeper());
  expect(message?.attachments).toEqual([{ name: expect.stringMatching(/\.zip$/), bytes: expect.any(Number) }]);
  expect(message?.attachments[0]?.bytes).toBeGreaterThan(1000);
  const drive = await world.addDrive('Vault');
  await putFiles(drive, { 'noise.png': await noise() });
  await world.takeIn(drive);
  await sendDelivery({ format: 'original' });
  expect((await recipients())[0]).toMatchObject({
    state: 'refused',
    problem: expect.stringContaining('send a view link'),
  });
  expect(await world.services.mailing.box(await keeper())).toHaveLength(1);
});

test('nobody sends the link or delivery of somebody else, or another address; nor sees their letters or what the box holds of them', async () => {
  const { linkId, address } = await sendLink();
  await settled();
  const { mailing, rights, accounts } = world.services;
  const other = await rights.personOf((await accounts.find('cataloguer'))?.id ?? 0);
  const letter = { subject: 'x', text: 'x', recipients: [edda] };
  await expect(mailing.send({ about: { kind: 'link', linkId, address }, ...letter }, other)).rejects.toThrow(
    'no such view link',
  );
  await expect(
    mailing.send(
      { about: { kind: 'link', linkId, address: 'http://archive.example/v/AAAAAAAAAAAAAAAAAAAAAA' }, ...letter },
      await keeper(),
    ),
  ).rejects.toThrow('not the address');
  expect((await mailing.list(other)).letters).toEqual([]);
  expect(await mailing.box(other)).toEqual([]);
  const [mine] = await recipients();
  await expect(mailing.retry([mine?.id ?? 0], other)).rejects.toThrow('no such letter');
  await expect(mailing.stop([mine?.id ?? 0], other)).rejects.toThrow('no such letter');
});

test('lines of a head can’t be smuggled into a letter; a placeholder that is none is refused', async () => {
  const { linkId, address } = await makeLink({ title: 'Kites' });
  const { mailing } = world.services;
  const about = { kind: 'link' as const, linkId, address };
  const given = { about, subject: 'Kites', text: 'Look', recipients: [edda] };
  for (const wrong of [
    { ...given, subject: 'Kites\r\nBcc: all@island.example' },
    { ...given, recipients: [{ name: 'Edda\nBcc: all@island.example', address: edda.address }] },
    { ...given, recipients: [{ address: 'edda@island.example\r\nBcc: all@island.example' }] },
    { ...given, text: 'Dear {nmae}' },
    { ...given, recipients: [] },
  ])
    await expect(mailing.send(wrong, await keeper())).rejects.toThrow();
  // The title of a link may hold whatever is typed.
  const tricky = await makeLink({ title: 'Kites\r\nBcc: all@island.example' });
  await mailing.send({ ...given, about: { kind: 'link', ...tricky }, subject: '{title}' }, await keeper());
  await settled();
  const [message] = await mailing.box(await keeper());
  expect(message?.to).toBe('"Edda Quill" <edda@island.example>');
});

test('two processes send each letter once; what one that is gone was sending is sent by another', async () => {
  await world.rest();
  await sendLink(Array.from({ length: 40 }, (_, at) => ({ address: `p${at}@island.example` })));
  await world.services.database.rows(
    "update letter_recipient set state = 'sending', begun_at = now() - interval '1 hour' where address = 'p7@island.example'",
  );
  const other = await openServices(world.config, world.databaseUrl, pino({ level: 'silent' }));
  try {
    await Promise.all([world.services.mailing.sendDue(), other.mailing.sendDue()]);
  } finally {
    await other.close();
  }
  expect((await recipients()).map(({ state }) => state)).toEqual(Array.from({ length: 40 }, () => 'sent'));
  const to = (await world.services.mailing.box(await keeper())).map((message) => message.to);
  expect(to).toHaveLength(40);
  expect(new Set(to).size).toBe(40);
});

test('those to whom a link that follows was sent are told when enough new pictures are there, once a day, without its address', async () => {
  const { mailing, tellOfNew } = world.services;
  const link = await makeLink({ title: 'Kites', tellAfter: 2 }, '');
  // Nobody has it yet, so nobody is told.
  await takeInMore('c.jpg', 'd.jpg');
  await tellOfNew(new Date());
  await mailing.send(
    { about: { kind: 'link', ...link }, subject: 'Look', text: '{link}', recipients: [edda] },
    await keeper(),
  );
  await settled();
  const subjects = async () => (await mailing.list(await keeper())).letters.map(({ subject }) => subject);
  await tellOfNew(new Date());
  await takeInMore('e.jpg');
  await tellOfNew(new Date());
  expect(await subjects()).toEqual(['Look']);
  await takeInMore('f.jpg', 'g.jpg');
  await Promise.all([tellOfNew(new Date()), tellOfNew(new Date())]);
  expect(await subjects()).toEqual(['Kites: 3 new pictures', 'Look']);
  await takeInMore('h.jpg', 'i.jpg');
  await tellOfNew(new Date());
  expect(await subjects()).toHaveLength(2);
  await settled();
  const [told] = await mailing.box(await keeper());
  expect(told?.text).toContain('“Kites” has 3 new pictures');
  expect(told?.text).not.toContain('/v/');
  const tomorrow = new Date(Date.now() + 25 * 3600 * 1000);
  await tellOfNew(tomorrow);
  expect(await subjects()).toEqual(['Kites: 2 new pictures', 'Kites: 3 new pictures', 'Look']);
  // A link that is revoked tells nothing.
  await takeInMore('j.jpg', 'k.jpg');
  await world.services.viewLinks.revoke([link.linkId], await keeper());
  await tellOfNew(tomorrow);
  expect(await subjects()).toHaveLength(3);
});

let shade = 10;
async function takeInMore(...names: string[]) {
  const drive = await world.addDrive('Vault');
  for (const name of names) await putFiles(drive, { [name]: await realJpeg({}, (shade += 5)) });
  await world.takeIn(drive);
}
