// The table of backups.

import { BACKUP } from '../database/models/backup';
import { modelOf, type RowOf } from '../database/models/table';
import type { Database } from '../database/database';

export type BackupRow = Pick<RowOf<typeof BACKUP>, keyof typeof BACKUP.columns>;

/** All backups, newest first. */
export async function allBackups(database: Database): Promise<BackupRow[]> {
  const found = await modelOf(database, BACKUP).findAll({ order: [['at', 'DESC']] });
  return found.map((row) => row.get());
}

export async function findBackup(database: Database, id: string): Promise<BackupRow | undefined> {
  return (await modelOf(database, BACKUP).findByPk(id))?.get();
}

export async function noteBackup(database: Database, row: BackupRow): Promise<void> {
  await modelOf(database, BACKUP).upsert(row);
}

export async function forgetBackups(database: Database, ids: readonly string[]): Promise<void> {
  await modelOf(database, BACKUP).destroy({ where: { id: [...ids] } });
}

/** The last trial of any of these backups. */
export function lastTrial(rows: readonly BackupRow[]): { at: Date; problem: string | null } | undefined {
  return rows
    .flatMap(({ checkedAt, checkProblem }) => (checkedAt ? [{ at: checkedAt, problem: checkProblem }] : []))
    .sort((a, b) => b.at.getTime() - a.at.getTime())[0];
}

/** Notes how the trial of a backup ended; null: all was as it should be. */
export async function noteCheck(database: Database, id: string, problem: string | null): Promise<void> {
  await modelOf(database, BACKUP).update({ checkedAt: new Date(), checkProblem: problem }, { where: { id } });
}
