// Backups as people see and start them.

import { access, constants, mkdir } from 'node:fs/promises';
import type { Backup, BackupPlan, BackupState } from '@stellin/contract/backup';
import type { Job } from '@stellin/contract/jobs';
import { isBackupOld } from '@stellin/core/backup/due';
import { places, type Config } from '../config';
import type { Database } from '../database/database';
import { StellinError } from '../errors';
import { problemOf } from '../files/problem';
import type { Jobs } from '../jobs/service';
import { sizeOf } from './make';
import { BACKUP_JOB, CHECK_BACKUP_JOB, type BackupParameters } from './jobs';
import { readPlan, writePlan } from './plan';
import * as store from './store';

export type Backups = ReturnType<typeof backupService>;

export function backupService(database: Database, jobs: Jobs, { home }: Pick<Config, 'home'>) {
  const ownFolder = places.backups(home);
  return {
    ownFolder,

    /** How old the last backup is and how it ended, as everybody may know. */
    async state(): Promise<BackupState> {
      const [{ plan }, rows] = await Promise.all([readPlan(database), store.allBackups(database)]);
      const last = rows.find(({ problem }) => problem === null);
      const failed = rows[0] && rows[0].problem !== null ? rows[0] : undefined;
      const checked = store.lastTrial(rows);
      return {
        nightly: plan.nightly,
        last: last
          ? { at: last.at.toISOString(), bytes: Number(last.bytes), isOld: isBackupOld(new Date(), last.at) }
          : null,
        failed: failed ? { at: failed.at.toISOString(), problem: failed.problem ?? '' } : null,
        checked: checked ? { at: checked.at.toISOString(), problem: checked.problem } : null,
      };
    },

    /** All backups, newest first, and when they are made. */
    async list(): Promise<{ plan: BackupPlan; ownFolder: string; backups: Backup[] }> {
      const [{ plan }, rows] = await Promise.all([readPlan(database), store.allBackups(database)]);
      const backups = await Promise.all(
        rows.map(async ({ at, bytes, checkedAt, ...row }) => ({
          ...row,
          at: at.toISOString(),
          bytes: Number(bytes),
          checkedAt: checkedAt?.toISOString() ?? null,
          there: row.problem === null && (await sizeOf(row.path)) !== undefined,
        })),
      );
      return { plan, ownFolder, backups };
    },

    /** Starts a backup; `nightly` for one that is made by itself. */
    async start(accountId: number | null, nightly = false): Promise<Job> {
      return jobs.start(BACKUP_JOB, 'Back the catalogue up', { nightly } satisfies BackupParameters, accountId, {});
    },

    /** Settles when backups are made. The folder is made if it is not there, and has to be one that can be written to. */
    async settlePlan(plan: BackupPlan): Promise<void> {
      if (plan.folder !== '') await requireUsable(plan.folder);
      await writePlan(database, plan);
      await database.notify(['backups']);
    },

    /** Starts the trial of a backup. */
    async check(id: string, accountId: number | null): Promise<Job> {
      const row = await store.findBackup(database, id);
      if (!row || row.problem !== null) throw new StellinError('notFound', { what: 'such backup' });
      return jobs.start(CHECK_BACKUP_JOB, 'Try a backup out', { backupId: id }, accountId, {});
    },
  };
}

async function requireUsable(folder: string): Promise<void> {
  try {
    await mkdir(folder, { recursive: true, mode: 0o700 });
    await access(folder, constants.W_OK | constants.X_OK);
  } catch (error) {
    throw new StellinError('folderUnusable', { folder, why: problemOf(error) });
  }
}
