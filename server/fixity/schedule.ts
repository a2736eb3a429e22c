// Reading drives by themselves, in the hours that were planned: those with files whose last proof is older than it may be. Drives
// that were away have their turn when they are back.

import type { Logger } from 'pino';
import { hoursEnd } from '@stellin/core/fixity/due';
import type { Database } from '../database/database';
import { unlessRunning, type Jobs } from '../jobs/service';
import { repeating, type Repeating } from '../repeating';
import { readFixityPlan } from './plan';
import { FIXITY_JOB, type FixityParameters } from './reading';
import { drivesToProve } from './store';

const LOOK_MS = 60_000;
const DAY_MS = 24 * 3600 * 1000;

export function fixitySchedule(database: Database, jobs: Jobs, log: Logger): Repeating {
  return repeating('fixity', LOOK_MS, () => readWhatIsDue(database, jobs, new Date()), log);
}

/** Starts a job for each drive that is due now. */
export async function readWhatIsDue(database: Database, jobs: Jobs, now: Date): Promise<void> {
  const { byItself, hours, days, megabytes } = await readFixityPlan(database);
  const until = hoursEnd(now, hours)?.toISOString();
  if (!byItself || until === undefined) return;
  const since = new Date(now.getTime() - days * DAY_MS).toISOString();
  for (const { id: driveId, label } of await drivesToProve(database, since)) {
    const parameters: FixityParameters = { driveId, since, until, megabytes };
    await unlessRunning(jobs.start(FIXITY_JOB, `Read the files of ${label} again`, parameters, null, { driveId }));
  }
}
