// What the database knows of drives and their folders.

import { z } from 'zod';
import type { Drive, Folder } from '@stellin/contract/drives';
import { foldText } from '@stellin/core/text/words';
import { DRIVE } from '../database/models/drives';
import { modelOf } from '../database/models/table';
import { sightSql } from '../catalogue/sightSql';
import { seesOnlyParts, type Viewer } from '../catalogue/viewer';
import type { Database, Transaction } from '../database/database';
import { isoSql } from '../database/isoSql';
import { isGoneSql } from '../jobs/ownerStore';
import { readSetting } from '../database/settings';
import { outsideTrash } from '../files/trash';
import type { Volume } from '../files/volume';

export interface DriveRow {
  id: string;
  label: string;
  mountPoint: string | null;
  attached: boolean;
  readOnly: boolean;
}

export async function findDrive(database: Database, id: string, tx?: Transaction): Promise<DriveRow | undefined> {
  const found = await modelOf(database, DRIVE).findByPk(id, {
    attributes: ['id', 'label', 'mountPoint', 'attached', 'readOnly'],
    transaction: tx ?? null,
  });
  return found?.get({ plain: true });
}

export type KnownDrive = Omit<Drive, 'key' | 'state' | 'copyOf'> & { id: string; attached: boolean };

/** That a drive `d` exists for somebody: all of them do for whom the whole catalogue does, others where a photo is. */
function driveExists(viewer: Viewer): string {
  return seesOnlyParts(viewer) ? 's.photos > 0' : 'true';
}

export async function listDrives(database: Database, viewer: Viewer): Promise<KnownDrive[]> {
  const seen = sightSql(viewer.sight);
  return database.rows(
    `select d.id, d.label, d.attached, d.mount_point as "mountPoint", ${isoSql('d.last_seen_at')} as "lastSeen",
       ${isoSql('d.last_checked_at')} as "lastChecked", d.capacity_bytes::float8 as "capacityBytes", d.free_bytes::float8 as "freeBytes",
       d.read_only as "readOnly", d.note, d.browse_away as "browseAway", d.read_text as "readText", coalesce(s.photos, 0) as photos, coalesce(s.bytes, 0) as "photoBytes", coalesce(s.missing, 0) as missing
     from drive d left join (
       select p.drive_id, count(*)::int as photos, sum(p.size_bytes)::float8 as bytes, (count(*) filter (where p.missing_since is not null))::int as missing
       from photo p where p.shown and ${seen.sql} group by p.drive_id) s on s.drive_id = d.id
     where ${driveExists(viewer)} order by d.label`,
    seen.bind,
  );
}

/** Where each drive was last. */
export async function lastPlaces(database: Database): Promise<Map<string, string | null>> {
  const rows = await database.rows<{ id: string; place: string | null }>('select id, mount_point as place from drive');
  return new Map(rows.map(({ id, place }) => [id, place]));
}

/** Drives that are recognised without a marker. */
export async function drivesByFileSystem(database: Database): Promise<Map<string, string>> {
  const rows = await database.rows<{ id: string; name: string }>(
    'select id, file_system as name from drive where file_system is not null',
  );
  return new Map(rows.map(({ id, name }) => [name, id]));
}

export async function insertDrive(
  database: Database,
  drive: { id: string; label: string; mountPoint: string; volume: Volume },
): Promise<void> {
  await database.rows(
    `insert into drive (id, label, label_folded, mount_point, attached, last_seen_at, file_system) values ($1, $2, $3, $4, true, now(), $5)
     on conflict (id) do update set mount_point = excluded.mount_point, attached = true, last_seen_at = now()`,
    [
      drive.id,
      drive.label,
      foldText(drive.label),
      drive.mountPoint,
      drive.volume.readOnly ? drive.volume.fileSystem : null,
    ],
  );
}

export async function updateDrive(
  database: Database,
  id: string,
  { label, note }: { label?: string; note?: string },
): Promise<void> {
  await modelOf(database, DRIVE).update(
    {
      ...(label === undefined ? {} : { label, labelFolded: foldText(label) }),
      ...(note === undefined ? {} : { note }),
    },
    { where: { id } },
  );
}

export async function noteChecked(database: Database, id: string): Promise<void> {
  await modelOf(database, DRIVE).update({ lastCheckedAt: new Date() }, { where: { id } });
}

/** Folders that people have named to be looked at as drives. */
export async function addedPlaces(database: Database, setting: string): Promise<string[]> {
  return z.array(z.string()).parse((await readSetting(database, setting)) ?? []);
}

export async function addPlace(database: Database, setting: string, path: string): Promise<void> {
  await database.rows(
    `insert into setting (name, value) values ($1, jsonb_build_array($2::text))
     on conflict (name) do update set value = (setting.value - $2::text) || to_jsonb($2::text)`,
    [setting, path],
  );
}

/** A drive as a process sees it. */
export interface SeenDrive {
  id: string;
  mountPoint: string;
  volume: Volume;
}

/** Where a process sees a drive; undefined where it does not. */
export async function placeSeen(
  database: Database,
  driveId: string,
  seer: string,
  tx?: Transaction,
): Promise<string | undefined> {
  const row = await database.row<{ place: string }>(
    'select mount_point as place from drive_seen where drive_id = $1 and seer = $2',
    [driveId, seer],
    tx,
  );
  return row?.place;
}

/**
 * Notes which drives a process sees and where; what processes saw that are gone is forgotten. A drive is attached as long as anybody
 * sees it. True when anything is different from before.
 */
export async function noteSeen(database: Database, seer: string, seen: readonly SeenDrive[]): Promise<boolean> {
  return database.transaction(async (tx) => {
    const others = await database.rows<{ seer: string }>(
      'select distinct seer from drive_seen where seer <> $1',
      [seer],
      tx,
    );
    if (others.length > 0)
      await database.rows(
        `with gone as materialized (select seer from unnest($1::text[]) seer where ${isGoneSql('seer')})
         delete from drive_seen where seer in (select seer from gone)`,
        [others.map((other) => other.seer)],
        tx,
      );
    await database.rows(
      `with mine as (select * from unnest($2::uuid[], $3::text[]) m (id, place)),
       lost as (delete from drive_seen where seer = $1 and drive_id not in (select id from mine))
       insert into drive_seen (drive_id, seer, mount_point) select m.id, $1, m.place from mine m join drive d on d.id = m.id
       on conflict (drive_id, seer) do update set mount_point = excluded.mount_point where drive_seen.mount_point <> excluded.mount_point`,
      [seer, seen.map(({ id }) => id), seen.map(({ mountPoint }) => mountPoint)],
      tx,
    );
    return noteAttached(database, seen, tx);
  });
}

/** Brings the table of drives in line with who sees them; what volumes say comes from the process that looks now. */
async function noteAttached(database: Database, seen: readonly SeenDrive[], tx: Transaction): Promise<boolean> {
  const changed = await database.rows(
    `update drive d set attached = s.mount_point is not null,
       attached_at = case when s.mount_point is not null and not old.attached then now() else d.attached_at end, mount_point = coalesce(s.mount_point, d.mount_point),
       last_seen_at = case when s.mount_point is not null or d.attached then now() else d.last_seen_at end,
       capacity_bytes = coalesce(s.capacity, d.capacity_bytes), free_bytes = coalesce(s.free, d.free_bytes),
       read_only = coalesce(s.read_only, d.read_only)
     from drive old
     left join (select drive_id as id, min(mount_point) as mount_point from drive_seen group by drive_id) a on a.id = old.id
     left join unnest($1::uuid[], $2::bigint[], $3::bigint[], $4::boolean[]) v (id, capacity, free, read_only) on v.id = old.id
     cross join lateral (select a.mount_point, v.capacity, v.free, v.read_only) s
     where d.id = old.id and (old.attached is distinct from (s.mount_point is not null)
       or (s.mount_point is not null and old.mount_point is distinct from s.mount_point)
       or (v.id is not null and s.mount_point is not null and (old.capacity_bytes is distinct from s.capacity
         or old.read_only is distinct from s.read_only or abs(coalesce(old.free_bytes, 0) - s.free) > s.capacity / 200)))
     returning d.id`,
    [
      seen.map(({ id }) => id),
      seen.map(({ volume }) => volume.capacityBytes),
      seen.map(({ volume }) => volume.freeBytes),
      seen.map(({ volume }) => volume.readOnly),
    ],
    tx,
  );
  return changed.length > 0;
}

/** The folders that exist for somebody: for who sees only parts those with photos in or below them. */
export async function listFolders(database: Database, viewer: Viewer): Promise<Folder[]> {
  const seen = sightSql(viewer.sight);
  const folders = await database.rows<Folder>(
    `with direct as (select p.folder_id, count(*)::int as photos from photo p where p.shown and ${seen.sql} group by p.folder_id)
     select f.id, f.drive_id as "driveId", f.parent_id as "parentId", f.name, f.path, f.colour, f.note,
       coalesce((select photos from direct where folder_id = f.id), 0) as photos,
       coalesce((select sum(n.photos)::int from folder b join direct n on n.folder_id = b.id
         where b.drive_id = f.drive_id and (f.path = '' or b.path = f.path or (b.path > f.path || '/' and b.path < f.path || '0'))), 0) as "photosWithin"
     from folder f where ${outsideTrash('f')} order by f.drive_id, f.path`,
    seen.bind,
  );
  return seesOnlyParts(viewer) ? folders.filter(({ photosWithin }) => photosWithin > 0) : folders;
}
