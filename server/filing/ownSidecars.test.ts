import { readdir } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import { planSidecar } from '@stellin/core/metadata/write';
import type { FieldValues } from '@stellin/core/metadata/fields';
import { copyRequest } from '@stellin/contract/copying';
import type { ChangeInput } from '@stellin/contract/ledger';
import { openWorld, putFiles, realJpeg, type World } from '../testing/world';
import { PROGRAM } from '../catalogue/viewer';

// A picture and its raw file with a sidecar each: `name.ext.xmp`, as some programs write them, beside `name.xmp`, which both would share.
let world: World;
let vault: string;
let other: string;
beforeEach(async () => {
  world = await openWorld();
  [vault, other] = [await world.addDrive('Vault'), await world.addDrive('Other')];
  await putFiles(vault, {
    'a.jpg': await realJpeg({}, 20),
    'a.jpg.xmp': titled('Own of the JPEG'),
    'a.gif': await picture(),
    'a.xmp': titled('Shared'),
    'b.gif': await picture(90),
    'b.gif.xmp': titled('Own of the GIF'),
  });
  await putFiles(other, { 'other.jpg': await realJpeg({}, 200) });
  await world.takeIn(vault);
  await world.takeIn(other);
});
afterEach(() => world.close());

const NOW = '2026-11-30T10:00:00Z';
const titled = (title: string) => Buffer.from(planSidecar(undefined, { title }, { now: NOW }));
const picture = (grey = 120) =>
  sharp({ create: { width: 40, height: 30, channels: 3, background: { r: grey, g: grey, b: grey } } })
    .gif()
    .toBuffer();
const names = async (folder: string) => (await readdir(folder)).filter((name) => !name.startsWith('.')).sort();
const ALL = ['a.gif', 'a.jpg', 'a.jpg.xmp', 'a.xmp', 'b.gif', 'b.gif.xmp'];

async function titles(): Promise<Record<string, unknown>> {
  const found = await Promise.all(
    [...(await world.ids())].map(async ([name, id]) => {
      const { fields } = await world.services.photos.find(PROGRAM, id);
      return [name, (fields as FieldValues).title] as const;
    }),
  );
  return Object.fromEntries(found);
}

const driveId = async (label: string) =>
  (await world.services.drives.list(PROGRAM)).find((drive) => drive.label === label)?.id ?? '';
async function does(change: ChangeInput, kind = 'filing') {
  await world.apply(change);
  const job = (await world.services.jobs.list()).find((candidate) => candidate.kind === kind);
  return world.until(job?.id ?? '', ['done']);
}
async function write() {
  const { id } = await world.services.writeBack.run(world.services.jobs, { retryFailed: false }, world.keeperId);
  return world.until(id, ['done']);
}

test('both are read, a file’s own before the shared one, and the one that is there is written', async () => {
  expect(await titles()).toMatchObject({ 'a.jpg': 'Own of the JPEG', 'a.gif': 'Shared', 'b.gif': 'Own of the GIF' });
  await world.apply({
    kind: 'setFields',
    selection: { query: 'drive:Vault' },
    edits: [{ target: 'headline', mode: 'replace', value: 'Kites' }],
  });
  expect((await write()).failures).toBe(0);
  expect(await names(vault)).toEqual(ALL);
  await world.takeIn(vault);
  expect(await world.services.search.all.count('headline:Kites is:written')).toBe(3);
  expect(await titles()).toMatchObject({ 'a.jpg': 'Own of the JPEG', 'a.gif': 'Shared', 'b.gif': 'Own of the GIF' });
});

test('moved, renamed and copied, files take their own sidecars along, and come back with them', async () => {
  await does({
    kind: 'moveFiles',
    selection: { query: 'drive:Vault' },
    driveId: await driveId('Other'),
    folder: 'kept',
  });
  expect(await names(vault)).toEqual([]);
  expect(await names(join(other, 'kept'))).toEqual(ALL);
  await world.services.ledger.undo(world.keeperId);
  await world.eventually(async () => (await names(vault)).length === ALL.length);

  const renamed = await does({ kind: 'renameFiles', selection: { query: 'name:a.jpg' }, pattern: 'kite', start: 1 });
  expect(renamed.failures).toBe(0);
  expect(await names(vault)).toEqual(['a.gif', 'a.xmp', 'b.gif', 'b.gif.xmp', 'kite.jpg', 'kite.jpg.xmp']);
  expect(await titles()).toMatchObject({ 'kite.jpg': 'Own of the JPEG', 'a.gif': 'Shared' });

  await does({ kind: 'copyFiles', selection: { query: 'name:b.gif' }, driveId: await driveId('Other'), folder: '' });
  expect(await names(other)).toEqual(['b.gif', 'b.gif.xmp', 'kept', 'other.jpg']);
});

test('copied from a card they go along under the new name, and are emptied with proof', async () => {
  const card = await world.addDrive('Card');
  await putFiles(card, { 'x.jpg': await realJpeg({}, 60), 'x.jpg.xmp': titled('From the card') });
  await world.services.drives.refresh();
  const keys = new Map((await world.services.drives.list(PROGRAM)).map(({ label, key }) => [label, key]));
  const request = copyRequest.parse({
    driveKey: keys.get('Card'),
    toDriveId: await driveId('Other'),
    toFolder: 'in',
    name: 'Kite_{number}',
    skipKnown: false,
  });
  const { id } = await world.services.copying.start(request, world.keeperId);
  await world.until(id, ['done']);
  const copied = await names(join(other, 'in'));
  expect(copied).toHaveLength(2);
  expect(copied[1]).toBe(`${copied[0]}.xmp`);
  expect(Object.values(await titles())).toContain('From the card');
  const emptying = await world.services.copying.empty(id, world.keeperId);
  expect((await world.until(emptying.id, ['done'])).result).toEqual({ deleted: 1, kept: 0 });
  expect(await names(card)).toEqual([]);
});

test('deleted for good, a file takes its own sidecar along and leaves the shared one to others', async () => {
  await does({ kind: 'trashFiles', selection: { query: 'name:a.jpg or name:b.gif' } });
  expect(await names(vault)).toEqual(['a.gif', 'a.xmp']);
  const { id } = await world.services.filing.emptyTrash(await driveId('Vault'), world.keeperId);
  const done = await world.until(id, ['done']);
  expect(done).toMatchObject({ failures: 0, result: { deleted: 2 } });
  const trash = await readdir(join(vault, '.stellin-trash'), { recursive: true });
  expect(trash.filter((name) => /\.(jpg|gif|xmp)$/.test(name))).toEqual([]);
});
