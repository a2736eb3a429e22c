// The ledger's tables, and how a recorded change is put into effect from its record alone: each aspect of a photo and
// each kind of object knows how to become what the record says, so undo and redo need no code per kind of change.

import { kindsFor, type LedgerFilter } from '@stellin/contract/ledger';
import { sightSql } from '../catalogue/sightSql';
import type { Viewer } from '../catalogue/viewer';
import type { Database, Transaction } from '../database/database';
import { isoSql } from '../database/isoSql';
import type { LedgerKinds, ObjectKind, Recorded, RecordedRow } from './kinds';

export interface EntryRow {
  id: number;
  at: string;
  by: string;
  kind: string;
  title: string;
  photos: number;
  objectId: number | null;
  step: 'do' | 'undo' | 'redo';
  undone: boolean;
}

const ENTRY_COLUMNS = `e.id, ${isoSql('e.at')} as at, coalesce(a.display_name, 'Stellin') as by, e.kind, e.title, e.photos,
  e.object_id as "objectId", e.step, e.undone`;
const FROM_ENTRIES = 'from ledger_entry e left join account a on a.id = e.account_id';

/** Gives up any statement of a transaction that takes longer. */
export async function limitTime(database: Database, seconds: number, tx: Transaction): Promise<void> {
  await database.rows(`select set_config('statement_timeout', $1, true)`, [`${seconds}s`], tx);
}

export async function insertEntry(
  database: Database,
  entry: {
    accountId: number;
    kind: string;
    title: string;
    parameters: unknown;
    reverses: number | null;
    step: EntryRow['step'];
    jobId: string | null;
  },
  tx: Transaction,
): Promise<number> {
  const row = await database.row<{ id: number }>(
    'insert into ledger_entry (account_id, kind, title, parameters, reverses, step, job_id) values ($1, $2, $3, $4, $5, $6, $7) returning id',
    [
      entry.accountId,
      entry.kind,
      entry.title,
      JSON.stringify(entry.parameters),
      entry.reverses,
      entry.step,
      entry.jobId,
    ],
    tx,
  );
  if (!row) throw new Error('the ledger took no entry');
  return row.id;
}

/** Closes an entry: its title, how many photos it changed, and the object it made if it made just one. */
export async function finishEntry(
  database: Database,
  { entryId, photos }: Recorded,
  title: string,
  tx: Transaction,
): Promise<EntryRow> {
  const row = await database.row<EntryRow>(
    `with e as (update ledger_entry set title = $2, photos = $3,
         object_id = (select min(object_id) from ledger_object where entry_id = $1 and before is null having count(*) = 1)
       where id = $1 returning *)
     select ${ENTRY_COLUMNS} from e left join account a on a.id = e.account_id`,
    [entryId, title, photos],
    tx,
  );
  if (!row) throw new Error('the entry is gone');
  return row;
}

const PHOTOS_PER_SLICE = 50_000;
const OF_ENTRY = 'l.entry_id = $1';
const OF_SLICE = 'l.entry_id = $1 and l.photo_id between $2 and $3';

/** The photos of an entry by ranges of their ids, PHOTOS_PER_SLICE in each; none when there are few. */
async function slicesOf(database: Database, entryId: number, tx: Transaction): Promise<[from: number, to: number][]> {
  const slices = await database.rows<{ from: number; to: number }>(
    `select min(photo_id) as from, max(photo_id) as to
     from (select photo_id, dense_rank() over (order by photo_id) as place from ledger_photo where entry_id = $1) l
     group by (place - 1) / ${PHOTOS_PER_SLICE} order by 1`,
    [entryId],
    tx,
  );
  return slices.length > 1 ? slices.map(({ from, to }) => [from, to]) : [];
}

/** Puts into effect what an entry's rows say. */
export async function takeEffect(
  database: Database,
  { aspects, objects }: LedgerKinds,
  held: Recorded,
  tx: Transaction,
): Promise<void> {
  const { entryId } = held;
  const kinds = Object.entries(objects).filter(([kind]) => held.objects.has(kind));
  for (const [kind, object] of kinds) await database.rows(upsertOf(kind, object), [entryId], tx);
  for (const [name, aspect] of Object.entries(aspects)) {
    if (!held.aspects.has(name)) continue;
    const slices = aspect.inSlices ? await slicesOf(database, entryId, tx) : [];
    if (slices.length === 0) for (const sql of aspect.effect(OF_ENTRY)) await database.rows(sql, [entryId], tx);
    else
      for (const sql of aspect.effect(OF_SLICE))
        for (const slice of slices) await database.rows(sql, [entryId, ...slice], tx);
  }
  // Last, since photos may have had until now what goes.
  for (const [kind] of kinds.reverse()) await database.rows(removalOf(kind), [entryId], tx);
}

/** What an entry has recorded: what has no row there needs no statement. */
export async function recordedBy(database: Database, entryId: number, tx: Transaction): Promise<Recorded> {
  const row = await database.row<{ aspects: string[]; objects: string[]; photos: number; reverses: boolean }>(
    `select array(select distinct aspect from ledger_photo where entry_id = $1) as aspects,
            array(select distinct kind from ledger_object where entry_id = $1) as objects,
            (select count(distinct photo_id)::int from ledger_photo where entry_id = $1) as photos,
            exists (select 1 from ledger_entry where id = $1 and reverses is not null) as reverses`,
    [entryId],
    tx,
  );
  if (!row) throw new Error('nothing was answered');
  const { aspects, objects, photos, reverses } = row;
  return { entryId, photos, reverses, aspects: new Set(aspects), objects: new Set(objects) };
}

function removalOf(kind: string): string {
  return `delete from ${kind} t using ledger_object l
    where l.entry_id = $1 and l.kind = '${kind}' and l.after is null and t.id = l.object_id`;
}

function upsertOf(kind: string, { columns }: ObjectKind): string {
  const own = Object.keys(columns);
  const all = ['id', ...own];
  return `insert into ${kind} (${all.join(', ')})
    select ${all.map((column) => `r.${column}`).join(', ')}
    from ledger_object l, jsonb_populate_record(null::${kind}, l.after) r
    where l.entry_id = $1 and l.kind = '${kind}' and l.after is not null
    on conflict (id) do update set ${own.map((column) => `${column} = excluded.${column}`).join(', ')}`;
}

/** Records, under a new entry, the reverse of what an old one did, for the photos that still are as it left them. */
export async function recordReverse(
  database: Database,
  { aspects }: LedgerKinds,
  oldId: number,
  newId: number,
  tx: Transaction,
): Promise<void> {
  const held = await recordedBy(database, oldId, tx);
  for (const [aspect, { stillBefore }] of Object.entries(aspects)) {
    if (!held.aspects.has(aspect)) continue;
    await database.rows(
      `insert into ledger_photo (entry_id, photo_id, aspect, key, before, after)
       select * from (select $2::int, photo_id, aspect, key, after as before, before as after
         from ledger_photo where entry_id = $1 and aspect = $3) l (entry_id, photo_id, aspect, key, before, after)
       where ${stillBefore}`,
      [oldId, newId, aspect],
      tx,
    );
  }
  await database.rows(
    `insert into ledger_object (entry_id, kind, object_id, before, after)
     select $2, kind, object_id, after, before from ledger_object where entry_id = $1`,
    [oldId, newId],
    tx,
  );
}

/** Names of objects that are no longer what an entry left them as: taking it back would lose a later change. */
export async function objectsChangedSince(
  database: Database,
  { objects }: LedgerKinds,
  entryId: number,
  tx: Transaction,
): Promise<string[]> {
  const found: string[] = [];
  const held = await recordedBy(database, entryId, tx);
  for (const [kind, { named, columns }] of Object.entries(objects)) {
    if (!held.objects.has(kind)) continue;
    const same = Object.keys(columns)
      .map((column) => `to_jsonb(t.${column}) is not distinct from to_jsonb(r.${column})`)
      .join(' and ');
    const name = named === null ? `'${kind}'` : `coalesce(l.after ->> '${named}', l.before ->> '${named}')`;
    const rows = await database.rows<{ name: string }>(
      `select ${name} as name
       from ledger_object l left join ${kind} t on t.id = l.object_id
       left join lateral jsonb_populate_record(null::${kind}, l.after) r on true
       where l.entry_id = $1 and l.kind = '${kind}'
         and not case when l.after is null then t.id is null else t.id is not null and ${same} end limit 3`,
      [entryId],
      tx,
    );
    found.push(...rows.map(({ name }) => name));
  }
  return found;
}

export async function markUndone(database: Database, id: number, undone: boolean, tx: Transaction): Promise<void> {
  await database.rows('update ledger_entry set undone = $2 where id = $1', [id, undone], tx);
}

/** The entry that undo would take back: a person's last one that is not taken back. Locked. */
export async function nextUndo(
  database: Database,
  accountId: number,
  tx?: Transaction,
): Promise<{ id: number; title: string; kind: string; photos: number } | undefined> {
  return database.row(
    `select id, title, kind, photos from ledger_entry where account_id = $1 and step = 'do' and not undone order by id desc limit 1 ${tx ? 'for update' : ''}`,
    [accountId],
    tx,
  );
}

/** The entry that redo would repeat: the first of those taken back since the last new change. `reversedBy` is what took it back last. */
export async function nextRedo(
  database: Database,
  accountId: number,
  tx?: Transaction,
): Promise<{ id: number; title: string; kind: string; photos: number; reversedBy: number } | undefined> {
  return database.row(
    `select e.id, e.title, e.kind, e.photos,
       (select max(r.id) from ledger_entry r where r.reverses = e.id and r.step = 'undo') as "reversedBy"
     from ledger_entry e
     where e.account_id = $1 and e.step = 'do' and e.undone
       and e.id > coalesce((select max(id) from ledger_entry where account_id = $1 and step = 'do' and not undone), 0)
     order by e.id limit 1 ${tx ? 'for update' : ''}`,
    [accountId],
    tx,
  );
}

/** What last put an entry into effect, or out of it: itself or its last redo, its last undo. */
export async function lastEffect(
  database: Database,
  id: number,
  step: 'undo' | 'redo',
  tx?: Transaction,
): Promise<number> {
  const row = await database.row<{ id: number | null }>(
    'select max(id) as id from ledger_entry where reverses = $1 and step = $2',
    [id, step],
    tx,
  );
  return row?.id ?? id;
}

/** Locks an entry while it is taken back or repeated. */
export async function lockEntry(database: Database, id: number, tx: Transaction): Promise<void> {
  await database.rows('select 1 from ledger_entry where id = $1 for update', [id], tx);
}

export async function findEntry(database: Database, id: number, tx?: Transaction): Promise<EntryRow | undefined> {
  return database.row<EntryRow>(`select ${ENTRY_COLUMNS} ${FROM_ENTRIES} where e.id = $1`, [id], tx);
}

export async function entryOfJob(database: Database, jobId: string): Promise<EntryRow | undefined> {
  return database.row<EntryRow>(`select ${ENTRY_COLUMNS} ${FROM_ENTRIES} where e.job_id = $1`, [jobId]);
}

/** The process of the database that a transaction runs in. */
export async function backendOf(database: Database, tx: Transaction): Promise<number> {
  const row = await database.row<{ pid: number }>('select pg_backend_pid() as pid', [], tx);
  return row?.pid ?? 0;
}

/** Tells a process of the database to give up what it does. */
export async function cancelBackend(database: Database, pid: number): Promise<void> {
  await database.beside((connection) => connection.rows('select pg_cancel_backend($1)', [pid]));
}

/** An entry that exists for somebody: all of them do for whom all photos do, else their own, and those of photos that exist for them. */
export async function findSeenEntry(database: Database, viewer: Viewer, id: number): Promise<EntryRow | undefined> {
  if (viewer.sight === null) return findEntry(database, id);
  const { columns, exists, bind } = entriesSeenBy(viewer, [id]);
  return database.row<EntryRow>(`select ${columns} ${FROM_ENTRIES} where e.id = $1 and ${exists}`, bind);
}

export async function listEntries(
  database: Pick<Database, 'rows'>,
  viewer: Viewer,
  filter: LedgerFilter & { before?: number | undefined; limit: number },
): Promise<EntryRow[]> {
  const given = [
    filter.before ?? null,
    filter.photoId ?? null,
    filter.limit,
    filter.accountId ?? null,
    filter.work ? kindsFor(filter.work) : null,
    filter.containing ? `%${filter.containing.replace(/[\\%_]/g, '\\$&')}%` : null,
    filter.from ?? null,
    filter.to ?? null,
    filter.driveId ?? null,
    filter.dossierId ?? null,
  ];
  const { columns, exists, title, seen, bind } = entriesSeenBy(viewer, given);
  const touched = (condition: string) =>
    `exists (select 1 from ledger_photo l join photo p on p.id = l.photo_id where l.entry_id = e.id and ${condition} and ${seen})`;
  return database.rows<EntryRow>(
    `select ${columns} ${FROM_ENTRIES}
     where ($1::int is null or e.id < $1)
       and ($2::int is null or exists (select 1 from ledger_photo l where l.entry_id = e.id and l.photo_id = $2))
       and ($4::int is null or e.account_id = $4)
       and ($5::text[] is null or coalesce((select r.kind from ledger_entry r where r.id = e.reverses), e.kind) = any($5))
       and ($6::text is null or ${title} ilike $6)
       and ($7::date is null or e.at >= $7::date) and ($8::date is null or e.at < $8::date + 1)
       and ($9::uuid is null or ${touched('p.drive_id = $9')})
       and ($10::int is null or ${touched(`p.id in (select put.photo_id from dossier_above a join dossier_photo put on put.dossier_id = a.id where a.above_id = $10)`)})
       and ${exists}
     order by e.id desc limit $3`,
    bind,
  );
}

/** The entries that exist for somebody, with what they may read of each: of one of others only how many photos, and no title that may name what does not exist for them. */
function entriesSeenBy(
  { accountId, sight }: Viewer,
  given: readonly unknown[],
): { columns: string; exists: string; title: string; seen: string; bind: readonly unknown[] } {
  if (sight === null) return { columns: ENTRY_COLUMNS, exists: 'true', title: 'e.title', seen: 'true', bind: given };
  const { sql, bind } = sightSql(sight, [...given, accountId]);
  const own = `e.account_id = $${given.length + 1}::int`;
  const touched = (condition: string) =>
    `from ledger_photo l where l.entry_id = e.id and ${condition}exists (select 1 from photo p where p.id = l.photo_id and ${sql})`;
  const title = `case when ${own} or (e.object_id is null and not exists (select 1 ${touched('not ')})) then e.title else 'Change photos' end`;
  const columns = ENTRY_COLUMNS.replace(
    'e.title, e.photos',
    `${title} as title, case when ${own} then e.photos else (select count(distinct l.photo_id)::int ${touched('')}) end as photos`,
  );
  return { columns, exists: `(${own} or exists (select 1 ${touched('')}))`, title, seen: sql, bind };
}

/** What an entry does to photos, the first rows of it. */
export function listPhotoChanges(
  database: Database,
  { entryId, photoId, viewer }: { entryId: number; photoId?: number; viewer: Viewer },
): Promise<PhotoRow[]> {
  const seen = sightSql(viewer.sight, [entryId, photoId ?? null]);
  return database.rows<PhotoRow>(
    `select l.photo_id as "photoId", p.name, p.preview_version as "previewVersion", l.aspect, l.key, l.before, l.after
       from ledger_photo l join photo p on p.id = l.photo_id
       where l.entry_id = $1 and ($2::int is null or l.photo_id = $2) and ${seen.sql}
       order by p.name, l.photo_id, l.aspect, l.key limit ${ROWS_SHOWN}`,
    seen.bind,
  );
}

/** What an entry does to other things than photos, the first rows of it. */
export function listObjectChanges(database: Database, entryId: number): Promise<ObjectRow[]> {
  return database.rows<ObjectRow>(
    `select kind, object_id as id, before, after from ledger_object where entry_id = $1 order by kind, object_id limit ${ROWS_SHOWN}`,
    [entryId],
  );
}

/** Rows of an entry that are shown. */
const ROWS_SHOWN = 200;

export interface PhotoRow extends RecordedRow {
  photoId: number;
  name: string;
  previewVersion: number;
  aspect: string;
}

export interface ObjectRow {
  kind: string;
  id: number;
  before: unknown;
  after: unknown;
}

/**
 * Names of things of a kind by their ids as text; of those that are gone the last name the ledger recorded.
 * @param named the column with the name, and the type of the ids
 */
export function listNames(
  database: Database,
  kind: string,
  { column, type }: { column: string; type: string },
  ids: readonly string[],
): Promise<{ id: string; name: string | null }[]> {
  return database.rows(
    `select w.id, coalesce(t.${column}::text, (select coalesce(l.after ->> '${column}', l.before ->> '${column}')
       from ledger_object l where l.kind = $2 and l.object_id = ${type === 'int' ? 'w.id::int' : 'null'} order by l.entry_id desc limit 1)) as name
     from unnest($1::text[]) w (id) left join ${kind} t on t.id = w.id::${type}`,
    [ids, kind],
  );
}

/** How many photos an entry touches that do not meet a condition on `p`, whose first parameter is the entry. */
export async function countOutside(
  database: Database,
  { sql, bind }: { sql: string; bind: readonly unknown[] },
  tx: Transaction,
): Promise<number> {
  const row = await database.row<{ outside: number }>(
    `select count(distinct l.photo_id)::int as outside from ledger_photo l
     where l.entry_id = $1 and not exists (select 1 from photo p where p.id = l.photo_id and ${sql})`,
    bind,
    tx,
  );
  return row?.outside ?? 0;
}

/**
 * Whether an entry touches dossiers, or searches of projects, that lie neither in some dossiers nor are these: photos are put into
 * these and taken out, while they themselves stay what they are.
 */
export async function touchesOtherDossiers(
  database: Database,
  entryId: number,
  dossiers: readonly number[],
  tx: Transaction,
): Promise<boolean> {
  const row = await database.row<{ outside: boolean }>(
    `with mine as materialized (select id from dossier_above where above_id = any($2::int[])),
     made as (select object_id as id from ledger_object where entry_id = $1 and kind = 'dossier' and before is null)
     select exists (select 1 from ledger_photo where entry_id = $1 and aspect = 'dossier'
         and key not in (select id from mine) and key not in (select id from made))
       or exists (select 1 from ledger_object o cross join lateral (values (o.before), (o.after)) each (said)
         where o.entry_id = $1 and each.said is not null and coalesce(case o.kind
           when 'dossier' then (each.said ->> 'parent_id')::int
           when 'saved_search' then (each.said ->> 'dossier_id')::int end, 0)
           not in (select id from mine union all select id from made where o.kind = 'dossier')) as outside`,
    [entryId, dossiers],
    tx,
  );
  return row?.outside ?? true;
}
