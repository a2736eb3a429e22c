// The ledger's tables, and how a recorded change is put into effect from its record alone: each aspect of a photo and
// each kind of object knows how to become what the record says, so undo and redo need no code per kind of change.

import { BUNDLE_STATE, setState } from '../bundles/states';
import { FACE_STATE } from '../people/states';
import { baseNameSql } from '../photos/baseName';
import type { Database, Transaction } from '../database/database';
import { isoSql } from '../database/isoSql';

/** One aspect of a photo that changes can touch. In the SQL, `l` is the row of ledger_photo. */
interface PhotoAspect {
  /** Puts all of an entry's rows of this aspect into effect: what `after` says. $1 is the entry. */
  effect: readonly string[];
  /** Of very many photos it takes effect for some at a time: what else follows from it would take more than its share of time. */
  inSlices?: boolean;
  /** Whether the photo is now what `before` says. */
  stillBefore: string;
}

/** Where photos are, as the ledger keeps it. */
export const PLACE_SQL = `jsonb_build_object('drive', p.drive_id, 'folder', f.path, 'name', p.name, 'trashedFrom', p.trashed_from)`;

function placeOf(photoId: string): string {
  return `(select ${PLACE_SQL} from photo p join folder f on f.id = p.folder_id where p.id = ${photoId})`;
}

/** Files whose names others of the same entry are to get step aside first, those that share a base name together. */
function asideSql(): string {
  const wanted = `(l.after ->> 'drive')::uuid, l.after ->> 'folder', ${baseNameSql(`l.after ->> 'name'`)}`;
  return `insert into filing_step (entry_id, photo_id, copies, drive_id, folder, name, trashed_from, aside)
    select l.entry_id, l.photo_id, false, p.drive_id, f.path,
      regexp_replace(p.name, '(\\.[^.]*)?$', ' (moving ' || l.entry_id || ')\\1'), p.trashed_from, true
    from ledger_photo l join photo p on p.id = l.photo_id join folder f on f.id = p.folder_id
    where l.entry_id = $1 and l.aspect = 'place' and (p.drive_id, f.path, ${baseNameSql('p.name')}) in (
      select ${wanted} from ledger_photo l where l.entry_id = $1 and l.aspect = 'place'
        and (${wanted}) is distinct from ((l.before ->> 'drive')::uuid, l.before ->> 'folder', ${baseNameSql(`l.before ->> 'name'`)}))
    order by p.drive_id, p.folder_id, ${baseNameSql('p.name')}, p.id`;
}

function stepsSql(aspect: string, copies: boolean): string {
  // Files that share a base name, and with it a sidecar, come one after the other.
  return `insert into filing_step (entry_id, photo_id, copies, drive_id, folder, name, trashed_from)
    select l.entry_id, l.photo_id, ${copies}, (l.after ->> 'drive')::uuid, l.after ->> 'folder', l.after ->> 'name', l.after ->> 'trashedFrom'
    from ledger_photo l join photo p on p.id = l.photo_id where l.entry_id = $1 and l.aspect = '${aspect}'
    order by p.drive_id, p.folder_id, ${baseNameSql('p.name')}, p.id`;
}

export const PHOTO_ASPECTS = {
  term: {
    inSlices: true,
    effect: [
      `delete from photo_term g using ledger_photo l
       where l.entry_id = $1 and l.aspect = 'term' and l.after = 'false' and g.photo_id = l.photo_id and g.term_id = l.key`,
      // How it came stands there instead of a mere yes.
      `insert into photo_term (photo_id, term_id, origin)
       select l.photo_id, l.key, coalesce(nullif(l.after #>> '{}', 'true'), 'hand') from ledger_photo l
       where l.entry_id = $1 and l.aspect = 'term' and l.after <> 'false' on conflict do nothing`,
    ],
    stillBefore: `exists (select 1 from photo_term g where g.photo_id = l.photo_id and g.term_id = l.key) = (l.before <> 'false')`,
  },
  keyword: {
    // A settled keyword stands in the file, but no longer as a free one: the next write takes it out, unless a term asks for it.
    effect: [
      `with settled as (delete from photo_keyword k using ledger_photo l, incoming_keyword i
         where l.entry_id = $1 and l.aspect = 'keyword' and l.after = 'false' and i.id = l.key and k.photo_id = l.photo_id and k.keyword = i.keyword
         returning k.photo_id, k.keyword)
       insert into written_keyword (photo_id, keyword) select photo_id, keyword from settled on conflict do nothing`,
      `with wanted as (select l.photo_id, i.keyword, i.folded from ledger_photo l join incoming_keyword i on i.id = l.key
         where l.entry_id = $1 and l.aspect = 'keyword' and l.after = 'true'),
       freed as (delete from written_keyword w using wanted where w.photo_id = wanted.photo_id and w.keyword = wanted.keyword
         returning w.photo_id, w.keyword)
       insert into photo_keyword (photo_id, keyword, folded, position, in_file)
       select photo_id, keyword, folded, 1000, (photo_id, keyword) in (select photo_id, keyword from freed) from wanted on conflict do nothing`,
    ],
    stillBefore: `to_jsonb(exists (select 1 from photo_keyword k join incoming_keyword i on i.id = l.key where k.photo_id = l.photo_id and k.keyword = i.keyword)) = l.before`,
  },
  mark: {
    effect: [
      `update photo p set mark = l.after ->> 'name', mark_folded = l.after ->> 'folded' from ledger_photo l
       where l.entry_id = $1 and l.aspect = 'mark' and p.id = l.photo_id`,
    ],
    stillBefore: `(select jsonb_build_object('name', p.mark, 'folded', p.mark_folded) from photo p where p.id = l.photo_id) = l.before`,
  },
  // Files go where the record says when the job has moved them there.
  place: { effect: [asideSql(), stepsSql('place', false)], stillBefore: `${placeOf('l.photo_id')} = l.before` },
  // What copying made is undone by moving the copies to the trash: those have places of their own.
  copy: { effect: [stepsSql('copy', true)], stillBefore: 'false' },
  bundle: {
    effect: [
      `update photo p set ${setState('l.after')} from ledger_photo l where l.entry_id = $1 and l.aspect = 'bundle' and p.id = l.photo_id`,
    ],
    stillBefore: `(select ${BUNDLE_STATE} from photo p where p.id = l.photo_id) = l.before`,
  },
  removed: {
    effect: [
      `update photo p set removed = (l.after)::boolean from ledger_photo l where l.entry_id = $1 and l.aspect = 'removed' and p.id = l.photo_id`,
    ],
    stillBefore: `(select to_jsonb(p.removed) from photo p where p.id = l.photo_id) = l.before`,
  },
  private: {
    effect: [
      `update photo p set private = (l.after)::boolean from ledger_photo l where l.entry_id = $1 and l.aspect = 'private' and p.id = l.photo_id`,
    ],
    stillBefore: `(select to_jsonb(p.private) from photo p where p.id = l.photo_id) = l.before`,
  },
  // Fields by their ids, those that change; null where there is nothing. What photos say from then on is brought in line by
  // server/describing, since searches find more in a value than the value itself.
  fields: {
    effect: [
      `insert into field_in_file (photo_id, field, value) select l.photo_id, k.key, l.before -> k.key
       from ledger_photo l cross join jsonb_each(l.after) k where l.entry_id = $1 and l.aspect = 'fields' on conflict do nothing`,
    ],
    stillBefore: `not exists (select 1 from photo_text t cross join jsonb_each(l.before) k
      where t.photo_id = l.photo_id and coalesce(t.fields -> k.key, 'null') <> k.value)`,
  },
  // What a file is known to say of fields in conflict; undoing a settlement brings the conflict back.
  fileSays: {
    effect: [
      `insert into field_in_file (photo_id, field, value, conflicting)
       select l.photo_id, k.key, k.value -> 'value', k.value -> 'conflicting' from ledger_photo l cross join jsonb_each(l.after) k
       where l.entry_id = $1 and l.aspect = 'fileSays'
       on conflict (photo_id, field) do update set value = excluded.value, conflicting = excluded.conflicting`,
      `update photo p set rating_written = (l.after #>> '{rating,value}')::smallint from ledger_photo l
       where l.entry_id = $1 and l.aspect = 'fileSays' and p.id = l.photo_id and l.after ? 'rating'`,
      `update photo p set mark_written = l.after #>> '{mark,value}' from ledger_photo l
       where l.entry_id = $1 and l.aspect = 'fileSays' and p.id = l.photo_id and l.after ? 'mark'`,
    ],
    stillBefore: `not exists (select 1 from jsonb_each(l.before) k left join field_in_file i on i.photo_id = l.photo_id and i.field = k.key
      where k.key not in ('rating', 'mark')
        and coalesce(i.value, (select t.fields -> k.key from photo_text t where t.photo_id = l.photo_id), 'null') <> k.value -> 'value')`,
  },
  // The place in it, or false.
  dossier: {
    effect: [
      `delete from dossier_photo d using ledger_photo l
       where l.entry_id = $1 and l.aspect = 'dossier' and l.after = 'false' and d.photo_id = l.photo_id and d.dossier_id = l.key`,
      `insert into dossier_photo (dossier_id, photo_id, position)
       select l.key, l.photo_id, (l.after)::float8 from ledger_photo l where l.entry_id = $1 and l.aspect = 'dossier' and l.after <> 'false'
       on conflict (dossier_id, photo_id) do update set position = excluded.position`,
    ],
    stillBefore: `coalesce((select to_jsonb(d.position) from dossier_photo d where d.photo_id = l.photo_id and d.dossier_id = l.key), 'false') = l.before`,
  },
  // A face: who it shows, and where. Faces are never removed by changes, only said to be.
  face: {
    effect: [
      `update face f set state = l.after ->> 'state', person_id = (l.after ->> 'person')::int,
         refused = array(select jsonb_array_elements_text(l.after -> 'refused')::int), box_left = (l.after #>> '{box,0}')::real,
         box_top = (l.after #>> '{box,1}')::real, box_width = (l.after #>> '{box,2}')::real, box_height = (l.after #>> '{box,3}')::real
       from ledger_photo l where l.entry_id = $1 and l.aspect = 'face' and f.id = l.key`,
    ],
    stillBefore: `(select ${FACE_STATE} from face f where f.id = l.key) = l.before`,
  },
  // Who is in it without a face.
  person: {
    effect: [
      `delete from photo_person g using ledger_photo l
       where l.entry_id = $1 and l.aspect = 'person' and l.after = 'false' and g.photo_id = l.photo_id and g.person_id = l.key`,
      `insert into photo_person (photo_id, person_id) select l.photo_id, l.key from ledger_photo l
       where l.entry_id = $1 and l.aspect = 'person' and l.after = 'true' on conflict do nothing`,
    ],
    stillBefore: `to_jsonb(exists (select 1 from photo_person g where g.photo_id = l.photo_id and g.person_id = l.key)) = l.before`,
  },
  rating: {
    effect: [
      `update photo p set rating = (l.after)::int from ledger_photo l where l.entry_id = $1 and l.aspect = 'rating' and p.id = l.photo_id`,
    ],
    stillBefore: `(select to_jsonb(p.rating) from photo p where p.id = l.photo_id) = l.before`,
  },
} as const satisfies Record<string, PhotoAspect>;

export type Aspect = keyof typeof PHOTO_ASPECTS;

/** Tables whose rows changes make, alter and remove. The order is that of making; removing goes the other way. */
export const OBJECT_TABLES = {
  folder: ['drive_id', 'parent_id', 'name', 'path'],
  vocabulary: ['name', 'language', 'uri', 'note', 'by_hand'],
  term: [
    'parent_id',
    'vocabulary_id',
    'label',
    'other_labels',
    'heading',
    'status',
    'proposed_by',
    'deprecated',
    'replaced_by',
    'scope_note',
    'definition',
    'notation',
    'uri',
    'colour',
    'example_photo',
    'by_hand',
    'position',
    'write_self',
    'write_broader',
    'write_others',
    'write_language',
    'labels_folded',
    'words',
  ],
  term_relation: ['kind', 'from_id', 'to_id'],
  term_pad: ['name', 'owner_id', 'keys'],
  keyword_decision: ['keyword', 'decision', 'term_id'],
  mark: ['name', 'name_folded', 'letter', 'colour'],
  told_apart: ['photo_id', 'other_id'],
  dossier: ['parent_id', 'name', 'name_folded', 'note', 'colour', 'cover_photo', 'position', 'created_by'],
  person: [
    'name',
    'name_folded',
    'other_names',
    'names_folded',
    'note',
    'born',
    'died',
    'private',
    'detailed',
    'term_id',
  ],
  name_decision: ['name', 'name_folded', 'person_id'],
  template: ['name', 'note', 'owner_id', 'edits', 'term_ids'],
  field_set: ['name', 'position', 'entries'],
  quality_rule: ['name', 'query', 'requires'],
  saved_search: ['name', 'query', 'sort', 'note', 'folder', 'pinned', 'scope', 'size', 'created_by'],
} as const satisfies Record<string, readonly string[]>;

export type ObjectKind = keyof typeof OBJECT_TABLES;
const OBJECT_KINDS = Object.keys(OBJECT_TABLES) as ObjectKind[];

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

/** How many photos and objects an entry changes. */
export async function countOf(
  database: Database,
  id: number,
  tx: Transaction,
): Promise<{ photos: number; objects: number }> {
  const row = await database.row<{ photos: number; objects: number }>(
    `select (select count(distinct photo_id)::int from ledger_photo where entry_id = $1) as photos,
            (select count(*)::int from ledger_object where entry_id = $1) as objects`,
    [id],
    tx,
  );
  return row ?? { photos: 0, objects: 0 };
}

/** Closes an entry: its title, how many photos it changed, and the object it made if it made just one. */
export async function finishEntry(database: Database, id: number, title: string, tx: Transaction): Promise<void> {
  await database.rows(
    `update ledger_entry set title = $2,
       photos = (select count(distinct photo_id) from ledger_photo where entry_id = $1),
       object_id = (select min(object_id) from ledger_object where entry_id = $1 and before is null having count(*) = 1)
     where id = $1`,
    [id, title],
    tx,
  );
}

const SLICE = 50_000;
const IN_SLICE = 'l.entry_id = $1 and l.photo_id between $2 and $3';

/** The photos of an entry by ranges of their ids, so many in each; none when there are few. */
async function slicesOf(database: Database, entryId: number, tx: Transaction): Promise<[from: number, to: number][]> {
  const slices = await database.rows<{ from: number; to: number }>(
    `select min(photo_id) as from, max(photo_id) as to
     from (select photo_id, dense_rank() over (order by photo_id) as place from ledger_photo where entry_id = $1) l
     group by (place - 1) / ${SLICE} order by 1`,
    [entryId],
    tx,
  );
  return slices.length > 1 ? slices.map(({ from, to }) => [from, to]) : [];
}

/** Puts into effect what an entry's rows say. */
export async function takeEffect(database: Database, entryId: number, tx: Transaction): Promise<void> {
  for (const kind of OBJECT_KINDS) await database.rows(upsertOf(kind), [entryId], tx);
  for (const aspect of Object.values<PhotoAspect>(PHOTO_ASPECTS)) {
    const slices = aspect.inSlices ? await slicesOf(database, entryId, tx) : [];
    for (const sql of aspect.effect)
      if (slices.length === 0) await database.rows(sql, [entryId], tx);
      else
        for (const [from, to] of slices)
          await database.rows(sql.replaceAll('l.entry_id = $1', IN_SLICE), [entryId, from, to], tx);
  }
  // Last, since photos may have had until now what goes.
  for (const kind of [...OBJECT_KINDS].reverse()) await database.rows(removalOf(kind), [entryId], tx);
}

function removalOf(kind: ObjectKind): string {
  return `delete from ${kind} t using ledger_object l
    where l.entry_id = $1 and l.kind = '${kind}' and l.after is null and t.id = l.object_id`;
}

function upsertOf(kind: ObjectKind): string {
  const columns = ['id', ...OBJECT_TABLES[kind]];
  return `insert into ${kind} (${columns.join(', ')})
    select ${columns.map((column) => `r.${column}`).join(', ')}
    from ledger_object l, jsonb_populate_record(null::${kind}, l.after) r
    where l.entry_id = $1 and l.kind = '${kind}' and l.after is not null
    on conflict (id) do update set ${OBJECT_TABLES[kind].map((column) => `${column} = excluded.${column}`).join(', ')}`;
}

/** Records, under a new entry, the reverse of what an old one did, for the photos that still are as it left them. */
export async function recordReverse(database: Database, oldId: number, newId: number, tx: Transaction): Promise<void> {
  for (const [aspect, { stillBefore }] of Object.entries(PHOTO_ASPECTS)) {
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
export async function objectsChangedSince(database: Database, entryId: number, tx: Transaction): Promise<string[]> {
  const found: string[] = [];
  for (const kind of OBJECT_KINDS) {
    const same = OBJECT_TABLES[kind]
      .map((column) => `to_jsonb(t.${column}) is not distinct from to_jsonb(r.${column})`)
      .join(' and ');
    const rows = await database.rows<{ name: string }>(
      `select coalesce(l.after ->> 'label', l.after ->> 'name', l.after ->> 'keyword', l.before ->> 'label', l.before ->> 'name', l.before ->> 'keyword') as name
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
): Promise<{ id: number; title: string; photos: number } | undefined> {
  return database.row(
    `select id, title, photos from ledger_entry where account_id = $1 and step = 'do' and not undone order by id desc limit 1 ${tx ? 'for update' : ''}`,
    [accountId],
    tx,
  );
}

/** The entry that redo would repeat: the first of those taken back since the last new change. `reversedBy` is what took it back last. */
export async function nextRedo(
  database: Database,
  accountId: number,
  tx?: Transaction,
): Promise<{ id: number; title: string; photos: number; reversedBy: number } | undefined> {
  return database.row(
    `select e.id, e.title, e.photos,
       (select max(r.id) from ledger_entry r where r.reverses = e.id and r.step = 'undo') as "reversedBy"
     from ledger_entry e
     where e.account_id = $1 and e.step = 'do' and e.undone
       and e.id > coalesce((select max(id) from ledger_entry where account_id = $1 and step = 'do' and not undone), 0)
     order by e.id limit 1 ${tx ? 'for update' : ''}`,
    [accountId],
    tx,
  );
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
  await database.rows('select pg_cancel_backend($1)', [pid]);
}

export async function listEntries(
  database: Database,
  filter: { before?: number; photoId?: number; limit: number },
): Promise<EntryRow[]> {
  return database.rows<EntryRow>(
    `select ${ENTRY_COLUMNS} ${FROM_ENTRIES}
     where ($1::int is null or e.id < $1)
       and ($2::int is null or exists (select 1 from ledger_photo l where l.entry_id = e.id and l.photo_id = $2))
     order by e.id desc limit $3`,
    [filter.before ?? null, filter.photoId ?? null, filter.limit],
  );
}

export async function photosOfEntry(
  database: Database,
  id: number,
): Promise<{ photoId: number; name: string; what: string; before: string; after: string }[]> {
  return database.rows(
    `select l.photo_id as "photoId", p.name,
       case l.aspect when 'term' then 'Term “' || coalesce(t.label, 'removed') || '”' when 'rating' then 'Rating' when 'mark' then 'Mark' when 'private' then 'Private'
         when 'fields' then 'Fields' when 'fileSays' then 'Conflict' when 'place' then 'Place' when 'copy' then 'Copy' when 'removed' then 'Out of the catalogue' when 'bundle' then 'Bundle'
         when 'keyword' then 'Keyword “' || coalesce(i.keyword, '') || '”' when 'dossier' then 'Dossier “' || coalesce(o.name, 'removed') || '”'
         when 'face' then 'Face' when 'person' then 'Person “' || coalesce(n.name, 'removed') || '”' else l.aspect end as what,
       ${shownSql('l.before')} as before, ${shownSql('l.after')} as after
     from ledger_photo l join photo p on p.id = l.photo_id
     left join term t on l.aspect = 'term' and t.id = l.key
     left join dossier o on l.aspect = 'dossier' and o.id = l.key
     left join incoming_keyword i on l.aspect = 'keyword' and i.id = l.key
     left join person n on l.aspect = 'person' and n.id = l.key
     where l.entry_id = $1 order by p.name, l.aspect, l.key limit 200`,
    [id],
  );
}

/** A recorded value as people read it. */
function shownSql(value: string): string {
  return `case when ${value} ? 'trashedFrom' then concat_ws('/', (select d.label from drive d where d.id = (${value} ->> 'drive')::uuid), nullif(${value} ->> 'folder', ''), ${value} ->> 'name')
    when ${value} ? 'foldedInto' then case when ${value} ->> 'bundle' is null then '–' when (${value} ->> 'leads')::boolean then 'lead of a bundle' else 'in a bundle' end
    when ${value} ? 'refused' then coalesce((select n.name from person n where n.id = (${value} ->> 'person')::int),
      case ${value} ->> 'state' when 'open' then 'not named' when 'unnamed' then 'not to be named' when 'none' then 'no face' else '–' end)
    when jsonb_typeof(${value}) = 'string' or ${value} = 'true' then 'given' when ${value} = 'false' then '–' when jsonb_typeof(${value}) = 'object'
    then coalesce(nullif(${value} ->> 'name', ''), '–') else ${value}::text end`;
}
