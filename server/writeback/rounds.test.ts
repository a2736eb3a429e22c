// Two processes at work, killed at random moments of batches and of writes. A round runs with every test; STELLIN_ROUNDS=50 runs
// more, STELLIN_SEED=7 the same moments again.

import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { concatBytes, memorySource } from '@stellin/core/metadata/bytes';
import { readMetadata } from '@stellin/core/metadata/read';
import { pictureRanges } from '@stellin/core/metadata/write';
import { CHANGE_JOB } from '../ledger/large';
import { openWorld, putFiles, realJpeg, startWorker, type World } from '../testing/world';

const ROUNDS = Number(process.env['STELLIN_ROUNDS'] ?? 1);
const SEED = Number(process.env['STELLIN_SEED'] ?? Date.now() % 1_000_000) || 1;
let state = SEED;
/** From 0 up to 1 (Park and Miller’s generator). */
const chance = () => (state = (state * 48_271) % 2_147_483_647) / 2_147_483_647;
const PHOTOS = 150;
/** A process takes about two seconds until it works, and not much longer for its work. */
const [EARLIEST_MS, LATEST_MS] = [800, 4000];

let world: World;
let drive: string;
afterEach(() => world.close());

const count = (query: string) => world.services.search.all.count(query);
const change = (round: number) => ({
  kind: 'setFields' as const,
  selection: { query: '', minus: [], plus: [] },
  edits: [{ target: 'headline' as const, mode: 'replace' as const, value: `Round ${round}` }],
});

/** Starts two processes, and kills each at a moment of its own: one is at work while the other begins, or recovers. */
async function startAndKill(): Promise<void> {
  await Promise.all(
    [startWorker(world), startWorker(world)].map(async (worker) => {
      const moment = EARLIEST_MS + chance() * (LATEST_MS - EARLIEST_MS);
      await Promise.race([worker.ended, new Promise((resolve) => setTimeout(resolve, moment))]);
      await worker.kill();
    }),
  );
}

/** What each file says, with its coded picture. */
async function files(): Promise<{ headline: unknown; picture: string }[]> {
  const names = (await readdir(drive)).filter((name) => name.endsWith('.jpg'));
  return Promise.all(
    names.map(async (name) => {
      const bytes = await readFile(join(drive, name));
      const source = memorySource(bytes);
      const picture = concatBytes(pictureRanges(source).map(({ start, end }) => bytes.subarray(start, end)));
      return { headline: readMetadata(source).fields.headline, picture: Buffer.from(picture).toString('base64') };
    }),
  );
}

test(
  `killed at any moment, ${ROUNDS} times (seed ${SEED}): a batch happened or it did not, and files say the old or the new`,
  async () => {
    world = await openWorld({ working: false });
    drive = await world.addDrive('Vault');
    const bytes = await realJpeg({ headline: 'Round 0' });
    await putFiles(drive, Object.fromEntries(Array.from({ length: PHOTOS }, (_, i) => [`${i}.jpg`, bytes])));
    await world.services.start();
    await world.takeIn(drive);
    await world.rest();
    const [first] = await files();

    for (let round = 1; round <= ROUNDS; round++) {
      const before = `Round ${round - 1}`;
      const after = `Round ${round}`;
      const { jobs } = world.services;
      const batch = await jobs.start(CHANGE_JOB, 'A batch', { step: 'do', change: change(round) }, world.keeperId);
      await startAndKill();
      const [had, has] = [await count(`headline:"${before}"`), await count(`headline:"${after}"`)];
      expect([had, has]).toEqual(has === PHOTOS ? [0, PHOTOS] : [PHOTOS, 0]);
      const entries = await world.services.database.rows('select 1 from ledger_entry where job_id = $1', [batch.id]);
      expect(entries).toHaveLength(has === PHOTOS ? 1 : 0);
      await world.services.start();
      await world.until(batch.id, ['done']);
      await world.rest();
      // Not once more, if it had happened.
      expect(
        await world.services.database.rows('select 1 from ledger_entry where job_id = $1', [batch.id]),
      ).toHaveLength(1);
      expect(await count(`headline:"${after}" is:waiting`)).toBe(PHOTOS);

      const write = await world.services.writeBack.run(world.services.jobs, { retryFailed: false }, world.keeperId);
      await startAndKill();
      await world.services.writeBack.recover();
      for (const { headline, picture } of await files()) {
        expect([before, after]).toContain(headline);
        expect(picture).toBe(first?.picture);
      }
      await world.services.start();
      await world.until(write.id, ['done']);
      await world.rest();
      expect((await files()).filter(({ headline }) => headline === after)).toHaveLength(PHOTOS);
      expect(await count('is:written')).toBe(PHOTOS);
      expect(await world.services.database.rows('select 1 from write_journal')).toEqual([]);
      expect((await readdir(drive)).filter((name) => name.includes('stellin-part'))).toEqual([]);
    }
  },
  300_000 + ROUNDS * 60_000,
);
