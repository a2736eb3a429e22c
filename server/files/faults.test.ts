// Works on files on a drive that fails at any call, that another program writes to at any moment, and whose power goes at any
// moment: a file is the old one or the new one, and what was cut off can be gone on with.

import { readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { mkdir, mkdtemp, readdir, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join, relative } from 'node:path';
import { interceptDisk, systemError } from '../testing/diskCalls';
import { makeState, recordDisk } from '../testing/tornDisk';
import { realJpeg } from '../testing/world';
import { carryOut } from './carryOut';
import { exchange, keepGoodCopy } from './exchange';
import { journalEntryOf, openFileJournal, recoverFileJournals } from './journal';
import { planFiles, type WriteRequest } from './planWrite';
import { copyFileProven, relocate } from './relocate';
import { planTakeBack, versionOf, type KeptVersion } from './takeBack';
import { writeBatch } from './writeBatch';

let root: string;
beforeEach(async () => {
  root = await mkdtemp(join(tmpdir(), 'stellin-faults-'));
  for (const drive of ['near', 'far', 'data/journals']) await mkdir(join(root, drive), { recursive: true });
});
afterEach(() => rm(root, { recursive: true, force: true }));

const near = (name: string) => join(root, 'near', name);
const far = (name: string) => join(root, 'far', name);
const journals = () => join(root, 'data', 'journals');
const read = (path: string) => readFile(path).catch(() => undefined);
const texts = async (...paths: string[]) => (await Promise.all(paths.map(read))).map((bytes) => bytes?.toString());

/** A work on files: what it does, and what has to hold wherever it was cut off. */
interface Work {
  prepare(): Promise<void>;
  operate(): Promise<unknown>;
  /** What a process that starts anew does first. */
  recover(): Promise<void>;
  /** Every file is whole, before anything is done again. */
  requireWhole(where: string): Promise<void>;
  /** Done again it ends as it should. */
  again(where: string): Promise<void>;
  /** Folders that have to be there, besides those of the drives. */
  folders?: () => Promise<void>;
  /** A file that another program may write meanwhile, if what it wrote is not to be lost. */
  foreign?: () => string;
}

const none = () => Promise.resolve();

/** Sorts out what journals say, as a process that starts does: their owner is no more. */
async function recover(): Promise<void> {
  for (const name of await readdir(journals()).catch(() => []))
    await rename(join(journals(), name), join(journals(), name.replace(/^\d+/, '999999999')));
  const found = recoverFileJournals(journals());
  expect(found.filter(({ settled }) => typeof settled !== 'string')).toEqual([]);
}

function write(changes: WriteRequest['changes'], more: Partial<WriteRequest>, target: string): Work {
  const options = { now: '2026-03-01T10:00:00Z' };
  const asked = (): WriteRequest => ({ path: near('a.jpg'), changes, options, keepTimes: false, ...more });
  let [old, before]: [Buffer | undefined, Buffer | undefined] = [undefined, undefined];
  let made: Buffer | undefined;
  const operate = async () => {
    const [result] = await writeBatch(journals(), [asked()]);
    if (!result?.ok) throw new Error(result?.message);
    made ??= await read(near(target));
  };
  return {
    async prepare() {
      await writeFile(near('a.jpg'), await realJpeg({ rating: 2, headline: 'Dunes' }));
      [old, before] = [await read(near('a.jpg')), await read(near(target))];
    },
    operate,
    recover,
    async requireWhole(where) {
      const now = await read(near(target));
      const isOld = before === undefined ? now === undefined : now?.equals(before);
      expect([where, isOld === true || (made !== undefined && now?.equals(made) === true)]).toEqual([where, true]);
      if (target !== 'a.jpg') expect((await readFile(near('a.jpg'))).equals(old ?? Buffer.of())).toBe(true);
      const names = (await readdir(join(root, 'near'))).sort();
      expect([where, names]).toEqual([where, now && target !== 'a.jpg' ? ['a.jpg', target] : ['a.jpg']]);
    },
    async again(where) {
      await operate();
      expect([where, (await read(near(target)))?.equals(made ?? Buffer.of())]).toEqual([where, true]);
    },
    foreign: () => near(target === 'a.jpg' ? 'a.jpg' : 'a.xmp'),
  };
}

function takeBack(): Work {
  let versions: KeptVersion[] = [];
  let [before, written] = [Buffer.of(), Buffer.of()];
  const operate = async () => {
    const back = planTakeBack(near('a.jpg'), versions);
    const journal = openFileJournal(journals(), back.files.map(journalEntryOf));
    const [result] = await carryOut([back]);
    journal.close();
    if (!result?.ok) throw result?.error ?? new Error('nothing was done');
  };
  return {
    async prepare() {
      await writeFile(near('a.jpg'), await realJpeg({ rating: 2 }));
      before = await readFile(near('a.jpg'));
      const plan = planFiles({
        path: near('a.jpg'),
        changes: { description: 'Long. '.repeat(900) },
        options: { now: '2026-03-01T10:00:00Z' },
        keepTimes: false,
      });
      versions = plan.files.map(versionOf);
      await carryOut([plan]);
      written = await readFile(near('a.jpg'));
    },
    operate,
    recover,
    async requireWhole(where) {
      const now = await readFile(near('a.jpg'));
      expect([where, now.equals(before) || now.equals(written)]).toEqual([where, true]);
      expect([where, await readdir(join(root, 'near'))]).toEqual([where, ['a.jpg']]);
    },
    async again(where) {
      if (!(await readFile(near('a.jpg'))).equals(before)) await operate();
      expect([where, (await readFile(near('a.jpg'))).equals(before)]).toEqual([where, true]);
    },
    foreign: () => near('a.jpg'),
  };
}

function move(place: string, copies: boolean): Work {
  const target = () => join(root, place);
  let bytes = Buffer.of();
  const operate = () =>
    relocate([{ from: near('a.jpg'), to: target(), copies, mayStand: true, sizeBytes: bytes.length }]);
  const folders = async () => {
    await mkdir(near('moved'), { recursive: true });
    await mkdir(join(root, 'far'), { recursive: true });
  };
  return {
    folders,
    async prepare() {
      await folders();
      await writeFile(near('a.jpg'), await realJpeg({ headline: 'Dunes' }));
      bytes = await readFile(near('a.jpg'));
    },
    operate,
    recover: none,
    async requireWhole(where) {
      const ends = [await read(near('a.jpg')), await read(target())];
      expect([where, ends.some((end) => end?.equals(bytes))]).toEqual([where, true]);
      if (copies) expect([where, ends[0]?.equals(bytes)]).toEqual([where, true]);
    },
    async again(where) {
      await folders();
      await operate();
      expect([where, (await readFile(target())).equals(bytes)]).toEqual([where, true]);
      expect([where, (await read(near('a.jpg'))) !== undefined]).toEqual([where, copies]);
    },
    foreign: () => near('a.jpg'),
  };
}

function copyIn(): Work {
  let bytes = Buffer.of();
  return {
    async prepare() {
      await writeFile(near('a.jpg'), await realJpeg({ headline: 'Dunes' }));
      bytes = await readFile(near('a.jpg'));
    },
    operate: () => copyFileProven(near('a.jpg'), far('a.jpg')),
    recover: none,
    async requireWhole(where) {
      expect((await readFile(near('a.jpg'))).equals(bytes)).toBe(true);
      const copy = await read(far('a.jpg'));
      // A name that was reserved and got nothing yet.
      expect([where, copy === undefined || copy.length === 0 || copy.equals(bytes)]).toEqual([where, true]);
    },
    again: none,
    foreign: () => near('a.jpg'),
  };
}

function putBack(): Work {
  const kept = () => near('.stellin-kept');
  const operate = async () => {
    await mkdir(kept(), { recursive: true });
    await keepGoodCopy(far('copy.jpg'), kept());
    await exchange({ path: near('a.jpg'), kept: kept(), comes: 'good' });
  };
  return {
    async prepare() {
      await writeFile(near('a.jpg'), 'the damaged one');
      await writeFile(far('copy.jpg'), 'the good one');
    },
    operate,
    recover: none,
    async requireWhole(where) {
      expect([where, await texts(near('a.jpg'), join(kept(), 'damaged'))]).toEqual([
        where,
        expect.arrayContaining(['the damaged one']),
      ]);
      expect([where, await texts(far('copy.jpg'))]).toEqual([where, ['the good one']]);
    },
    async again(where) {
      await operate();
      expect([where, await texts(near('a.jpg'), join(kept(), 'damaged'), join(kept(), 'good'))]).toEqual([
        where,
        ['the good one', 'the damaged one', undefined],
      ]);
    },
  };
}

const WORKS: readonly (readonly [name: string, make: () => Work])[] = [
  ['writing anew', () => write({ description: 'A kite over the dunes. '.repeat(800) }, {}, 'a.jpg')],
  ['writing in place', () => write({ rating: 4 }, {}, 'a.jpg')],
  ['writing a sidecar', () => write({ headline: 'Noon' }, { sidecarOnly: true }, 'a.xmp')],
  ['taking back', takeBack],
  ['moving within a drive', () => move('near/moved/a.jpg', false)],
  ['moving to another drive', () => move('far/a.jpg', false)],
  ['copying', () => move('far/a.jpg', true)],
  ['copying in', copyIn],
  ['putting a copy back', putBack],
];

async function makeFolders(work: Work): Promise<void> {
  for (const folder of [journals(), join(root, 'near'), join(root, 'far')]) await mkdir(folder, { recursive: true });
  await work.folders?.();
}

/** All files below the root as they are. */
function snapshot(): Map<string, Buffer> {
  const names = readdirSync(root, { recursive: true, encoding: 'utf8' }).map((name) => join(root, name));
  return new Map(
    names.filter((path) => statSync(path).isFile()).map((path) => [relative(root, path), readFileSync(path)]),
  );
}

test.each(WORKS)('%s: wherever the power goes, files are whole, and it is gone on with', async (_, make) => {
  const work = make();
  await work.prepare();
  const recording = recordDisk(root);
  try {
    await work.operate();
  } finally {
    recording.stop();
  }
  let states = 0;
  for (let step = 0; step <= recording.steps; step++)
    for (const state of recording.statesAt(step)) {
      const where = `before step ${step} of ${recording.steps}: ${[...state].map(([path, { length }]) => `${path} (${length})`).join(', ')}`;
      await makeState(root, state);
      await makeFolders(work);
      await work.recover();
      await work.requireWhole(where);
      await work.again(where);
      states++;
    }
  expect(states).toBeGreaterThan(10);
});

const FAILURES = [
  ['is full', 'ENOSPC', 'once'],
  ['fails at a place', 'EIO', 'once'],
  ['may not be written to', 'EACCES', 'once'],
  ['goes away', 'ENODEV', 'from then on'],
] as const;

test.each(WORKS.flatMap(([name, make]) => FAILURES.map((failure) => [name, ...failure, make] as const)))(
  '%s on a drive that %s (%s, %s) at any call leaves files whole, and is gone on with',
  async (_, __, code, when, make) => {
    const work = make();
    await work.prepare();
    const begun = snapshot();
    // What it makes is known first.
    await work.operate();
    let calls = 0;
    for (let at = 1; ; at++) {
      await makeState(root, begun);
      await makeFolders(work);
      calls = 0;
      const restore = interceptDisk(root, ({ number }) => {
        calls = number;
        if (number === at || (when === 'from then on' && number > at)) throw systemError(code);
      });
      const failed = await work.operate().then(
        () => false,
        () => true,
      );
      restore();
      const where = `failing at call ${at}${failed ? '' : ', which it did not mind'}`;
      await work.recover();
      await work.requireWhole(where);
      await work.again(where);
      if (calls < at) break;
    }
    expect(calls).toBeGreaterThan(3);
  },
);

test.each(WORKS.filter(([, make]) => make().foreign !== undefined))(
  '%s: what another program writes at any moment is not lost',
  async (_, make) => {
    const work = make();
    await work.prepare();
    const begun = snapshot();
    const theirs = await realJpeg({ headline: 'Theirs' }, 33);
    const target = work.foreign?.() ?? '';
    const isSidecar = target.endsWith('.xmp');
    const foreign = isSidecar
      ? Buffer.from('<x:xmpmeta xmlns:x="adobe:ns:meta/"><!-- theirs --></x:xmpmeta>')
      : Buffer.from(theirs);
    for (let at = 1; ; at++) {
      await makeState(root, begun);
      await makeFolders(work);
      let written = false;
      let calls = 0;
      const restore = interceptDisk(root, ({ number, name, path }) => {
        calls = number;
        // Between the last look at a file and the call that replaces or deletes it nothing can be done for it.
        if (name === 'rename' || (name === 'unlink' && path === target)) return;
        // Once the file has gone from there, nobody writes to it any more.
        if (number !== at || (!isSidecar && !readdirSync(join(root, 'near')).includes('a.jpg'))) return;
        writeFileSync(target, foreign);
        written = true;
      });
      await work.operate().catch(() => undefined);
      restore();
      if (written) {
        const all = [...snapshot().values()].map((bytes) => bytes.toString('latin1'));
        const mark = isSidecar ? '<!-- theirs -->' : 'Theirs';
        expect([`at call ${at} of ${calls}`, all.some((text) => text.includes(mark))]).toEqual([
          `at call ${at} of ${calls}`,
          true,
        ]);
      }
      if (calls < at) break;
    }
  },
);
