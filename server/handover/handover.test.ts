import { chmod, mkdir, readdir, readFile, rm, stat, symlink, writeFile } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import sharp from 'sharp';
import { memorySource } from '@stellin/core/metadata/bytes';
import { assemble } from '@stellin/core/metadata/pieces';
import { planWrite, type FieldChanges } from '@stellin/core/metadata/write';
import { copySettings, type CopySettings } from '@stellin/contract/delivering';
import { returnedPicturePath } from '@stellin/contract/handover';
import { openWorld, PASSWORDS, putFiles, realJpeg, startWorker, type World } from '../testing/world';
import { retouch } from './standIns/otherProgram';

const NOW = '2031-05-04T10:00:00Z';

let world: World;
let vault: string;
beforeEach(async () => {
  world = await openWorld();
  vault = await world.addDrive('Vault');
  await putFiles(vault, {
    'July/kite.jpg': await realJpeg(
      { headline: 'Dunes', description: 'A kite', creator: ['Tomas Rehak'], keywords: ['beach'] },
      20,
    ),
    'July/box.jpg': await realJpeg({ headline: 'Box' }, 90),
    'c.jpg': await realJpeg({ headline: 'Secret' }, 200),
  });
  await world.takeIn(vault);
});
afterEach(() => world.close());

const keeper = () => world.services.rights.personOf(world.keeperId);
const photoId = async (name: string) =>
  (await world.services.database.row<{ id: number }>('select id from photo where name = $1', [name]))?.id ?? 0;

/** Hands photos over; gives the delivery and its folder. */
async function handOver(settings: Partial<CopySettings> = {}, program = '', query = 'drive:Vault') {
  const { id, job } = await world.services.deliveries.deliver(
    {
      selection: { query, minus: [], plus: [] },
      sort: 'name',
      settings: copySettings.parse({ format: 'original', folders: 'mirror', ...settings }),
      presetId: null,
      recipient: 'the retoucher',
      reason: '',
      target: { kind: 'handover', program },
    },
    await keeper(),
  );
  await world.until(job?.id ?? '', ['done']);
  const shown = await world.services.deliveries.show(id, await keeper());
  return { id, shown, folder: shown.handover?.folder ?? '' };
}
const returned = async (id: string) =>
  (await world.services.handovers.returned(id, { offset: 0, limit: 50 }, await keeper())).files;
const take = async (id: string, ids: number[] | null = null) => {
  for (const job of await world.services.handovers.take(id, ids, await keeper())) await world.until(job.id, ['done']);
};
const said = async (photo: number) => {
  const row = await world.services.database.row<{ fields: Record<string, unknown> }>(
    'select fields from photo_text where photo_id = $1',
    [photo],
  );
  return row?.fields ?? {};
};
async function change(path: string, changes: FieldChanges): Promise<void> {
  const source = memorySource(await readFile(path));
  await writeFile(path, assemble(source, planWrite(source, changes, { now: NOW, iim: 'always' }).pieces));
}
const pathsIn = async (folder: string) =>
  (await readdir(folder, { recursive: true, withFileTypes: true }))
    .filter((entry) => entry.isFile() && !entry.name.startsWith('.'))
    .map(({ name }) => name)
    .sort();

test('what goes out lies in a folder of its own, and nothing has come back yet', async () => {
  const { id, shown, folder } = await handOver({ sidecars: true });
  expect(shown).toMatchObject({
    written: 3,
    target: 'the folder of handovers',
    handover: { back: 0, waiting: 0, closed: false },
  });
  expect(await pathsIn(folder)).toEqual(['box.jpg', 'box.xmp', 'c.jpg', 'c.xmp', 'kite.jpg', 'kite.xmp']);
  expect(await world.services.handovers.look(id)).toMatchObject({ back: 0, waiting: 0 });
  expect(await returned(id)).toEqual([]);
});

test('a picture that comes back becomes a derivative in the bundle of its original, and says what that says', async () => {
  const kite = await photoId('kite.jpg');
  await world.apply({ kind: 'addTerms', parentId: null, terms: [{ label: 'Kites' }] });
  const ids = (await world.services.database.rows<{ id: number }>('select id from term')).map((term) => term.id);
  await world.apply({ kind: 'giveTerms', selection: { query: 'name:kite.jpg' }, termIds: ids });
  await world.apply({ kind: 'setRating', selection: { query: 'name:kite.jpg' }, rating: 4 });
  const { id, folder } = await handOver();
  const tiff = await sharp(join(folder, 'July/kite.jpg')).tiff().toBuffer();
  await writeFile(join(folder, 'July/kite-edited.tif'), tiff);
  expect(await world.services.handovers.look(id)).toMatchObject({ back: 1, waiting: 1 });
  expect(await returned(id)).toMatchObject([
    {
      path: 'July/kite-edited.tif',
      kind: 'picture',
      original: { photoId: kite },
      goesTo: 'Vault/July',
      fields: [],
      problem: null,
    },
  ]);
  await take(id);
  const made = await photoId('kite-edited.tif');
  expect(await readFile(join(vault, 'July/kite-edited.tif'))).toEqual(tiff);
  expect(await said(made)).toMatchObject({
    headline: 'Dunes',
    description: 'A kite',
    creator: ['Tomas Rehak'],
  });
  const rows = await world.services.database.rows(
    `select p.id, p.rating, p.leads, p.folded_into as "into", p.bundle is not null as bundled, array(select term_id from photo_term where photo_id = p.id) as terms,
       array(select keyword from photo_keyword where photo_id = p.id) as keywords from photo p where p.id = any($1) order by p.id`,
    [[kite, made]],
  );
  expect(rows).toEqual([
    { id: kite, rating: 4, leads: true, into: null, bundled: true, terms: ids, keywords: ['beach'] },
    { id: made, rating: 4, leads: false, into: kite, bundled: true, terms: ids, keywords: ['beach'] },
  ]);
  expect(await world.services.deliveries.show(id, await keeper())).toMatchObject({ handover: { back: 1, waiting: 0 } });
  expect(await returned(id)).toMatchObject([{ state: 'taken', photoId: made }]);
});

test('taking it back puts the picture into the trash, and it waits again; once more it comes in as before', async () => {
  const { id, folder } = await handOver();
  await writeFile(join(folder, 'July/kite 2.tif'), await sharp(join(folder, 'July/kite.jpg')).tiff().toBuffer());
  await world.services.handovers.look(id);
  await take(id);
  const made = await photoId('kite 2.tif');
  await world.services.ledger.undo(world.keeperId);
  await world.eventually(async () => (await pathsIn(join(vault, 'July'))).length === 2);
  expect(
    await world.services.database.row('select trashed_from as "from", bundle from photo where id = $1', [made]),
  ).toEqual({ from: 'July', bundle: null });
  expect(await returned(id)).toMatchObject([{ state: 'waiting', photoId: null }]);
  await take(id);
  expect((await stat(join(vault, 'July/kite 2.tif'))).size).toBeGreaterThan(0);
  expect(await returned(id)).toMatchObject([{ state: 'taken' }]);
});

test('words that came back change what is said of the original: what both sides changed goes together, shown before', async () => {
  const kite = await photoId('kite.jpg');
  const { id, folder } = await handOver();
  const path = join(folder, 'July/kite.jpg');
  await change(path, { headline: 'Dunes by night', keywords: ['beach', 'night'], rating: 3 });
  await world.apply({
    kind: 'setFields',
    selection: { query: 'name:kite.jpg' },
    edits: [{ target: 'description', mode: 'replace', value: 'A red kite' }],
  });
  await world.services.handovers.look(id);
  const [file] = await returned(id);
  expect(file).toMatchObject({ kind: 'words', original: { photoId: kite }, goesTo: null, contested: [] });
  expect(file?.fields.map(({ field, before, after }) => [field, before, after])).toEqual([
    ['headline', 'Dunes', 'Dunes by night'],
    ['keywords', [], ['night']],
    ['rating', 0, 3],
  ]);
  await take(id);
  expect(await said(kite)).toMatchObject({ headline: 'Dunes by night', description: 'A red kite' });
  expect(
    await world.services.database.row(
      'select rating, array(select keyword from photo_keyword where photo_id = p.id order by keyword) as keywords from photo p where id = $1',
      [kite],
    ),
  ).toEqual({ rating: 3, keywords: ['beach', 'night'] });
  await world.services.ledger.undo(world.keeperId);
  expect(await said(kite)).toMatchObject({ headline: 'Dunes', description: 'A red kite' });
});

test('what was changed on both sides is named, and what came back stands; a sidecar says also what was taken out', async () => {
  const { id, folder } = await handOver({ sidecars: true });
  await retouch([join(folder, 'July/kite.jpg')], NOW);
  await rm(join(folder, 'July/kite retouched.tif'));
  await world.apply({
    kind: 'setFields',
    selection: { query: 'name:kite.jpg' },
    edits: [{ target: 'headline', mode: 'replace', value: 'Evening' }],
  });
  await world.services.handovers.look(id);
  const [file] = await returned(id);
  expect(file).toMatchObject({ kind: 'words', contested: ['Headline'] });
  await take(id, [file?.id ?? 0]);
  expect(await said(await photoId('kite.jpg'))).toMatchObject({
    headline: 'Dunes (retouched)',
    creator: ['Tomas Rehak'],
  });
});

test('a picture that was saved over itself does not replace its original: it comes beside it', async () => {
  const { id, folder } = await handOver();
  const path = join(folder, 'July/kite.jpg');
  const before = await readFile(join(vault, 'July/kite.jpg'));
  await writeFile(path, await sharp(path).negate().jpeg().toBuffer());
  await world.services.handovers.look(id);
  await take(id);
  expect(await readFile(join(vault, 'July/kite.jpg'))).toEqual(before);
  expect(await pathsIn(join(vault, 'July'))).toEqual(['box.jpg', 'kite-2.jpg', 'kite.jpg']);
  expect(await said(await photoId('kite-2.jpg'))).toMatchObject({ headline: 'Dunes' });
});

test('a picture of what has become private is private', async () => {
  const { id, folder } = await handOver();
  await writeFile(join(folder, 'c-light.tif'), await sharp(join(folder, 'c.jpg')).tiff().toBuffer());
  await world.apply({ kind: 'setPrivate', selection: { query: 'name:c.jpg' }, private: true });
  await world.services.handovers.look(id);
  await take(id);
  expect(await world.services.database.row(`select private from photo where name = 'c-light.tif'`)).toEqual({
    private: true,
  });
});

test('what belongs to no photo, is broken or only half written waits with the reason, or is not there yet', async () => {
  const { id, folder } = await handOver();
  await putFiles(folder, { 'other.jpg': await realJpeg(), 'July/kite-broken.tif': new Uint8Array([1, 2, 3]) });
  await world.services.handovers.look(id);
  const problems = (await returned(id)).map(({ path, problem }) => [path, problem]);
  expect(problems).toEqual([
    ['July/kite-broken.tif', expect.stringContaining('there is no picture in it')],
    ['other.jpg', expect.stringContaining('can’t be told by its name')],
  ]);
  await expect(take(id)).rejects.toThrow('Nothing of that can be taken in');
  await rm(join(folder, 'other.jpg'));
  await world.services.handovers.look(id);
  expect((await returned(id)).map(({ path }) => path)).toEqual(['July/kite-broken.tif']);
});

test('a link that leads out of the folder is no file that came back', async () => {
  const { id, folder } = await handOver();
  await symlink(join(vault, 'c.jpg'), join(folder, 'c-linked.jpg'));
  expect(await world.services.handovers.look(id)).toMatchObject({ back: 0 });
});

test('a handover ends when nothing waits: what is known goes, what nobody took stays', async () => {
  const { id, folder } = await handOver({ sidecars: true });
  await writeFile(join(folder, 'July/kite-a.tif'), await sharp(join(folder, 'July/kite.jpg')).tiff().toBuffer());
  await writeFile(join(folder, 'July/box-a.tif'), await sharp(join(folder, 'July/box.jpg')).tiff().toBuffer());
  await expect(world.services.handovers.end(id)).rejects.toThrow('2 files that came back wait');
  const [box, kite] = await returned(id);
  await take(id, [kite?.id ?? 0]);
  await world.services.handovers.leave(id, [box?.id ?? 0]);
  expect(await world.services.handovers.end(id)).toEqual({ removed: 7, kept: 1 });
  expect(await pathsIn(folder)).toEqual(['box-a.tif']);
  expect(await world.services.deliveries.show(id, await keeper())).toMatchObject({ handover: { closed: true } });
});

test('a picture waits for the drive of its original', async () => {
  const { id, folder } = await handOver();
  await writeFile(join(folder, 'July/kite-a.tif'), await sharp(join(folder, 'July/kite.jpg')).tiff().toBuffer());
  await world.services.handovers.look(id);
  const away = await world.unplug(vault);
  const [job] = await world.services.handovers.take(id, null, await keeper());
  await world.until(job?.id ?? '', ['waiting']);
  await world.plugIn(away, 'Slot B');
  await world.until(job?.id ?? '', ['done']);
  expect(await returned(id)).toMatchObject([{ state: 'taken' }]);
});

test.each(['file:moved', 'file:recorded'] as const)(
  'a process that is killed at %s while it takes in: the next one goes on, and nothing is there twice',
  async (fault) => {
    const { id, folder } = await handOver();
    for (const name of ['July/kite', 'July/box', 'c'])
      await writeFile(
        join(folder, `${name}-a.tif`),
        await sharp(join(folder, `${name}.jpg`))
          .tiff()
          .toBuffer(),
      );
    await world.services.handovers.look(id);
    await world.rest();
    const [job] = await world.services.handovers.take(id, null, await keeper());
    await startWorker(world, fault).ended;
    await world.services.start();
    await world.until(job?.id ?? '', ['done']);
    expect(await pathsIn(vault)).toEqual(['box-a.tif', 'box.jpg', 'c-a.tif', 'c.jpg', 'kite-a.tif', 'kite.jpg']);
    expect((await returned(id)).map(({ state }) => state)).toEqual(['taken', 'taken', 'taken']);
    expect(await said(await photoId('kite-a.tif'))).toMatchObject({ headline: 'Dunes' });
  },
);

describe('programs', () => {
  const program = async (name: string, script: string) => {
    const path = join(world.services.config.home, 'programs', name);
    await mkdir(dirname(path), { recursive: true });
    await writeFile(path, script);
    await chmod(path, 0o755);
  };
  const outcome = async (id: string) => {
    const now = async () => (await world.services.deliveries.show(id, await keeper())).handover?.outcome ?? null;
    await world.eventually(async () => (await now()) !== null);
    return now();
  };

  test('a program is started with the files, whatever they are called, and none of it is read by a shell', async () => {
    await putFiles(vault, { 'a $(touch stolen) "b.jpg': await realJpeg({}, 77) });
    await world.takeIn(vault);
    await program('Note them', '#!/bin/sh\nprintf "%s\\n" "$@" > given.txt\n');
    expect(await world.services.handovers.programs()).toMatchObject({ programs: ['Note them'] });
    const { id, folder } = await handOver({ name: '{name}' }, 'Note them');
    expect(await outcome(id)).toBe('has ended');
    expect((await readFile(join(folder, 'given.txt'), 'utf8')).trim().split('\n').sort()).toEqual(
      (await pathsIn(folder))
        .filter((name) => name.endsWith('.jpg'))
        .map((name) => join(folder, ['kite.jpg', 'box.jpg'].includes(name) ? 'July' : '', name))
        .sort(),
    );
    await expect(stat(join(folder, 'stolen'))).rejects.toThrow('ENOENT');
  });

  test('what goes wrong in it is said', async () => {
    await program('Fail', '#!/bin/sh\necho no licence >&2\nexit 3\n');
    const { id } = await handOver({}, 'Fail');
    expect(await outcome(id)).toBe('ended with an error (3): no licence');
  });

  test('only who administers starts one, and only one of those that are there', async () => {
    await program('Note them', '#!/bin/sh\n');
    const request = {
      selection: { query: 'drive:Vault', minus: [], plus: [] },
      sort: 'name' as const,
      settings: copySettings.parse({}),
      presetId: null,
      recipient: '',
      reason: '',
    };
    const by = (person: Awaited<ReturnType<typeof keeper>>, name: string) =>
      world.services.deliveries.deliver({ ...request, target: { kind: 'handover', program: name } }, person);
    const { id: cataloguer } = (await world.services.database.row<{ id: number }>(
      `select id from account where name = 'cataloguer'`,
    )) ?? { id: 0 };
    await expect(by(await world.services.rights.personOf(cataloguer), 'Note them')).rejects.toThrow('may not do this');
    await expect(by(await keeper(), '../../bin/sh')).rejects.toThrow('There is no program');
  });
});

test('over HTTP: who may handle files sees what came back, others do not', async () => {
  const { id, folder } = await handOver();
  await writeFile(join(folder, 'July/kite-a.tif'), await sharp(join(folder, 'July/kite.jpg')).tiff().toBuffer());
  await world.services.handovers.look(id);
  const [file] = await returned(id);
  const ask = async (name: 'keeper' | 'viewer') => {
    const payload = { name, password: PASSWORDS[name] };
    const { headers } = await world.app.inject({ method: 'POST', url: '/api/session', payload });
    const cookie = String(headers['set-cookie']).split(';')[0] ?? '';
    return world.app.inject({ url: returnedPicturePath(id, file?.id ?? 0), headers: { cookie } });
  };
  const shown = await ask('keeper');
  expect(shown.headers['content-type']).toBe('image/jpeg');
  expect((await sharp(shown.rawPayload).metadata()).format).toBe('jpeg');
  expect((await ask('viewer')).statusCode).toBe(403);
});
