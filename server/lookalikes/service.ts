// Look-alikes: photos that look like one, bursts among some, and measuring what was not measured yet.

import { join } from 'node:path';
import { burstsOf } from '@stellin/core/lookalikes/bursts';
import { CUTS, cutOf, lookOf, STRICTNESS } from '@stellin/core/lookalikes/look';
import type { LikeAsked } from '@stellin/core/lookalikes/asked';
import type { Database } from '../database/database';
import type { Viewer } from '../catalogue/viewer';
import { systemCode } from '../errors';
import { measurePreview, previewPath, smallPixels } from '../files/preview';
import { unlessRunning, type Jobs } from '../jobs/service';
import { ROOT } from '../root';
import { threadPool } from '../threads/pool';
import { LOOKS_JOB } from './jobNames';
import type { likest, Likest } from './looks.worker';
import { noteLooks, type MeasuredLook } from '../catalogue/looks';
import * as store from './store';

/** Photos that look like one, at most, and how many are compared to find those that exist for who asks. */
const MOST_ALIKE = 500;
const MOST_COMPARED = 20_000;
/** What was cut out of a picture has to look much like one of its cuts: cuts of a sky look like any sky. */
const LEAST_OF_CUTS = 0.97;

interface Parts {
  database: Database;
  url: string;
  /** Of the previews. */
  folder: string;
}

export type Lookalikes = ReturnType<typeof lookalikeService>;

export function lookalikeService({ database, url, folder }: Parts) {
  const pool = threadPool(join(ROOT, 'server', 'lookalikes', 'looks.worker.ts'), {
    maxThreads: 1,
    idleTimeout: Infinity,
  });
  const ask = (given: Omit<Likest, 'url'>) => pool.run<Awaited<ReturnType<typeof likest>>>('likest', { ...given, url });

  return {
    /** The photos that look like one, the likest first, itself among them; undefined where it does not exist for who asks. */
    async like({ photoId, strictness }: LikeAsked, viewer: Viewer): Promise<number[] | undefined> {
      const version = await store.previewSeen(database, photoId, viewer);
      if (version === undefined) return undefined;
      const pixels =
        version === 0 ? undefined : await smallPixels(previewPath(folder, photoId, version)).catch(unlessGone);
      if (!pixels) return [photoId];
      const least = STRICTNESS[strictness];
      const cuts = CUTS.map((cut) => ({ look: lookOf(cutOf(pixels, cut)), least: Math.max(least, LEAST_OF_CUTS) }));
      const found = await ask({ looks: [{ look: lookOf(pixels), least }, ...cuts], most: MOST_COMPARED });
      const existing = new Set(await store.existing(database, found, viewer));
      return [photoId, ...found.filter((id) => id !== photoId && existing.has(id))].slice(0, MOST_ALIKE);
    },

    /** The bursts among photos that exist for somebody, the sharpest of each first, and how many of these wait to be measured. */
    async bursts(ids: readonly number[], viewer: Viewer): Promise<{ bursts: number[][]; waiting: number }> {
      const rows = await store.burstRows(database, ids, viewer);
      const bursts = burstsOf(
        rows.map(({ takenAt, look, waits: _, ...row }) => ({
          ...row,
          takenAt: takenAt === null ? null : Date.parse(`${takenAt}Z`),
          look: look && new Int8Array(look),
        })),
      );
      return { bursts, waiting: rows.filter(({ waits }) => waits).length };
    },

    /** Begins measuring previews that were made before they were measured; nothing where all are. */
    async follow(jobs: Jobs, accountId: number | null): Promise<void> {
      if ((await store.countUnmeasured(database)) === 0) return;
      await unlessRunning(jobs.start(LOOKS_JOB, 'Measure how pictures look', {}, accountId));
    },

    /** Measures some photos behind one by id; gives the last id, how many were tried and measured, and undefined when there are no more. */
    async measureSome(
      after: number,
      limit: number,
    ): Promise<{ last: number; tried: number; measured: number } | undefined> {
      const photos = await store.unmeasured(database, after, limit);
      const looks: MeasuredLook[] = [];
      const gone: store.KeptPreview[] = [];
      for (const { id, version } of photos) {
        const measured = await measurePreview(previewPath(folder, id, version)).catch(unlessGone);
        if (measured) looks.push({ id, ...measured });
        else gone.push({ id, version });
      }
      await noteLooks(database, looks);
      await store.wantPreviews(database, gone);
      const last = photos.at(-1)?.id;
      return last === undefined ? undefined : { last, tried: photos.length, measured: looks.length };
    },

    count: () => store.countUnmeasured(database),
    close: () => pool.close(),
  };
}

/** A preview that is not there is made again, and measured then. */
function unlessGone(error: unknown): undefined {
  if (systemCode(error) !== 'ENOENT') throw error;
}
