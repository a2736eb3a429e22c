// What the database knows of folders that are kept up with.

import type { TrackedFolder } from '@stellin/contract/tracking';
import type { Database } from '../database/database';
import { TRACKED_FOLDER } from '../database/models/drives';
import { modelOf } from '../database/models/table';
import { isoSql } from '../database/isoSql';

export type TrackedRow = Omit<TrackedFolder, 'listens'> & {
  accountId: number | null;
  label: string;
  /** Null while the drive is away. */
  mountPoint: string | null;
  /** It was not looked through as a whole lately, or not since its drive is back. */
  isDue: boolean;
};

/** All tracked folders; those that were not looked through for some minutes are due. */
export async function listTracked(database: Database, minutes: number): Promise<TrackedRow[]> {
  return database.rows<TrackedRow>(
    `select t.id, t.drive_id as "driveId", t.folder, t.sub_folders as "subFolders", t.leave_out as "leaveOut", t.ignore,
       ${isoSql('t.checked_at')} as "checkedAt", t.account_id as "accountId", t.template_id as "templateId", t.dossier_id as "dossierId", d.label, case when d.attached then d.mount_point end as "mountPoint",
       t.checked_at is null or t.checked_at < now() - make_interval(mins => $1) as "isDue"
     from tracked_folder t join drive d on d.id = t.drive_id order by d.label, t.folder`,
    [minutes],
  );
}

export async function addTracked(
  database: Database,
  folder: Omit<TrackedFolder, 'id' | 'checkedAt' | 'listens'> & { accountId: number },
): Promise<void> {
  await database.rows(
    `insert into tracked_folder (drive_id, folder, sub_folders, leave_out, ignore, account_id, template_id, dossier_id) values ($1, $2, $3, $4, $5, $6, $7, $8)
     on conflict (drive_id, folder) do update set sub_folders = excluded.sub_folders, leave_out = excluded.leave_out, ignore = excluded.ignore,
       account_id = excluded.account_id, template_id = excluded.template_id, dossier_id = excluded.dossier_id, checked_at = null`,
    [
      folder.driveId,
      folder.folder,
      folder.subFolders,
      JSON.stringify(folder.leaveOut),
      JSON.stringify(folder.ignore),
      folder.accountId,
      folder.templateId,
      folder.dossierId,
    ],
  );
}

export async function removeTracked(database: Database, id: number): Promise<void> {
  await modelOf(database, TRACKED_FOLDER).destroy({ where: { id } });
}

export async function noteChecked(database: Database, id: number): Promise<void> {
  await modelOf(database, TRACKED_FOLDER).update({ checkedAt: new Date() }, { where: { id } });
}
