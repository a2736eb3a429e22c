import type { Drive, Folder } from '@stellin/contract/drives';
import { foldText } from '@stellin/core/search/words';
import { isoSql, type Database } from '../database/database';

export interface DriveRow {
  id: string;
  label: string;
  mountPoint: string | null;
  attached: boolean;
}

export async function findDrive(database: Database, id: string): Promise<DriveRow | undefined> {
  return database.row<DriveRow>('select id, label, mount_point as "mountPoint", attached from drive where id = $1', [
    id,
  ]);
}

export async function listDrives(
  database: Database,
): Promise<(Omit<Drive, 'key' | 'state'> & { id: string; attached: boolean })[]> {
  return database.rows(
    `select d.id, d.label, d.attached, d.mount_point as "mountPoint", ${isoSql('d.last_seen_at')} as "lastSeen",
       (select count(*)::int from photo p where p.drive_id = d.id) as photos
     from drive d order by d.label`,
  );
}

export async function insertDrive(
  database: Database,
  drive: { id: string; label: string; mountPoint: string },
): Promise<void> {
  await database.rows(
    `insert into drive (id, label, label_folded, mount_point, attached, last_seen_at) values ($1, $2, $3, $4, true, now())
     on conflict (id) do update set mount_point = excluded.mount_point, attached = true, last_seen_at = now()`,
    [drive.id, drive.label, foldText(drive.label), drive.mountPoint],
  );
}

/** Notes which drives are there and where; true when anything is different from before. */
export async function noteAttached(
  database: Database,
  seen: readonly { id: string; mountPoint: string }[],
): Promise<boolean> {
  const changed = await database.rows(
    `update drive d set attached = s.mount_point is not null, mount_point = coalesce(s.mount_point, d.mount_point),
       last_seen_at = case when s.mount_point is not null or d.attached then now() else d.last_seen_at end
     from drive old left join unnest($1::uuid[], $2::text[]) s (id, mount_point) on s.id = old.id
     where d.id = old.id and (old.attached is distinct from (s.mount_point is not null)
       or (s.mount_point is not null and old.mount_point is distinct from s.mount_point))
     returning d.id`,
    [seen.map(({ id }) => id), seen.map(({ mountPoint }) => mountPoint)],
  );
  return changed.length > 0;
}

export async function listFolders(database: Database): Promise<Folder[]> {
  return database.rows<Folder>(
    `with direct as (select folder_id, count(*)::int as photos from photo group by folder_id)
     select f.id, f.drive_id as "driveId", f.parent_id as "parentId", f.name, f.path,
       coalesce((select photos from direct where folder_id = f.id), 0) as photos,
       coalesce((select sum(n.photos)::int from folder b join direct n on n.folder_id = b.id
         where b.drive_id = f.drive_id and (f.path = '' or b.path = f.path or (b.path > f.path || '/' and b.path < f.path || '0'))), 0) as "photosWithin"
     from folder f order by f.drive_id, f.path`,
  );
}
