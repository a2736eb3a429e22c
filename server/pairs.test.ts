// Every pair of works that touch files, the second begun in the middle of the first, on the same photos: each ends, or is refused
// with the reason, and no picture is lost.

import { randomBytes } from 'node:crypto';
import { mkdir, open, readdir, stat } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import type { Job } from '@stellin/contract/jobs';
import { places } from './config';
import { StellinError } from './errors';
import { atFaultPoints } from './files/fault';
import { pictureHash } from './files/pictureHash';
import { openWorld, putFiles, type World } from './testing/world';
import { PROGRAM } from './catalogue/viewer';

/** What a pair works on: two photos in a folder of their own, one in the trash, a damaged one with its copy, two on a card. */
interface Pair {
  folder: string;
  /** Selects the two. */
  query: string;
  copyJobId: string;
  folderId: number;
}

let world: World;
let vault: string;
let ids: { vault: string; other: string };
beforeAll(async () => {
  world = await openWorld();
  vault = await world.addDrive('Vault');
  await world.addDrive('Other');
  await world.services.drives.refresh();
  for (const { key } of await world.services.drives.list(PROGRAM)) await world.services.drives.catalogue(key);
  const byLabel = new Map((await world.services.drives.list(PROGRAM)).map(({ label, id }) => [label, id ?? '']));
  ids = { vault: byLabel.get('Vault') ?? '', other: byLabel.get('Other') ?? '' };
});
afterAll(() => world.close());
afterEach(() => atFaultPoints(undefined));

const ended = async (job: Job | undefined) => {
  if (job) await world.until(job.id, ['done', 'failed']);
};
/** The job that an entry of the ledger has set to work, when it has ended. */
const jobOf = async (kind: string, entryId: number) => {
  for (const job of await world.services.jobs.list())
    if (
      job.kind === kind &&
      ((await world.services.jobs.parametersOf(job.id)) as { entryId?: number }).entryId === entryId
    )
      await ended(job);
};
const selectionOf = ({ query }: Pair) => ({ query, minus: [], plus: [] });
const photoId = async (name: string) =>
  (await world.services.database.row<{ id: number }>('select id from photo where name = $1', [name]))?.id ?? 0;

type Work = (pair: Pair) => Promise<unknown>;

const WORKS: Readonly<Record<string, Work>> = {
  index: async ({ folder }) => {
    const [drive] = (await world.services.drives.list(PROGRAM)).filter(({ label }) => label === 'Vault');
    await ended(await world.services.intake.takeIn({ driveKey: drive?.key ?? '', folder }, world.keeperId));
  },
  write: async (pair) =>
    ended(
      await world.services.writeBack.run(
        world.services.jobs,
        { selection: selectionOf(pair), retryFailed: false },
        world.keeperId,
      ),
    ),
  takeBack: async (pair) =>
    ended(await world.services.writeBack.takeBack(world.services.jobs, selectionOf(pair), world.keeperId)),
  move: async (pair) => {
    const { id } = await world.apply({
      kind: 'moveFiles',
      selection: selectionOf(pair),
      driveId: ids.other,
      folder: `moved ${pair.folder}`,
    });
    await jobOf('filing', id);
  },
  copy: async (pair) => {
    const { id } = await world.apply({
      kind: 'copyFiles',
      selection: selectionOf(pair),
      driveId: ids.other,
      folder: `copied ${pair.folder}`,
    });
    await jobOf('filing', id);
  },
  trash: async (pair) => {
    const { id } = await world.apply({ kind: 'trashFiles', selection: selectionOf(pair) });
    await jobOf('filing', id);
  },
  emptyTrash: async () => ended(await world.services.filing.emptyTrash(ids.vault, world.keeperId)),
  renameFolder: async ({ folder, folderId }) =>
    world.apply({ kind: 'renameFolder', folderId, name: `${folder} renamed` }).then(() => undefined),
  readAgain: async () => ended(await world.services.fixity.readDrive(ids.vault, world.keeperId)),
  putBack: async ({ folder }) => {
    const { id } = await world.apply({
      kind: 'putCopyBack',
      photoId: await photoId(`${folder} damaged.jpg`),
      copyId: await photoId(`${folder} good.jpg`),
    });
    await jobOf('copyBack', id);
  },
  copyIn: async ({ folder }) => ended(await copyIn(folder, `in again ${folder}`)),
  emptySource: async ({ copyJobId }) => ended(await world.services.copying.empty(copyJobId, world.keeperId)),
};

const card = () => join(places.mounts(world.config.home), 'Card');

async function copyIn(folder: string, to: string): Promise<Job> {
  await world.services.drives.refresh();
  const source = (await world.services.drives.list(PROGRAM)).find(({ label }) => label === 'Card');
  return world.services.copying.start(
    {
      driveKey: source?.key ?? '',
      folder,
      subFolders: true,
      toDriveId: ids.vault,
      toFolder: to,
      secondDriveId: null,
      name: '{name}',
      start: 1,
      skipKnown: false,
      templateId: null,
    },
    world.keeperId,
  );
}

/** A picture that no other is like. */
const picture = () =>
  sharp(randomBytes(32 * 32 * 3), { raw: { width: 32, height: 32, channels: 3 } })
    .jpeg()
    .toBuffer();

/** Takes a folder of the vault in. */
async function takeIn(folder: string): Promise<void> {
  await WORKS['index']?.({ folder, query: '', copyJobId: '', folderId: 0 });
}

/** Prepares what two works need. */
async function prepare(name: string, works: readonly string[]): Promise<Pair> {
  const needs = new Set(works);
  const [a, b, trashed, healed] = await Promise.all([picture(), picture(), picture(), picture()]);
  await putFiles(vault, {
    [`${name}/${name} a.jpg`]: a,
    [`${name}/${name} b.jpg`]: b,
    [`${name}/${name} trashed.jpg`]: trashed,
    [`${name}/${name} damaged.jpg`]: healed,
    ...(needs.has('putBack') && { [`copies ${name}/${name} good.jpg`]: healed }),
  });
  await takeIn(name);
  const pair = { folder: name, query: `name:"${name} a.jpg" or name:"${name} b.jpg"`, copyJobId: '', folderId: 0 };
  if (needs.has('copyIn') || needs.has('emptySource')) {
    await putFiles(card(), { [`${name}/${name} c.jpg`]: await picture(), [`${name}/${name} d.jpg`]: await picture() });
    const copied = await copyIn(name, `in ${name}`);
    await ended(copied);
    pair.copyJobId = copied.id;
  }
  if (needs.has('emptyTrash')) await WORKS['trash']?.({ ...pair, query: `name:"${name} trashed.jpg"` });
  if (needs.has('takeBack')) {
    await world.apply({ kind: 'setRating', selection: selectionOf(pair), rating: 2 });
    await WORKS['write']?.(pair);
  }
  // Something that waits to be written, and something that has changed.
  await world.apply({ kind: 'setRating', selection: selectionOf(pair), rating: 4 });
  const damaged = join(vault, name, `${name} damaged.jpg`);
  const file = await open(damaged, 'r+');
  await file.write(Buffer.from([1, 2, 3]), 0, 3, (await stat(damaged)).size - 20);
  await file.close();
  if (needs.has('putBack')) {
    await takeIn(`copies ${name}`);
    await world.services.database.rows('update photo set fixity = 4 where name = $1', [`${name} damaged.jpg`]);
  }
  const folder = await world.services.database.row<{ id: number }>(
    'select id from folder where drive_id = $1 and path = $2',
    [ids.vault, name],
  );
  return { ...pair, folderId: folder?.id ?? 0 };
}

interface Found {
  name: string;
  path: string;
  drive: string;
  rating: number;
  missing: boolean;
  hash: string | null;
}

/** What the catalogue says of the photos of a pair. */
const photosOf = (name: string) =>
  world.services.database.rows<Found>(
    `select p.name, ltrim(f.path || '/' || p.name, '/') as path, d.mount_point as drive, p.rating, p.missing_since is not null as missing,
       encode(p.picture_hash, 'hex') as hash
     from photo p join folder f on f.id = p.folder_id join drive d on d.id = p.drive_id where p.name like $1 || ' %' order by p.name, p.id`,
    [name],
  );

const names = Object.keys(WORKS);
const PAIRS = names.flatMap((first, i) => names.slice(i).map((second) => [first, second] as const));

test.each(PAIRS)('%s and %s at once', async (first, second) => {
  const name = `${first} ${second}`;
  const pair = await prepare(name, [first, second]);
  let other: Promise<unknown> | undefined;
  atFaultPoints(() => {
    other ??= WORKS[second]?.(pair).catch((error: unknown) => error);
  });
  const problems = [await WORKS[first]?.(pair).catch((error: unknown) => error), await other].filter(
    (problem) => problem !== undefined,
  );
  expect(other).toBeDefined();
  // A refusal says why.
  for (const problem of problems) expect(problem).toBeInstanceOf(StellinError);
  atFaultPoints(undefined);

  const found = await photosOf(name);
  // What was trashed may have been emptied.
  const mayGo = first === 'trash' && second === 'emptyTrash';
  for (const each of mayGo ? [] : ['a', 'b']) {
    const photo = found.find((one) => one.name === `${name} ${each}.jpg`);
    expect(photo).toMatchObject({ rating: 4, missing: false });
  }
  const gone = new Set([`${name} trashed.jpg`]);
  for (const { path, drive, missing, hash, name: file } of found) {
    if (missing && gone.has(file)) continue;
    // What the catalogue says is where it says, and holds the picture.
    expect([path, missing]).toEqual([path, false]);
    const now = pictureHash(join(drive, path)).toString('hex');
    if (!file.endsWith('damaged.jpg')) expect([path, now]).toEqual([path, hash]);
  }
  const good = found.find(({ name: file }) => file.endsWith('good.jpg'));
  const healed = found.find(({ name: file }) => file.endsWith('damaged.jpg'));
  if (first === 'putBack' || (second === 'putBack' && problems.length === 0))
    expect(pictureHash(join(healed?.drive ?? '', healed?.path ?? '')).toString('hex')).toBe(good?.hash);
});

test('afterwards the catalogue and the drives say the same, and nothing is left behind', async () => {
  await mkdir(card(), { recursive: true });
  for (const label of ['Vault', 'Other']) {
    const drive = (await world.services.drives.list(PROGRAM)).find((one) => one.label === label);
    const { result } = await world.takeIn(drive?.mountPoint ?? '');
    // What the drive has and the catalogue did not know.
    const unknown = await world.services.database.rows(
      'select f.path, p.name from photo p join folder f on f.id = p.folder_id where p.accession_id = (select max(id) from accession)',
    );
    expect([label, result, unknown]).toMatchObject([label, { new: 0, missing: 0, moved: 0 }, []]);
    const left = (await readdir(drive?.mountPoint ?? '', { recursive: true })).filter((name) =>
      /stellin-(part|write)/.test(name),
    );
    expect(left).toEqual([]);
  }
  expect(await world.services.database.rows('select 1 from write_journal')).toEqual([]);
  expect(await world.services.database.rows('select 1 from filing_step')).toEqual([]);
  expect(await world.services.database.rows('select 1 from copy_back')).toEqual([]);
});
