// The SQL of what waits to be written, and of what was written.

import type { FileKind } from '@stellin/core/metadata/containers/index';
import { availableParallelism } from 'node:os';
import type { FieldId, FieldValue } from '@stellin/core/metadata/fields';
import type { MetadataVersion, PendingWrite, WriteBackDrive } from '@stellin/contract/writeback';
import { noteWritten } from '../catalogue/fixity';
import type { KeptVersion } from '../files/takeBack';
import type { MadeHashes } from '../files/writeFiles.worker';
import { sightSql } from '../catalogue/sightSql';
import { seesOnlyParts, type Viewer } from '../catalogue/viewer';
import type { Bind, Database, Transaction } from '../database/database';
import { isoSql } from '../database/isoSql';

/** Ids of fields, and own fields of the project, that are never written, see policies.ts. */
const WITHHELD = `coalesce((select value -> 'withheld' from setting where name = 'writePolicies'), '[]')`;

/** What the file is to say of a field `i`, as the catalogue has it. */
const TO_SAY = `(select coalesce(case i.field when 'custom' then own_fields_for_file(t.fields -> 'custom', i.value, ${WITHHELD}) else t.fields -> i.field end, 'null')
  from photo_text t where t.photo_id = i.photo_id)`;

/** Whether a field `i` is to be written: what is withheld stays as it is. Of own fields there may be nothing else that differs. */
const TO_WRITE = `(not (${WITHHELD} ? i.field) and (i.field <> 'custom' or ${TO_SAY} <> i.value))`;

/** From this many photos on the temporary table is analyzed: below, PostgreSQL's default estimates give good plans. */
const ANALYZE_FROM_PHOTOS = 500;

/**
 * Lets a statement on many photos join by hashing what an entry changed with what files say otherwise. That is often empty, so PostgreSQL believes
 * it to be so where a change has just filled it, and would look through all of it for each photo.
 */
async function byHashing<Result>(
  database: Database,
  photos: number,
  tx: Transaction,
  work: () => Promise<Result>,
): Promise<Result> {
  if (photos <= ANALYZE_FROM_PHOTOS) return work();
  await database.rows('set local enable_nestloop = off', [], tx);
  const result = await work();
  await database.rows('set local enable_nestloop = on', [], tx);
  return result;
}

/**
 * Brings the queue in line with what the catalogue says of these photos (a statement that returns `id`): a photo waits exactly
 * when its keywords, its rating, its mark or a field differ from what its file was last known to say, and is in conflict when
 * both sides have changed one of them.
 */
export async function refreshWaiting(
  database: Database,
  photos: { sql: string; bind: Bind },
  tx: Transaction,
): Promise<void> {
  await settleTouched(database, await touch(database, photos, tx), tx);
}

/** Notes photos in a table of its own that PostgreSQL knows the size of: of an entry just written it guesses one photo. Returns how many. */
async function touch(database: Database, photos: { sql: string; bind: Bind }, tx: Transaction): Promise<number> {
  await database.rows('create temp table if not exists touched (id int primary key) on commit drop', [], tx);
  await database.rows('delete from touched', [], tx);
  const some = await database.row<{ photos: number }>(
    `with chosen as (insert into touched select distinct id from (${photos.sql}) chosen returning id) select count(*)::int as photos from chosen`,
    photos.bind,
    tx,
  );
  return some?.photos ?? 0;
}

async function settleTouched(database: Database, photos: number, tx: Transaction): Promise<void> {
  if (photos > ANALYZE_FROM_PHOTOS) await database.rows('analyze touched', [], tx);
  await database.rows(
    `with state as materialized (
       select p.id, p.rating <> p.rating_written or p.mark <> p.mark_written as other,
         exists (select 1 from written_keyword w where w.photo_id = p.id) as written
       from touched join photo p on p.id = touched.id),
     said as (
       select w.photo_id, w.keyword from state join written_keyword w on w.photo_id = state.id
       union all
       select distinct g.photo_id, k.keyword from state join photo_term g on g.photo_id = state.id join term_keyword k on k.term_id = g.term_id
       where state.written),
     -- Nothing of ours stands in a file that was never written: there any keyword waits.
     differing as materialized (
       select photo_id as id from (select photo_id from said group by photo_id, keyword having count(*) = 1) d
       union
       select s.id from state s where not s.written and exists (
         select 1 from photo_term g join term_keyword k on k.term_id = g.term_id where g.photo_id = s.id)
       union
       select s.id from state s join photo_keyword k on k.photo_id = s.id where not k.in_file
       union
       select id from state where other
       union
       select i.photo_id from touched join field_in_file i on i.photo_id = touched.id where i.conflicting is not null or ${TO_WRITE}),
     conflicting as materialized (select distinct i.photo_id as id from touched join field_in_file i on i.photo_id = touched.id where i.conflicting is not null),
     settled as (delete from write_back b where b.photo_id in (select id from touched except select id from differing)),
     turned as (update write_back b set message = '', state = case when b.photo_id in (select id from conflicting) then 'conflict' else 'waiting' end
       from differing where b.photo_id = differing.id and (b.photo_id in (select id from conflicting)) <> (b.state = 'conflict'))
     insert into write_back (photo_id, state) select d.id, case when c.id is null then 'waiting' else 'conflict' end
     from differing d left join conflicting c on c.id = d.id on conflict (photo_id) do nothing`,
    [],
    tx,
  );
}

/** The same for all photos that an entry of the ledger touched. */
export async function refreshAfterEntry(database: Database, entryId: number, tx: Transaction): Promise<void> {
  const aspects = await database.row<{ others: boolean; photos: number }>(
    `select coalesce(bool_or(aspect <> 'fields'), false) as others, count(*)::int as photos from ledger_photo where entry_id = $1`,
    [entryId],
    tx,
  );
  if (aspects?.others) {
    await refreshWaiting(
      database,
      { sql: 'select photo_id as id from ledger_photo where entry_id = $1', bind: [entryId] },
      tx,
    );
    return;
  }
  // Where only fields change, a photo with one that differs waits, whatever else there is: only the others have to be looked at.
  const differing = `select i.photo_id from ledger_photo l join field_in_file i on i.photo_id = l.photo_id where l.entry_id = $1 and ${TO_WRITE}`;
  const touched = await byHashing(database, aspects?.photos ?? 0, tx, async () => {
    await database.rows(
      `insert into write_back (photo_id, state) select distinct photo_id, 'waiting' from (${differing}) d on conflict do nothing`,
      [entryId],
      tx,
    );
    const rest = `select photo_id as id from ledger_photo where entry_id = $1 except ${differing}`;
    return touch(database, { sql: rest, bind: [entryId] }, tx);
  });
  await settleTouched(database, touched, tx);
}

/** The same for photos (a statement that returns `photo_id`) whose keywords are others now. */
export async function queueForKeywords(
  database: Database,
  photos: { sql: string; bind: Bind },
  tx: Transaction,
): Promise<void> {
  await database.rows('create temp table if not exists photo_to_write (photo_id int) on commit drop', [], tx);
  await database.rows('delete from photo_to_write', [], tx);
  await database.rows(`insert into photo_to_write ${photos.sql}`, photos.bind, tx);
  await database.rows(
    `insert into write_back (photo_id, state) select photo_id, 'waiting' from photo_to_write on conflict do nothing`,
    [],
    tx,
  );
  // Those that waited before may by now say what their files say.
  await refreshWaiting(
    database,
    {
      sql: `select b.photo_id as id from photo_to_write w join write_back b on b.photo_id = w.photo_id
        where b.since < now() and exists (select 1 from written_keyword k where k.photo_id = b.photo_id)`,
      bind: [],
    },
    tx,
  );
}

export interface FilesOfDrive {
  label: string;
  away: boolean;
  files: number;
}

/** A count is split into this many ranges of ids that run in parallel; PostgreSQL does not parallelise it by itself. */
const RANGES = Math.max(1, Math.min(4, availableParallelism()));

/**
 * How many photos of a statement that takes a range of ids (and returns `photo_id`) are on each drive, attached ones first. Those
 * that are set aside are few: leaving them out by their own index lets the others be counted from an index alone.
 */
export async function filesByDrive(
  database: Database,
  photosIn: (from: number, to: number) => { sql: string; bind: Bind },
): Promise<FilesOfDrive[]> {
  const last = await database.row<{ id: number | null }>('select max(id) as id from photo');
  const step = Math.ceil(((last?.id ?? 0) + 1) / RANGES);
  const counts = await Promise.all(
    Array.from({ length: RANGES }, (_, i) => {
      const { sql, bind } = photosIn(i * step, (i + 1) * step);
      const range = [...bind, i * step, (i + 1) * step];
      return database.rows<{ driveId: string; files: number }>(
        `select p.drive_id as "driveId", count(*)::int as files from (${sql}) w join photo p on p.id = w.photo_id
         where p.id >= $${range.length - 1}::int and p.id < $${range.length}::int
           and p.id not in (select id from photo where not shown) group by p.drive_id`,
        range,
      );
    }),
  );
  const files = new Map<string, number>();
  for (const { driveId, files: more } of counts.flat()) files.set(driveId, (files.get(driveId) ?? 0) + more);
  const drives = await database.rows<{ id: string; label: string; away: boolean }>(
    'select id, label, not attached as away from drive where id = any($1::uuid[]) order by attached desc, label',
    [[...files.keys()]],
  );
  return drives.map(({ id, label, away }) => ({ label, away, files: files.get(id) ?? 0 }));
}

export async function overview(database: Database, viewer: Viewer, asking: boolean): Promise<WriteBackDrive[]> {
  const seen = sightSql(viewer.sight, [asking]);
  const exists = seesOnlyParts(viewer)
    ? `where exists (select 1 from photo p where p.drive_id = d.id and p.shown and ${seen.sql})`
    : '';
  return database.rows<WriteBackDrive>(
    `select d.id, d.label, d.attached,
       case when $1 and d.attached and bool_or(b.state = 'waiting' and b.since < d.attached_at) then ${isoSql('d.attached_at')} end as returned,
       count(*) filter (where b.state = 'waiting')::int as waiting,
       count(*) filter (where b.state = 'conflict')::int as conflict,
       count(*) filter (where b.state = 'failed')::int as failed,
       count(*) filter (where b.state is null and p.written_at is not null)::int as written
     from drive d left join photo p on p.drive_id = d.id and p.shown and (p.written_at is not null or exists (select 1 from write_back q where q.photo_id = p.id)) and ${seen.sql}
     left join write_back b on b.photo_id = p.id
     ${exists} group by d.id order by d.label`,
    seen.bind,
  );
}

/** What the catalogue says of a field `i` of the photo `p`. */
const CATALOGUE_SAYS = `case i.field when 'rating' then to_jsonb(p.rating) when 'mark' then to_jsonb(p.mark) else nullif(${TO_SAY}, 'null') end`;

export async function listPending(
  database: Database,
  filter: { state?: string; driveId?: string; offset: number; limit: number },
): Promise<{ photos: PendingWrite[]; total: number }> {
  const bind = [filter.state ?? null, filter.driveId ?? null];
  const from = `from write_back b join photo p on p.id = b.photo_id join folder f on f.id = p.folder_id join drive d on d.id = p.drive_id
    where p.shown and ($1::text is null or b.state = $1) and ($2::uuid is null or p.drive_id = $2)`;
  const [photos, total] = await Promise.all([
    database.rows<PendingWrite>(
      `select p.id as "photoId", p.name, f.path as "folderPath", d.id as "driveId", d.label as "driveLabel", d.attached, b.state,
         ${isoSql('b.since')} as since, b.message, p.preview_version as "previewVersion",
         array(select n.keyword from wanted_keyword n where n.photo_id = p.id
           and not exists (select 1 from written_keyword w where w.photo_id = p.id and w.keyword = n.keyword) order by 1) as add,
         array(select w.keyword from written_keyword w where w.photo_id = p.id
           and not exists (select 1 from wanted_keyword n where n.photo_id = p.id and n.keyword = w.keyword) order by 1) as remove,
         coalesce((select json_agg(json_build_object('field', i.field, 'before', i.value, 'after', ${CATALOGUE_SAYS}, 'file', i.conflicting, 'conflicts', i.conflicting is not null) order by i.field)
           from field_in_file i where i.photo_id = p.id and (i.conflicting is not null or ${TO_WRITE})), '[]') as fields,
         case when p.rating <> p.rating_written then json_build_object('before', p.rating_written, 'after', p.rating) end as rating,
         case when p.mark <> p.mark_written then json_build_object('before', p.mark_written, 'after', p.mark) end as mark
       ${from} order by b.state, b.since desc, p.id limit $3 offset $4`,
      [...bind, filter.limit, filter.offset],
    ),
    database.row<{ total: number }>(`select count(*)::int as total ${from}`, bind),
  ]);
  return { photos, total: total?.total ?? 0 };
}

export interface WriteTask {
  id: number;
  driveId: string;
  driveLabel: string;
  mountPoint: string;
  folderPath: string;
  name: string;
  kind: FileKind;
  sizeBytes: number;
  mtimeMs: number;
  sidecarMtimeMs: number | null;
  rating: number;
  ratingWritten: number;
  mark: string;
  markWritten: string;
  /** Fields that the catalogue says otherwise than the file: what it says; null where nothing. */
  fields: Record<string, FieldValue | null>;
  /** Keywords that are no terms, in their order; of them those that stood in the file when it was read. */
  freeKeywords: string[];
  foundKeywords: string[];
  /** Keywords for its terms, and those that our last write put into the file. */
  termKeywords: string[];
  writtenKeywords: string[];
  termIds: number[];
  /** What the file says of terms by path and by address. */
  hierarchy: FieldValue | null;
  about: FieldValue | null;
  folderId: number;
}

const TASK_COLUMNS = `p.id, p.drive_id as "driveId", d.label as "driveLabel", d.mount_point as "mountPoint", f.path as "folderPath", p.name, p.kind,
  p.size_bytes::float8 as "sizeBytes", p.mtime_ms as "mtimeMs", p.sidecar_mtime_ms as "sidecarMtimeMs", p.rating, p.rating_written as "ratingWritten", p.mark, p.mark_written as "markWritten",
  coalesce((select jsonb_object_agg(i.field, ${TO_SAY}) from field_in_file i where i.photo_id = p.id and i.conflicting is null and ${TO_WRITE}), '{}') as fields,
  array(select keyword from photo_keyword k where k.photo_id = p.id order by position) as "freeKeywords",
  array(select keyword from photo_keyword k where k.photo_id = p.id and k.in_file order by position) as "foundKeywords",
  array(select n.keyword from wanted_keyword n where n.photo_id = p.id order by 1) as "termKeywords",
  array(select w.keyword from written_keyword w where w.photo_id = p.id order by 1) as "writtenKeywords", f.id as "folderId",
  array(select g.term_id from photo_term g where g.photo_id = p.id order by 1) as "termIds",
  (select t.fields -> 'keywordHierarchy' from photo_text t where t.photo_id = p.id) as hierarchy,
  (select t.fields -> 'aboutCvTerm' from photo_text t where t.photo_id = p.id) as about`;
const TASK_JOINS = 'join folder f on f.id = p.folder_id join drive d on d.id = p.drive_id';

/** The next writes that can be made now: waiting, on an attached drive, by photo id. */
export async function nextTasks(
  database: Database,
  scope: WriteScope & { driveId: string },
  after: number,
  limit: number,
): Promise<WriteTask[]> {
  const { sql, bind } = scopeSql(scope);
  return database.rows<WriteTask>(
    `select ${TASK_COLUMNS} ${sql} and p.id > $${bind.length + 1} order by p.id limit $${bind.length + 2}`,
    [...bind, after, limit],
  );
}

/** Of which waiting photos: all, those of a drive, those of a selection (a statement that returns `id`). */
export interface WriteScope {
  driveId: string | null;
  photos: { sql: string; bind: Bind } | null;
}

/** Waiting writes of a scope that can be made now. */
function scopeSql({ driveId, photos }: WriteScope): { sql: string; bind: unknown[] } {
  const bind = [...(photos?.bind ?? [])];
  const drive = `$${bind.push(driveId)}::uuid`;
  return {
    sql: `from write_back b join photo p on p.id = b.photo_id ${TASK_JOINS}
      where b.state = 'waiting' and p.shown and d.attached and not exists (select 1 from write_journal j where j.photo_id = p.id) and (${drive} is null or p.drive_id = ${drive})
        ${photos ? `and p.id in (${photos.sql})` : ''}`,
    bind,
  };
}

export async function countTasks(database: Database, scope: WriteScope): Promise<number> {
  const { sql, bind } = scopeSql(scope);
  const row = await database.row<{ count: number }>(`select count(*)::int as count ${sql}`, bind);
  return row?.count ?? 0;
}

/** The attached drives that something of a scope waits on. */
export async function taskDrives(database: Database, scope: WriteScope): Promise<string[]> {
  const { sql, bind } = scopeSql(scope);
  return (await database.rows<{ id: string }>(`select distinct d.id ${sql}`, bind)).map(({ id }) => id);
}

/** One of some drives that has gone away while something still waits on it. */
export async function goneDrive(
  database: Database,
  driveIds: readonly string[],
): Promise<{ id: string; label: string } | undefined> {
  return database.row(
    `select d.id, d.label from drive d where d.id = any($1::uuid[]) and not d.attached and exists (
       select 1 from write_back b join photo p on p.id = b.photo_id where b.state = 'waiting' and p.shown and p.drive_id = d.id)
     order by d.label limit 1`,
    [driveIds],
  );
}

/** Failed writes of a scope wait again. */
export async function retryFailed(database: Database, { driveId, photos }: WriteScope): Promise<void> {
  const bind = [...(photos?.bind ?? [])];
  const drive = `$${bind.push(driveId)}::uuid`;
  await database.rows(
    `update write_back b set state = 'waiting', message = '' from photo p where p.id = b.photo_id and b.state = 'failed'
       and (${drive} is null or p.drive_id = ${drive}) ${photos ? `and p.id in (${photos.sql})` : ''}`,
    bind,
  );
}

export interface Intended {
  /** How the file refers to terms besides keywords; only what is to be changed. */
  references: Record<string, FieldValue | null>;
  keywords: string[];
  termKeywords: string[];
  rating: number;
  mark: string;
  /** By their ids; null takes a field out. */
  fields: Record<string, FieldValue | null>;
}

export interface Journal {
  photoId: number;
  /** Serialised, one a file, with paths below the drive. */
  entries: string[];
  intended: Intended;
}

/** Notes that files are about to be written: what they were and are to become, and what the result will say. */
export async function openJournals(database: Database, journals: readonly Journal[]): Promise<void> {
  await database.rows(
    `insert into write_journal (photo_id, entries, intended)
     select "photoId", array(select jsonb_array_elements_text(entries)), intended
     from jsonb_to_recordset($1::jsonb) as r ("photoId" int, entries jsonb, intended jsonb)
     on conflict (photo_id) do update set entries = excluded.entries, intended = excluded.intended, started_at = now()`,
    [JSON.stringify(journals)],
  );
}

export async function closeJournals(database: Database, photoIds: readonly number[], tx?: Transaction): Promise<void> {
  await database.rows('delete from write_journal where photo_id = any($1)', [photoIds], tx);
}

const OPEN = `from write_journal j join photo p on p.id = j.photo_id ${TASK_JOINS} where d.attached`;

/** Whether there are journals of files on attached drives, of writes that go on or were cut off. */
export async function hasOpenWrites(database: Database): Promise<boolean> {
  return (await database.row(`select 1 as found ${OPEN} limit 1`)) !== undefined;
}

/** Says of files that a write of them was cut off and can’t be sorted out yet. */
export async function noteUnsettled(
  database: Database,
  problems: readonly { id: number; message: string }[],
): Promise<void> {
  if (problems.length === 0) return;
  await database.rows(
    `insert into write_back (photo_id, state, message)
     select r.id, 'failed', r.message from jsonb_to_recordset($1::jsonb) as r (id int, message text)
     on conflict (photo_id) do update set state = 'failed', message = excluded.message`,
    [JSON.stringify(problems)],
  );
  await database.notify(['writeBack', 'photos']);
}

/** Writes that a killed process left open, on drives that are attached. */
export async function openWrites(
  database: Database,
): Promise<(WriteTask & { entries: string[]; intended: Intended })[]> {
  return database.rows(`select ${TASK_COLUMNS}, j.entries, j.intended ${OPEN} order by p.id`);
}

export interface Written extends Intended {
  id: number;
  sizeBytes: number;
  mtimeMs: number;
  sidecarMtimeMs: number | null;
  /** What is kept so that the write can be taken back. */
  versions: readonly KeptVersion[];
  /** What the files hold now; null where that is not known. */
  hashes: MadeHashes | null;
}

/** Records writes that were made, and which photos wait again because something was said of them meanwhile. */
export async function recordWritten(database: Database, written: readonly Written[]): Promise<void> {
  if (written.length === 0) return;
  const ids = written.map(({ id }) => id);
  const hex = (bytes: Uint8Array | null) => bytes && Buffer.from(bytes).toString('hex');
  const versions = written.flatMap(({ id, versions: kept }) =>
    kept.map(({ target, back, givenHash }) => ({ id, target, back: hex(back), given: hex(givenHash) })),
  );
  await database.transaction(async (tx) => {
    await database.rows(
      `update photo p set size_bytes = r."sizeBytes", mtime_ms = r."mtimeMs", sidecar_mtime_ms = r."sidecarMtimeMs", rating_written = r.rating, mark_written = r.mark, written_at = now()
       from jsonb_to_recordset($1::jsonb) as r (id int, "sizeBytes" bigint, "mtimeMs" float8, "sidecarMtimeMs" float8, rating smallint, mark text) where p.id = r.id`,
      [JSON.stringify(written.map(({ versions: _versions, hashes: _hashes, ...row }) => row))],
      tx,
    );
    await database.rows(
      `update photo_text t set fields = jsonb_strip_nulls(t.fields || r."references")
       from jsonb_to_recordset($1::jsonb) as r (id int, "references" jsonb) where t.photo_id = r.id and r."references" <> '{}'`,
      [JSON.stringify(written.map(({ id, references }) => ({ id, references })))],
      tx,
    );
    // What the catalogue says by now may be something else again.
    await database.rows(
      `with said as (select r.id, k.key, k.value from jsonb_to_recordset($1::jsonb) as r (id int, fields jsonb) cross join jsonb_each(r.fields) k),
       agreeing as (delete from field_in_file i using said, photo_text t where i.photo_id = said.id and i.field = said.key and t.photo_id = said.id
         and coalesce(t.fields -> said.key, 'null') = said.value)
       insert into field_in_file (photo_id, field, value) select said.id, said.key, said.value from said join photo_text t on t.photo_id = said.id
         where coalesce(t.fields -> said.key, 'null') <> said.value
       on conflict (photo_id, field) do update set value = excluded.value`,
      [JSON.stringify(written.map(({ id, fields }) => ({ id, fields })))],
      tx,
    );
    await database.rows('update photo_keyword set in_file = true where photo_id = any($1) and not in_file', [ids], tx);
    await database.rows('delete from written_keyword where photo_id = any($1)', [ids], tx);
    await database.rows(
      `insert into written_keyword (photo_id, keyword) select r.id, jsonb_array_elements_text(r."termKeywords")
       from jsonb_to_recordset($1::jsonb) as r (id int, "termKeywords" jsonb)`,
      [JSON.stringify(written.map(({ id, termKeywords }) => ({ id, termKeywords })))],
      tx,
    );
    await database.rows(
      `insert into metadata_version (photo_id, target, back, given_hash)
       select id, target, decode(back, 'hex'), decode(given, 'hex') from jsonb_to_recordset($1::jsonb) as r (id int, target text, back text, given text)`,
      [JSON.stringify(versions)],
      tx,
    );
    await noteWritten(
      database,
      written.flatMap(({ id, hashes }) => (hashes ? [{ photoId: id, ...hashes }] : [])),
      tx,
    );
    await closeJournals(database, ids, tx);
    await refreshWaiting(database, { sql: 'select unnest($1::int[]) as id', bind: [ids] }, tx);
    await database.notify(['writeBack', 'photos'], tx);
  });
}

export interface WriteProblem {
  id: number;
  /** The file is neither the old nor the new one: its journal stays. */
  unsettled: boolean;
  state: 'conflict' | 'failed';
  message: string;
}

/** Records what could not be written; the files are as they were, but for those whose journal stays. */
export async function recordProblems(database: Database, problems: readonly WriteProblem[]): Promise<void> {
  if (problems.length === 0) return;
  await database.transaction(async (tx) => {
    await database.rows(
      `update write_back b set state = r.state, message = r.message
       from jsonb_to_recordset($1::jsonb) as r (id int, state text, message text) where b.photo_id = r.id`,
      [JSON.stringify(problems)],
      tx,
    );
    await closeJournals(
      database,
      problems.flatMap(({ id, unsettled }) => (unsettled ? [] : [id])),
      tx,
    );
    await database.notify(['writeBack', 'photos'], tx);
  });
}

/** The fields in conflict, by photo; photos without any are left out. */
export async function conflictsOf(database: Database, photoIds: readonly number[]): Promise<Map<number, FieldId[]>> {
  const rows = await database.rows<{ id: number; fields: FieldId[] }>(
    `select photo_id as id, array_agg(field order by field) as fields from field_in_file
     where photo_id = any($1) and conflicting is not null group by photo_id`,
    [photoIds],
  );
  return new Map(rows.map(({ id, fields }) => [id, fields]));
}

/** Fields in conflict, with how many photos. */
export function countConflicts(database: Database): Promise<{ field: string; photos: number }[]> {
  return database.rows(
    `select i.field, count(*)::int as photos from field_in_file i join photo p on p.id = i.photo_id
     where i.conflicting is not null and p.shown group by i.field order by 2 desc, 1`,
  );
}

/** A photo's write as it stands now, whatever it waits for; undefined when there is no such photo. */
export async function taskOf(database: Database, photoId: number): Promise<WriteTask | undefined> {
  return database.row<WriteTask>(`select ${TASK_COLUMNS} from photo p ${TASK_JOINS} where p.id = $1`, [photoId]);
}

/** Photos that wait, or would without what is withheld: after that has changed, the queue is to be brought in line for them. */
export const DIFFERING_SQL = 'select distinct photo_id as id from field_in_file union select photo_id from write_back';

/** Attached drives on which writes wait, and whether any of these waited already when the drive returned. */
export function waitingDrives(database: Database): Promise<{ id: string; returned: boolean }[]> {
  return database.rows(
    `select d.id, bool_or(b.since < d.attached_at) as returned from write_back b join photo p on p.id = b.photo_id join drive d on d.id = p.drive_id
     where b.state = 'waiting' and p.shown and d.attached group by d.id`,
  );
}

/** When anything was last changed by anybody. */
export async function lastChange(database: Database): Promise<string | null> {
  const row = await database.row<{ at: string | null }>(
    `select ${isoSql('at')} as at from ledger_entry order by id desc limit 1`,
  );
  return row?.at ?? null;
}

/** The writes into a photo's files, newest first. */
export async function listVersions(database: Database, photoId: number): Promise<MetadataVersion[]> {
  return database.rows<MetadataVersion>(
    `select ${isoSql('written_at')} as "writtenAt", array_agg(target order by target) as targets, coalesce(sum(octet_length(back)), 0)::int as "keptBytes"
     from metadata_version where photo_id = $1 group by written_at order by written_at desc`,
    [photoId],
  );
}

export interface VersionedPhoto {
  id: number;
  driveId: string;
  driveLabel: string;
  mountPoint: string;
  folderId: number;
  folderPath: string;
  name: string;
  versionIds: string[];
  versions: KeptVersion[];
}

const VERSIONED = `from metadata_version v join photo p on p.id = v.photo_id join folder f on f.id = p.folder_id join drive d on d.id = p.drive_id
  where d.attached and not exists (select 1 from write_journal j where j.photo_id = p.id) and v.written_at = (select max(newest.written_at) from metadata_version newest where newest.photo_id = p.id)`;

/** Of some photos (a statement that returns `id`) those on attached drives whose files were written, with what is kept of the last write; the next few by id. */
export async function nextVersions(
  database: Database,
  photos: { sql: string; bind: Bind },
  after: number,
  limit: number,
): Promise<VersionedPhoto[]> {
  const bind = [...photos.bind, after, limit];
  const rows = await database.rows<
    Omit<VersionedPhoto, 'versions'> & { versions: Record<'target' | 'back' | 'given', string | null>[] }
  >(
    `select p.id, d.id as "driveId", d.label as "driveLabel", d.mount_point as "mountPoint", f.id as "folderId", f.path as "folderPath", p.name,
       array_agg(v.id::text order by v.id) as "versionIds",
       json_agg(json_build_object('target', v.target, 'back', encode(v.back, 'base64'), 'given', encode(v.given_hash, 'base64')) order by v.id) as versions
     ${VERSIONED} and p.id in (${photos.sql}) and p.id > $${bind.length - 1}
     group by p.id, d.id, f.id order by p.id limit $${bind.length}`,
    bind,
  );
  return rows.map((row) => ({
    ...row,
    versions: row.versions.map(({ target, back, given }) => ({
      target: target === 'sidecar' ? 'sidecar' : 'file',
      back: back === null ? null : Buffer.from(back, 'base64'),
      givenHash: Buffer.from(given ?? '', 'base64'),
    })),
  }));
}

export async function countVersions(database: Database, photos: { sql: string; bind: Bind }): Promise<number> {
  const row = await database.row<{ count: number }>(
    `select count(distinct p.id)::int as count ${VERSIONED} and p.id in (${photos.sql})`,
    photos.bind,
  );
  return row?.count ?? 0;
}

/** Forgets what was kept of writes that were taken back. */
export async function removeVersions(database: Database, ids: readonly string[], tx: Transaction): Promise<void> {
  await database.rows('delete from metadata_version where id = any($1::bigint[])', [ids], tx);
}

/** Terms of which some keywords are written. */
export function termsWriting(
  database: Database,
  moved: readonly string[],
  tx?: Transaction,
): Promise<{ termId: number; keyword: string }[]> {
  return database.rows<{ termId: number; keyword: string }>(
    'select term_id as "termId", keyword from term_keyword where keyword = any($1)',
    [moved],
    tx,
  );
}
