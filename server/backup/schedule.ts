// What happens by itself: a backup each night, the trial of one each week, and looking drives through after the catalogue was
// restored.

import type { Logger } from 'pino';
import { isTrialDue, isNightlyDue } from '@stellin/core/backup/due';
import { drivesToLookThrough } from '../catalogue/restored';
import type { Database } from '../database/database';
import { INDEX_JOB } from '../intake/service';
import { unlessRunning, type Jobs } from '../jobs/service';
import { repeating, type Repeating } from '../repeating';
import { readPlan } from './plan';
import type { Backups } from './service';
import * as store from './store';

const LOOK_MS = 20_000;
const RETRY_MS = 10 * 60_000;

export function backupSchedule(database: Database, backups: Backups, jobs: Jobs, log: Logger): Repeating {
  /** When the comparison of a drive was started last. */
  const tried = new Map<string, number>();

  const backUp = async (now: Date): Promise<void> => {
    const { plan, since } = await readPlan(database);
    const rows = await store.allBackups(database);
    const last = rows[0] && { at: rows[0].at, failed: rows[0].problem !== null };
    if (plan.nightly && isNightlyDue(now, plan.time, since, last)) await unlessRunning(backups.start(null, true));
    const newest = rows.find(({ problem }) => problem === null);
    if (plan.nightly && newest?.nightly && newest.checkedAt === null && isTrialDue(now, store.lastTrial(rows)?.at))
      await unlessRunning(backups.check(newest.id, null));
  };

  const lookThrough = async (): Promise<void> => {
    for (const { id: driveId, label } of await drivesToLookThrough(database)) {
      // One that failed is not begun anew at every look.
      if (Date.now() - (tried.get(driveId) ?? 0) < RETRY_MS) continue;
      tried.set(driveId, Date.now());
      await unlessRunning(
        jobs.start(
          INDEX_JOB,
          `Compare ${label} with the restored catalogue`,
          // What was written in place after the backup may look as it did before.
          { driveId, folder: '', subFolders: true, known: true },
          null,
          { driveId },
        ),
      );
    }
  };

  return repeating(
    'backups',
    LOOK_MS,
    async () => {
      await lookThrough();
      await backUp(new Date());
    },
    log,
  );
}
