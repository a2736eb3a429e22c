// The tables' side of moving, copying, trashing and removing: whom it concerns, and the steps still to be made.

import type { FieldValues } from '@stellin/core/metadata/fields';
import type { FilingAction, FilingPlan } from '@stellin/contract/filing';
import type { Selection } from '@stellin/contract/photos';
import type { Bind, Database, Transaction } from '../database/database';
import { PLACE_SQL } from './ledger';
import { recordPhotos } from '../ledger/recordStore';
import { baseNameSql } from '../catalogue/baseName';
import { COPIED_COLUMNS, PHOTO_TABLES } from '../catalogue/photoColumns';
import { selectionSql } from '../catalogue/selection';
import { TRASHED_PATH } from '../files/trash';

/** Where files are to go. */
export interface Target {
  driveId: string;
  folder: string;
  /** The folder above the photos whose folders go along; null: all go into the one folder. */
  keepBelow: string | null;
}

interface ActionRule {
  aspect: 'place' | 'copy' | 'removed';
  /** Which of the photos meant it concerns at all. */
  concerns: string;
  /** What becomes of them, as the ledger keeps it. $drive and $folder stand for the target. */
  after: string;
  before: string;
  /** Whether files are touched, and those of the photos themselves changed. */
  touches: 'nothing' | 'reads' | 'files';
}

const placeAt = (drive: string, folder: string, trashedFrom: string) =>
  `jsonb_build_object('drive', ${drive}, 'folder', ${folder}, 'name', p.name, 'trashedFrom', ${trashedFrom})`;
/** The folder in which a photo is to be: below the target as it is below the folder that is kept, where one is. */
const TARGET_FOLDER = `case when $base::text = '' or starts_with(f.path || '/', $base::text || '/')
    then trim(both '/' from $folder::text || '/' || trim(leading '/' from substr(f.path, length($base::text) + 1))) else $folder::text end`;
const ELSEWHERE = placeAt('$drive::uuid', TARGET_FOLDER, 'null::text');

/** Renaming is not here: its names are made from a pattern. */
export const ACTIONS: Record<Exclude<FilingAction, 'rename'>, ActionRule> = {
  move: {
    aspect: 'place',
    concerns: `p.shown and (p.drive_id <> $drive::uuid or f.path <> ${TARGET_FOLDER})`,
    before: PLACE_SQL,
    after: ELSEWHERE,
    touches: 'files',
  },
  copy: {
    aspect: 'copy',
    concerns: 'p.shown and $drive::uuid is not null and $folder::text is not null',
    before: `'null'::jsonb`,
    after: ELSEWHERE,
    touches: 'reads',
  },
  trash: {
    aspect: 'place',
    concerns: 'p.shown',
    before: PLACE_SQL,
    after: placeAt('p.drive_id', TRASHED_PATH, 'f.path'),
    touches: 'files',
  },
  restore: {
    aspect: 'place',
    concerns: 'p.trashed_from is not null',
    before: PLACE_SQL,
    after: placeAt('p.drive_id', 'p.trashed_from', 'null::text'),
    touches: 'files',
  },
  remove: {
    aspect: 'removed',
    concerns: 'p.shown',
    before: `'false'::jsonb`,
    after: `'true'::jsonb`,
    touches: 'nothing',
  },
  return: {
    aspect: 'removed',
    concerns: 'p.removed',
    before: `'true'::jsonb`,
    after: `'false'::jsonb`,
    touches: 'nothing',
  },
};

/** Why a photo's files can't be touched now, or null. */
const HINDRANCE: Record<ActionRule['touches'], string> = {
  nothing: 'null::text',
  reads: `case when p.missing_since is not null then 'missing' when not d.attached then 'away' end`,
  files: `case when p.missing_since is not null then 'missing' when not d.attached then 'away' when d.read_only then 'readOnly'
    when exists (select 1 from filing_step s where s.photo_id = p.id) then 'busy' end`,
};

const JOINS = 'join photo p on p.id = chosen.id join folder f on f.id = p.folder_id join drive d on d.id = p.drive_id';

/** Fills $drive, $folder and $base in. */
function withTarget(sql: string, bind: unknown[], target: Target | undefined): string {
  if (!/\$(drive|folder)\b/.test(sql)) return sql;
  const drive = `$${bind.push(target?.driveId ?? null)}`;
  const folder = `$${bind.push(target?.folder ?? '')}`;
  const base = `$${bind.push(target?.keepBelow ?? null)}`;
  return sql.replaceAll('$drive', drive).replaceAll('$folder', folder).replaceAll('$base', base);
}

/** Records what an action does to the photos of a selection, as far as their files can be touched. */
export async function recordAction(
  database: Database,
  entryId: number,
  action: keyof typeof ACTIONS,
  selection: Selection,
  target: Target | undefined,
  tx: Transaction,
): Promise<void> {
  const { aspect, concerns, before, after, touches } = ACTIONS[action];
  const chosen = selectionSql(selection);
  const bind = [...chosen.bind];
  const sql = `select p.id, 0, ${before}, ${after} from (${chosen.sql}) chosen ${JOINS}
    where ${concerns} and ${HINDRANCE[touches]} is null`;
  await recordPhotos(database, entryId, aspect, { sql: withTarget(sql, bind, target), bind }, tx);
}

type Counts = Omit<FilingPlan, 'examples' | 'problem'>;

/** Whom an action concerns, and who is left out why. */
export async function countAction(
  database: Database,
  action: FilingAction,
  selection: Selection,
  target: Target | undefined,
): Promise<Counts> {
  const { concerns, after, touches } = action === 'rename' ? { ...ACTIONS.trash, after: PLACE_SQL } : ACTIONS[action];
  const chosen = selectionSql(selection);
  const bind = [...chosen.bind];
  const sql = `with meant as materialized (
      select p.id, p.name, p.size_bytes, ${HINDRANCE[touches]} as hindrance, ${after} as place
      from (${chosen.sql}) chosen ${JOINS} where ${concerns})
    select count(*) filter (where hindrance is null)::int as photos,
      coalesce(sum(size_bytes) filter (where hindrance is null), 0)::float8 as bytes,
      count(*) filter (where hindrance = 'away')::int as away, count(*) filter (where hindrance = 'missing')::int as missing,
      count(*) filter (where hindrance = 'readOnly')::int as "readOnly", count(*) filter (where hindrance = 'busy')::int as busy,
      ${
        touches === 'nothing' || action === 'rename'
          ? '0'
          : `(select count(*)::int from meant m join folder tf on tf.drive_id = (m.place ->> 'drive')::uuid and tf.path = m.place ->> 'folder'
              join photo o on o.folder_id = tf.id and o.name = m.name where m.hindrance is null)`
      } as taken
    from meant`;
  const row = await database.row<Counts>(withTarget(sql, bind, target), bind);
  return row ?? { photos: 0, bytes: 0, away: 0, missing: 0, readOnly: 0, busy: 0, taken: 0 };
}

/** Where a file is or is to be. */
interface Place {
  driveId: string;
  folder: string;
  name: string;
}

/** A file that is to get another name. */
export interface NamedPhoto {
  id: number;
  name: string;
  base: string;
  driveId: string;
  folderId: number;
  folder: string;
  takenAt: string | null;
  camera: string;
  fields: FieldValues;
  terms: string[];
  people: number;
  /** SHA-256 in hex; null: not read for that yet. */
  hash: string | null;
}

/** Opens a cursor over the photos of a selection that can be renamed: in the order of capture, those that share a base name one after the other. */
export async function openRenaming(database: Database, selection: Selection, tx: Transaction): Promise<void> {
  const chosen = selectionSql(selection);
  await database.rows(
    `declare renaming no scroll cursor for select p.id, p.name, ${baseNameSql('p.name')} as base, p.drive_id as "driveId", p.folder_id as "folderId", f.path as folder,
       to_char(p.taken_at, 'YYYY-MM-DD"T"HH24:MI:SS') as "takenAt", coalesce(t.facts ->> 'model', '') as camera, t.fields,
       coalesce((select array_agg(m.label order by m.label, m.id) from photo_term g join term m on m.id = g.term_id where g.photo_id = p.id), '{}') as terms,
       (select count(distinct who.person_id)::int from (select person_id from face where photo_id = p.id and state = 'named'
         union all select person_id from photo_person where photo_id = p.id) who) as people,
       (select encode(x.sha256, 'hex') from photo_fixity x where x.photo_id = p.id) as hash
     from (${chosen.sql}) chosen ${JOINS} join photo_text t on t.photo_id = p.id
     where p.shown and ${HINDRANCE.files} is null
     order by min(p.taken_at) over (partition by p.folder_id, ${baseNameSql('p.name')}) nulls last, f.path, base, p.id`,
    chosen.bind,
    tx,
  );
}

export function nextToRename(database: Database, limit: number, tx: Transaction): Promise<NamedPhoto[]> {
  return database.rows<NamedPhoto>(`fetch ${limit} from renaming`, [], tx);
}

/** Which of some places hold a photo of a selection that can be renamed, as `drive/folder/name`. */
export async function renamedFrom(
  database: Database,
  selection: Selection,
  places: readonly Place[],
  tx: Transaction,
): Promise<Set<string>> {
  if (places.length === 0) return new Set();
  const chosen = selectionSql(selection);
  const bind = [...chosen.bind];
  const [drives, folders, names] = columnsOf(places).map((column) => `$${bind.push(column)}`);
  const rows = await database.rows<{ place: string }>(
    `select ${PLACE_KEY} as place from (${chosen.sql}) chosen ${JOINS}
     where p.shown and ${HINDRANCE.files} is null
       and (f.drive_id, f.path, p.name) in (select * from unnest(${drives}::uuid[], ${folders}::text[], ${names}::text[]))`,
    bind,
    tx,
  );
  return new Set(rows.map(({ place }) => place));
}

/** Records new names. */
export async function recordNames(
  database: Database,
  entryId: number,
  names: readonly { id: number; name: string }[],
  tx: Transaction,
): Promise<void> {
  const sql = `select p.id, 0, ${PLACE_SQL}, ${PLACE_SQL} || jsonb_build_object('name', r.name)
    from unnest($1::int[], $2::text[]) as r (id, name) join photo p on p.id = r.id join folder f on f.id = p.folder_id
    where p.name <> r.name`;
  const bind = [names.map(({ id }) => id), names.map(({ name }) => name)];
  await recordPhotos(database, entryId, 'place', { sql, bind }, tx);
}

/** A file to be moved or copied. */
export interface Step {
  id: string;
  photoId: number;
  copies: boolean;
  /** Only out of the way of others; where it goes follows. */
  aside: boolean;
  started: boolean;
  /** What it is to become. */
  toDrive: string;
  toLabel: string;
  toMountPoint: string | null;
  toFolder: string;
  toName: string;
  trashedFrom: string | null;
  /** What it is. */
  driveId: string;
  label: string;
  mountPoint: string | null;
  folderId: number;
  folder: string;
  name: string;
  base: string;
  sizeBytes: number;
  /** What it should hold; null where that is not known. */
  sha256: string | null;
}

/** The next steps of an entry, in their order; none that goes on before all have stepped aside. */
export async function nextSteps(database: Database, entryId: number, limit: number): Promise<Step[]> {
  return database.rows<Step>(
    `select s.id::text, s.photo_id as "photoId", s.copies, s.aside, s.started, s.drive_id as "toDrive", t.label as "toLabel",
       case when t.attached then t.mount_point end as "toMountPoint", s.folder as "toFolder", s.name as "toName", s.trashed_from as "trashedFrom",
       p.drive_id as "driveId", d.label, case when d.attached then d.mount_point end as "mountPoint", f.id as "folderId", f.path as folder, p.name, ${baseNameSql('p.name')} as base, p.size_bytes::float8 as "sizeBytes",
       (select encode(x.sha256, 'hex') from photo_fixity x where x.photo_id = p.id) as sha256
     from filing_step s join drive t on t.id = s.drive_id join photo p on p.id = s.photo_id
     join drive d on d.id = p.drive_id join folder f on f.id = p.folder_id
     where s.entry_id = $1 and s.aside = (select aside from filing_step where entry_id = $1 order by id limit 1) order by s.id limit $2`,
    [entryId, limit],
  );
}

export async function countSteps(database: Database, entryId: number): Promise<number> {
  const row = await database.row<{ count: number }>(
    'select count(*)::int as count from filing_step where entry_id = $1',
    [entryId],
  );
  return row?.count ?? 0;
}

/** Of some base names in folders, how many photos with a file have each: who else may need its sidecar. */
export async function sharersOf(
  database: Database,
  bases: readonly { folderId: number; base: string }[],
): Promise<Map<string, number>> {
  const rows = await database.rows<{ folderId: number; base: string; photos: number }>(
    `select b.folder as "folderId", b.base, count(*)::int as photos
     from (select distinct * from unnest($1::int[], $2::text[]) as u (folder, base)) b
     join photo p on p.folder_id = b.folder and ${baseNameSql('p.name')} = b.base and p.missing_since is null group by 1, 2`,
    [bases.map(({ folderId }) => folderId), bases.map(({ base }) => base)],
  );
  return new Map(rows.map(({ folderId, base, photos }) => [sharerKey(folderId, base), photos]));
}

export function sharerKey(folderId: number, base: string): string {
  return `${folderId}/${base}`;
}

/** Which of some places the catalogue knows a photo at, as `drive/folder/name`. */
export async function knownPlaces(
  database: Database,
  places: readonly Place[],
  tx?: Transaction,
): Promise<Set<string>> {
  const rows = await database.rows<{ place: string }>(
    `select ${PLACE_KEY} as place
     from unnest($1::uuid[], $2::text[], $3::text[]) as a (drive, folder, name)
     join folder f on f.drive_id = a.drive and f.path = a.folder join photo p on p.folder_id = f.id and p.name = a.name`,
    columnsOf(places),
    tx,
  );
  return new Set(rows.map(({ place }) => place));
}

const PLACE_KEY = `concat_ws('/', f.drive_id, f.path, p.name)`;

function columnsOf(places: readonly Place[]) {
  return [places.map(({ driveId }) => driveId), places.map(({ folder }) => folder), places.map(({ name }) => name)];
}

export function placeKey(place: Place): string {
  return `${place.driveId}/${place.folder}/${place.name}`;
}

/** Settles names: from here on files may have been touched. */
export async function startSteps(database: Database, steps: readonly Step[]): Promise<void> {
  await database.rows(
    `update filing_step s set started = true, name = r.name from unnest($1::bigint[], $2::text[]) as r (id, name) where s.id = r.id`,
    [steps.map(({ id }) => id), steps.map(({ toName }) => toName)],
  );
}

/** A step whose file is where it was to go, and the folder that it is in now. */
export interface Made {
  step: Step;
  toFolderId: number;
  sidecarPath: string | undefined;
}

/** Writes down where moved files are. */
export async function recordMoved(
  database: Database,
  entryId: number,
  made: readonly Made[],
  tx: Transaction,
): Promise<void> {
  if (made.length === 0) return;
  const json = JSON.stringify(
    made.map(({ step, toFolderId }) => ({
      id: step.photoId,
      drive: step.toDrive,
      folder: toFolderId,
      name: step.toName,
      trashed_from: step.trashedFrom,
    })),
  );
  await database.rows(
    `update photo p set drive_id = r.drive, folder_id = r.folder, name = r.name, trashed_from = r.trashed_from
     from jsonb_to_recordset($1::jsonb) as r (id int, drive uuid, folder int, name text, trashed_from text) where p.id = r.id`,
    [json],
    tx,
  );
  await database.rows(
    `update ledger_photo l set after = ${PLACE_SQL} from photo p join folder f on f.id = p.folder_id
     where l.entry_id = $1 and l.aspect = 'place' and l.photo_id = p.id and p.id = any($2)`,
    [entryId, made.map(({ step }) => step.photoId)],
    tx,
  );
  await removeSteps(
    database,
    made.map(({ step }) => step.id),
    tx,
  );
}

/** Makes records of copied files, with all that was said of the first ones, and returns their ids. Undone, the copies go to the trash. */
export async function recordCopied(
  database: Database,
  entryId: number,
  made: readonly Made[],
  tx: Transaction,
): Promise<number[]> {
  if (made.length === 0) return [];
  const json = JSON.stringify(
    made.map(({ step, toFolderId }) => ({
      id: step.photoId,
      drive: step.toDrive,
      folder: toFolderId,
      name: step.toName,
    })),
  );
  const from = `jsonb_to_recordset($1::jsonb) as r (id int, drive uuid, folder int, name text)`;
  const copies = await database.rows<{ id: number; of: number }>(
    `with copied as (
       insert into photo (drive_id, folder_id, name, ${listOf('', COPIED_COLUMNS)})
       select r.drive, r.folder, r.name, ${listOf('p.', COPIED_COLUMNS)} from ${from} join photo p on p.id = r.id returning id, folder_id, name)
     select copied.id, r.id as of from copied join ${from} on r.folder = copied.folder_id and r.name = copied.name`,
    [json],
    tx,
  );
  const pairs = [copies.map(({ id }) => id), copies.map(({ of }) => of)];
  for (const [table, { copied }] of Object.entries(PHOTO_TABLES))
    if (copied.length > 0)
      await database.rows(
        `insert into ${table} (photo_id, ${listOf('', copied)}) select c.id, ${listOf('s.', copied)}
         from unnest($1::int[], $2::int[]) as c (id, of) join ${table} s on s.photo_id = c.of`,
        pairs,
        tx,
      );
  await recordArrived(
    database,
    entryId,
    copies.map(({ id }) => id),
    tx,
  );
  await removeSteps(
    database,
    made.map(({ step }) => step.id),
    tx,
  );
  return copies.map(({ id }) => id);
}

/** Records photos as new: they were in the trash before, as far as taking the entry back is concerned. */
export async function recordArrived(
  database: Database,
  entryId: number,
  photoIds: readonly number[],
  tx: Transaction,
): Promise<void> {
  const sql = `select p.id, 0, ${placeAt('p.drive_id', TRASHED_PATH, 'f.path')}, ${PLACE_SQL}
    from photo p join folder f on f.id = p.folder_id where p.id = any($1::int[])`;
  await recordPhotos(database, entryId, 'place', { sql, bind: [photoIds] }, tx);
}

function listOf(prefix: string, columns: readonly string[]): string {
  return columns.map((column) => prefix + column).join(', ');
}

/** What an entry says of photos that it did nothing to: those that stepped aside are elsewhere now, and undo brings them back. */
const UNTOUCHED = `(l.aspect = 'copy' or (l.aspect = 'place' and l.after <> ${PLACE_SQL}))`;

/** Gives up what an entry was to do to the photos of some steps. */
export async function dropSteps(
  database: Database,
  entryId: number,
  steps: readonly Step[],
  tx: Transaction,
): Promise<void> {
  if (steps.length === 0) return;
  const photos: Bind = [entryId, steps.map(({ photoId }) => photoId)];
  await database.rows(
    `delete from ledger_photo l using photo p join folder f on f.id = p.folder_id
     where l.entry_id = $1 and l.photo_id = any($2) and p.id = l.photo_id and ${UNTOUCHED}`,
    photos,
    tx,
  );
  await database.rows(
    'update ledger_entry set photos = (select count(distinct photo_id) from ledger_photo where entry_id = $1) where id = $1',
    [entryId],
    tx,
  );
  await database.rows('delete from filing_step where entry_id = $1 and photo_id = any($2)', photos, tx);
}

async function removeSteps(database: Database, ids: readonly string[], tx: Transaction): Promise<void> {
  await database.rows('delete from filing_step where id = any($1::bigint[])', [ids], tx);
}

/** Entries with steps that no job is at. */
export async function strandedEntries(
  database: Database,
  jobKind: string,
): Promise<{ id: number; title: string; accountId: number | null }[]> {
  return database.rows(
    `select e.id, e.title, e.account_id as "accountId" from ledger_entry e
     where exists (select 1 from filing_step s where s.entry_id = e.id)
       and not exists (select 1 from job_run j where j.kind = $1 and (j.parameters ->> 'entryId')::int = e.id)`,
    [jobKind],
  );
}

/** Forgets steps of jobs that were cancelled or have failed: what they had not moved stays where it is. */
export async function dropAbandoned(database: Database, jobKind: string, tx: Transaction): Promise<void> {
  const dropped = await database.rows<{ entry: number }>(
    `with dropped as (
       delete from filing_step s using job_run j where j.kind = $1 and j.state in ('cancelled', 'failed')
         and (j.parameters ->> 'entryId')::int = s.entry_id returning s.entry_id, s.photo_id)
     delete from ledger_photo l using dropped x join photo p on p.id = x.photo_id join folder f on f.id = p.folder_id
     where l.entry_id = x.entry_id and l.photo_id = x.photo_id and ${UNTOUCHED}
     returning l.entry_id as entry`,
    [jobKind],
    tx,
  );
  if (dropped.length > 0)
    await database.rows(
      'update ledger_entry e set photos = (select count(distinct photo_id) from ledger_photo where entry_id = e.id) where id = any($1)',
      [[...new Set(dropped.map(({ entry }) => entry))]],
      tx,
    );
}

/** The title of what an undo or redo would reverse while its files are still on their way. */
export async function reversedOnTheWay(
  database: Database,
  entryId: number,
  tx: Transaction,
): Promise<string | undefined> {
  const row = await database.row<{ title: string }>(
    `select o.title from ledger_entry e join ledger_entry o on o.id = e.reverses
     where e.id = $1 and exists (select 1 from filing_step s join ledger_entry r on r.id = s.entry_id
       where s.entry_id <> e.id and (r.id = o.id or r.reverses = o.id))`,
    [entryId],
    tx,
  );
  return row?.title;
}

/** What is in the trash, by drive. */
export async function listTrash(database: Database) {
  const [drives, removed] = await Promise.all([
    database.rows<{ id: string; label: string; away: boolean; photos: number; bytes: number }>(
      `select d.id, d.label, not d.attached as away, count(*)::int as photos, sum(p.size_bytes)::float8 as bytes
       from photo p join drive d on d.id = p.drive_id where p.trashed_from is not null group by d.id order by d.label`,
    ),
    database.row<{ count: number }>('select count(*)::int as count from photo where removed'),
  ]);
  return { drives, removed: removed?.count ?? 0 };
}

export interface TrashedFile {
  id: number;
  folderId: number;
  folder: string;
  name: string;
  base: string;
}

export async function nextTrashed(
  database: Database,
  driveId: string,
  after: number,
  limit: number,
): Promise<TrashedFile[]> {
  return database.rows<TrashedFile>(
    `select p.id, p.folder_id as "folderId", f.path as folder, p.name, ${baseNameSql('p.name')} as base from photo p join folder f on f.id = p.folder_id
     where p.drive_id = $1 and p.trashed_from is not null and p.id > $2
       and not exists (select 1 from filing_step s where s.photo_id = p.id) order by p.id limit $3`,
    [driveId, after, limit],
  );
}

export async function countTrashed(database: Database, driveId: string): Promise<number> {
  const row = await database.row<{ count: number }>(
    'select count(*)::int as count from photo where drive_id = $1 and trashed_from is not null',
    [driveId],
  );
  return row?.count ?? 0;
}

/** What is kept of photos in the data folder. */
export interface KeptPictures {
  id: number;
  version: number;
  /** Their faces. */
  faces: number[];
}

export function picturesOf(database: Database, ids: readonly number[]): Promise<KeptPictures[]> {
  return database.rows<KeptPictures>(
    `select p.id, p.preview_version as version, array(select f.id from face f where f.photo_id = p.id) as faces
     from photo p where p.id = any($1)`,
    [ids],
  );
}

/** Deletes photos for good, with all that was said of them. */
export async function forget(database: Database, ids: readonly number[]): Promise<void> {
  await database.rows('delete from photo where id = any($1)', [ids]);
}
