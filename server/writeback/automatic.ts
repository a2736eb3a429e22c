// Writing by itself, as the policies say: once nobody has changed anything for a while, and when a drive returns on which
// writes wait.

import type { Logger } from 'pino';
import { drivesToLookThrough } from '../catalogue/restored';
import type { Database } from '../database/database';
import { StellinError } from '../errors';
import { repeating, type Repeating } from '../repeating';
import type { Jobs } from '../jobs/service';
import { readPolicies } from './policies';
import type { WriteBack } from './service';
import * as store from './store';

const LOOK_MS = 3000;
const MINUTE = 60_000;

export function automaticWriting(database: Database, writeBack: WriteBack, jobs: Jobs, log: Logger): Repeating {
  const look = async (): Promise<void> => {
    const { automaticMinutes, onReturn } = await readPolicies(database);
    if (automaticMinutes === null && onReturn === 'ask') return;
    // What files say now is read first.
    if ((await drivesToLookThrough(database)).length > 0) return;
    const waiting = await store.waitingDrives(database);
    if (onReturn === 'write') for (const { id, returned } of waiting) if (returned) await run(id);
    if (automaticMinutes === null || waiting.length === 0) return;
    const last = await store.lastChange(database);
    if (last !== null && Date.now() - Date.parse(last) >= automaticMinutes * MINUTE) await run();
  };

  const run = async (driveId?: string): Promise<void> => {
    try {
      await writeBack.run(jobs, { driveId, retryFailed: false }, null);
    } catch (error) {
      // Written already, or being written.
      if (!(error instanceof StellinError && ['alreadyRunning', 'nothingToDo'].includes(error.code))) throw error;
    }
  };

  return repeating('writing by itself', LOOK_MS, look, log);
}
