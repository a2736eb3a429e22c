import { change as changeSchema, type ChangeInput } from '@stellin/contract/ledger';
import { openWorld, putFiles, realJpeg, type World } from '../testing/world';
import { largeChanges, type LargeChanges } from './large';
import type { Person } from '../catalogue/viewer';

const PHOTOS = 60;
let world: World;
let keeper: Person;
let large: LargeChanges;
const count = (query: string) => world.services.search.all.count(query);
const set = (value: string): ChangeInput => ({
  kind: 'setFields',
  selection: { query: 'name:*' },
  edits: [{ target: 'headline', mode: 'replace', value }],
});

beforeEach(async () => {
  // The tests hold one themselves.
  world = await openWorld({ connections: 2 });
  const drive = await world.addDrive('Vault');
  const bytes = await realJpeg();
  await putFiles(drive, Object.fromEntries(Array.from({ length: PHOTOS }, (_, i) => [`${i}.jpg`, bytes])));
  await world.takeIn(drive);
  const { ledger, search, jobs } = world.services;
  large = largeChanges(
    ledger,
    async (change, viewer) =>
      'selection' in change && change.selection ? search.seenBy(viewer).countSelection(change.selection) : 0,
    jobs,
    20,
  );
  keeper = await world.services.rights.personOf(world.keeperId);
});
afterEach(() => world.close());

test('a change of many photos is made by a job with progress, and undone by one', async () => {
  const applied = await large.apply(changeSchema.parse(set('Many')), keeper);
  expect(applied).toMatchObject({ entry: null, job: { title: `Change ${PHOTOS} photos` } });
  const job = await world.until(applied.job?.id ?? '', ['done']);
  expect(job.result).toEqual({ photos: PHOTOS, title: `Set “Headline”: ${PHOTOS} photos` });
  expect(await count('headline:Many')).toBe(PHOTOS);
  const undone = await large.undo(world.keeperId);
  expect(undone.job?.title).toBe(`Undo: Set “Headline”: ${PHOTOS} photos`);
  await world.until(undone.job?.id ?? '', ['done']);
  expect(await count('headline:Many')).toBe(0);
  await world.until((await large.redo(world.keeperId)).job?.id ?? '', ['done']);
  expect(await count('headline:Many')).toBe(PHOTOS);
});

test('few photos are changed at once', async () => {
  const change = changeSchema.parse({ ...set('Few'), selection: { query: 'name:1.jpg' } });
  expect(await large.apply(change, keeper)).toMatchObject({ entry: { photos: 1 }, job: null });
});

test('a job that is cancelled while a statement waits gives the change up as a whole', async () => {
  const { database, jobs } = world.services;
  let release: () => void = () => undefined;
  const held = new Promise<void>((resolve) => (release = resolve));
  // Somebody else holds one of the photos.
  const holding = database.transaction(async (tx) => {
    await database.rows(
      `select 1 from photo_text where photo_id = (select max(photo_id) from photo_text) for update`,
      [],
      tx,
    );
    await held;
  });
  const { job } = await large.apply(changeSchema.parse(set('Never')), keeper);
  await world.until(job?.id ?? '', ['running']);
  await jobs.control(job?.id ?? '', 'cancel');
  await world.until(job?.id ?? '', ['cancelled']);
  release();
  await holding;
  expect(await count('headline:Never')).toBe(0);
  expect(await database.rows('select 1 from ledger_entry where job_id = $1', [job?.id])).toEqual([]);
  expect(await count('is:waiting')).toBe(0);
});

test('a job whose change would do nothing says so', async () => {
  await world.apply(set('Same'));
  const { job } = await large.apply(changeSchema.parse(set('Same')), keeper);
  await world.eventually(async () => (await world.services.jobs.find(job?.id ?? '')).state === 'failed');
  expect((await world.services.jobs.find(job?.id ?? '')).current).toContain('Nothing would change');
});
