// The jobs of backups: making one and letting go of those that have had their time, and trying one out.

import { existsSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { dirname } from 'node:path';
import { z } from 'zod';
import { backupsToKeep, type KeepRule } from '@stellin/core/backup/keeping';
import { sizeText } from '@stellin/contract/sizeText';
import { places, type Config } from '../config';
import type { Database } from '../database/database';
import { messageOf } from '../errors';
import { isStop, type JobKind } from '../jobs/service';
import { checkedContents } from './contents';
import { makeBackup } from './make';
import { readPlan } from './plan';
import { trialOf } from './trial';
import * as store from './store';

export const BACKUP_JOB = 'backup';
export const CHECK_BACKUP_JOB = 'checkBackup';

const backupParameters = z.object({ nightly: z.boolean() });
export type BackupParameters = z.infer<typeof backupParameters>;
const checkParameters = z.object({ backupId: z.uuid() });

type Parts = Pick<Config, 'kind' | 'home'> & { database: Database };

/** Makes a backup as the plan says. One that fails is noted with the reason. */
export function backupJob({ database, kind, home }: Parts): JobKind {
  return {
    kind: BACKUP_JOB,
    takesRoom: true,
    async run(run) {
      const { nightly } = backupParameters.parse(run.parameters);
      const { plan } = await readPlan(database);
      const before = (await store.allBackups(database)).find(({ problem }) => problem === null);
      const folder = plan.folder === '' ? places.backups(home) : plan.folder;
      const row = { id: run.id, at: new Date(), nightly, previews: plan.previews, checkedAt: null, checkProblem: null };
      // In thousands of bytes: the count of a job is no larger than an integer.
      const total = Math.ceil((2 * Number(before?.bytes ?? 0)) / 1000);
      let done = 0;
      const progress = (doing: string, bytes: number) => {
        done += bytes;
        const thousands = Math.ceil(done / 1000);
        return run.progress({
          done: thousands,
          total: Math.max(total, thousands),
          current: `${doing}: ${sizeText(done)}`,
        });
      };
      try {
        await run.progress({ done: 0, total });
        const likelyBytes = Number(before?.bytes ?? 0);
        const made = await makeBackup(
          { kind, home },
          database.url,
          { id: run.id, folder, nightly, previews: plan.previews, likelyBytes },
          progress,
        );
        await store.noteBackup(database, { ...row, ...made, bytes: String(made.bytes), problem: null });
        await letGo(database, plan.keep);
        await database.notify(['backups']);
        return { bytes: made.bytes, path: made.path };
      } catch (error) {
        // One that somebody has stopped is no failure.
        if (!isStop(error)) {
          await store.noteBackup(database, {
            ...row,
            path: folder,
            bytes: '0',
            seconds: 0,
            problem: messageOf(error),
          });
          await database.notify(['backups']);
        }
        throw error;
      }
    },
  };
}

/** Deletes nightly backups that the rule does not keep, and forgets failed ones before the last that went well. What somebody asked for stays. */
async function letGo(database: Database, rule: KeepRule): Promise<void> {
  const rows = await store.allBackups(database);
  const made = rows.filter(({ problem }) => problem === null);
  const kept = backupsToKeep(made, rule);
  // Of a disk that is away nothing is known.
  const old = made.filter((row) => row.nightly && !kept.has(row) && existsSync(dirname(row.path)));
  for (const { path } of old) await rm(path, { force: true });
  const failed = rows.filter(({ problem, at }) => problem !== null && made.some((later) => later.at > at));
  await store.forgetBackups(
    database,
    [...old, ...failed].map(({ id }) => id),
  );
}

/** Restores a backup into a database of its own, compares it with what was backed up, and drops it again. */
export function checkBackupJob({ database, kind }: Parts): JobKind {
  return {
    kind: CHECK_BACKUP_JOB,
    takesRoom: true,
    async run(run) {
      const { backupId } = checkParameters.parse(run.parameters);
      const row = await store.findBackup(database, backupId);
      if (!row) throw new Error('the backup is not known any more');
      try {
        let done = 0;
        const contents = await checkedContents(row.path, (bytes) => {
          done += bytes;
          return run.progress({
            done: Math.ceil(done / 1000),
            total: Math.ceil(Number(row.bytes) / 1000),
            current: `Reading ${row.path}`,
          });
        });
        if (contents.holds !== kind) throw new Error(`${row.path} is a backup of another kind of data`);
        await run.progress({ current: 'Restoring it for trial' });
        const tables = await trialOf(row.path, contents, database.url, (bytes) =>
          run.progress({ done: Math.ceil((done += bytes) / 1000), current: 'Restoring it for trial' }),
        );
        await store.noteCheck(database, row.id, null);
        return { tables };
      } catch (error) {
        if (!isStop(error)) await store.noteCheck(database, row.id, messageOf(error));
        throw error;
      } finally {
        await database.notify(['backups']);
      }
    },
  };
}
