import { mkdir, mkdtemp, readdir, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { realJpeg } from '../testing/world';
import { makeState, recordDisk } from '../testing/tornDisk';
import type { WriteRequest } from './planWrite';

// Loaded once the calls they use are recorded.
const files = async () => ({
  ...(await import('./writeBatch')),
  ...(await import('./journal')),
  ...(await import('./relocate')),
  ...(await import('./exchange')),
  ...(await import('./planWrite')),
  ...(await import('./carryOut')),
  ...(await import('./takeBack')),
});

let root: string;
beforeEach(async () => {
  root = await mkdtemp(join(tmpdir(), 'stellin-torn-'));
  for (const drive of ['near', 'far', 'data']) await mkdir(join(root, drive));
});
afterEach(() => rm(root, { recursive: true, force: true }));

const near = (name: string) => join(root, 'near', name);
const far = (name: string) => join(root, 'far', name);
const journals = () => join(root, 'data', 'journals');
const read = (path: string) => readFile(path).catch(() => undefined);
const namesIn = async (folder: string) =>
  (await readdir(join(root, folder)).catch(() => [] as string[])).filter((name) => name !== 'journals').sort();

/** Does something, and then for every state that a power cut on the way could have left: makes it, and checks it. */
async function cutEverywhere(
  operate: () => Promise<unknown>,
  check: (where: string) => Promise<void>,
): Promise<number> {
  const recording = recordDisk(root);
  try {
    await operate();
  } finally {
    recording.stop();
  }
  let states = 0;
  for (let step = 0; step <= recording.steps; step++)
    for (const state of recording.statesAt(step)) {
      await makeState(root, state);
      await check(
        `before step ${step} of ${recording.steps}: ${[...state].map(([path, { length }]) => `${path} (${length})`).join(', ')}`,
      );
      states++;
    }
  return states;
}

/** Sorts out what journals say, as a process that starts does: their owner is no more. */
async function recover(): Promise<void> {
  const { recoverFileJournals } = await files();
  for (const name of await readdir(journals()).catch(() => []))
    await rename(join(journals(), name), join(journals(), name.replace(/^\d+/, '999999999')));
  const found = recoverFileJournals(journals());
  expect(found.filter(({ settled }) => typeof settled !== 'string')).toEqual([]);
}

const request = (changes: WriteRequest['changes'], more: Partial<WriteRequest> = {}): WriteRequest => ({
  path: near('a.jpg'),
  changes,
  options: { now: '2026-03-01T10:00:00Z' },
  keepTimes: false,
  ...more,
});

const write = async (asked: WriteRequest) => {
  const { writeBatch } = await files();
  const [result] = await writeBatch(journals(), [asked]);
  if (!result?.ok) throw new Error(result?.message);
  return result.files.map(({ way }) => way);
};

test.each<[way: string, WriteRequest['changes'], Partial<WriteRequest>, target: string]>([
  ['anew', { description: 'A kite over the dunes, seen from the pier. '.repeat(400) }, {}, 'a.jpg'],
  ['in place', { rating: 4 }, {}, 'a.jpg'],
  ['new sidecar', { headline: 'Noon' }, { sidecarOnly: true }, 'a.xmp'],
])('a write %s leaves the old file or the new one wherever the power goes', async (way, changes, more, target) => {
  await writeFile(near('a.jpg'), await realJpeg({ rating: 2, headline: 'Dunes' }));
  const [old, oldTarget] = [await readFile(near('a.jpg')), await read(near(target))];
  let ways: string[] = [];
  let made: Buffer | undefined;
  const states = await cutEverywhere(
    async () => {
      ways = await write(request(changes, more));
      made = await read(near(target));
    },
    async (where) => {
      await recover();
      const now = await read(near(target));
      expect([
        where,
        [oldTarget, made].some((one) => one?.equals(now ?? Buffer.alloc(0)) ?? now === undefined),
      ]).toEqual([where, true]);
      if (target !== 'a.jpg') expect((await readFile(near('a.jpg'))).equals(old)).toBe(true);
      expect([where, await namesIn('near')]).toEqual([
        where,
        now && target !== 'a.jpg' ? ['a.jpg', target] : ['a.jpg'],
      ]);
    },
  );
  expect(ways).toEqual([way]);
  expect(states).toBeGreaterThan(10);
});

test('taking a write back leaves the written file or the one before', async () => {
  await writeFile(near('a.jpg'), await realJpeg({ rating: 2 }));
  const { planFiles, versionOf, planTakeBack, carryOut, openFileJournal, journalEntryOf } = await files();
  const plan = planFiles(request({ description: 'Long. '.repeat(900) }));
  const versions = plan.files.map(versionOf);
  const before = await readFile(near('a.jpg'));
  await carryOut([plan]);
  const written = await readFile(near('a.jpg'));
  await cutEverywhere(
    async () => {
      const back = planTakeBack(near('a.jpg'), versions);
      const journal = openFileJournal(journals(), back.files.map(journalEntryOf));
      const [result] = await carryOut([back]);
      expect(result?.ok).toBe(true);
      journal.close();
    },
    async (where) => {
      await recover();
      const now = await readFile(near('a.jpg'));
      expect([where, now.equals(before) || now.equals(written)]).toEqual([where, true]);
      expect(await namesIn('near')).toEqual(['a.jpg']);
    },
  );
});

test.each([
  ['moved within a drive', 'near/moved/a.jpg', false],
  ['moved to another drive', 'far/a.jpg', false],
  ['copied', 'far/a.jpg', true],
])('a file that is %s is whole at one end at least, and the same call goes on', async (_, place, copies) => {
  const target = join(root, place);
  await mkdir(near('moved'));
  await writeFile(near('a.jpg'), await realJpeg({ headline: 'Dunes' }));
  const bytes = await readFile(near('a.jpg'));
  const { relocate } = await files();
  const move = () => relocate([{ from: near('a.jpg'), to: target, copies, mayStand: true, sizeBytes: bytes.length }]);
  await cutEverywhere(move, async (where) => {
    await mkdir(near('moved'), { recursive: true });
    await mkdir(join(root, 'far'), { recursive: true });
    const ends = [await read(near('a.jpg')), await read(target)];
    expect([where, ends.some((end) => end?.equals(bytes))]).toEqual([where, true]);
    if (copies) expect(ends[0]?.equals(bytes)).toBe(true);
    await move();
    expect([where, (await readFile(target)).equals(bytes)]).toEqual([where, true]);
    expect(await read(near('a.jpg'))).toEqual(copies ? bytes : undefined);
  });
});

test('copying in leaves the source as it is, and never a part of it under the name of the copy', async () => {
  await writeFile(near('a.jpg'), await realJpeg({ headline: 'Dunes' }));
  const bytes = await readFile(near('a.jpg'));
  const { copyFileProven } = await files();
  await cutEverywhere(
    () => copyFileProven(near('a.jpg'), far('a.jpg')),
    async (where) => {
      expect((await readFile(near('a.jpg'))).equals(bytes)).toBe(true);
      const copy = await read(far('a.jpg'));
      expect([where, copy === undefined || copy.length === 0 || copy.equals(bytes)]).toEqual([where, true]);
    },
  );
});

test('a good copy that is put back: the damaged file and the good one are whole all the time', async () => {
  await writeFile(near('a.jpg'), 'the damaged one');
  await writeFile(far('copy.jpg'), 'the good one');
  const kept = near('.stellin-kept');
  const { exchange, keepGoodCopy } = await files();
  const putBack = async () => {
    await mkdir(kept, { recursive: true });
    await keepGoodCopy(far('copy.jpg'), kept);
    await exchange({ path: near('a.jpg'), kept, comes: 'good' });
  };
  await cutEverywhere(putBack, async (where) => {
    const texts = async (...paths: string[]) => (await Promise.all(paths.map(read))).map((bytes) => bytes?.toString());
    expect([where, await texts(near('a.jpg'), join(kept, 'damaged'))]).toEqual([
      where,
      expect.arrayContaining(['the damaged one']),
    ]);
    await putBack();
    expect([where, await texts(near('a.jpg'), join(kept, 'damaged'), join(kept, 'good'))]).toEqual([
      where,
      ['the good one', 'the damaged one', undefined],
    ]);
  });
});
