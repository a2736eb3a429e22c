// Reading the photos that descriptions are about, and writing what they say afterwards: page by page, each in one statement.

import type { Selection } from '@stellin/contract/photos';
import type { FieldValue } from '@stellin/core/metadata/fields';
import type { Database, Transaction } from '../database/database';
import { isoSql } from '../database/isoSql';
import type { SqlCondition } from '../catalogue/compile';
import { selectionSql } from '../catalogue/selection';
import type { ChangedTexts, PhotoTexts } from './planner.worker';

const PHOTOS_PER_PAGE = 2000;

export interface Reading {
  /** Photos come in the order of capture, which their numbers follow; else by their ids. */
  inOrder: boolean;
  /** Nobody else changes what they say until the transaction ends. */
  locked: boolean;
}

/** Keeps others from changing what photos (a statement) say until the transaction ends. */
export async function lockTexts(database: Database, chosen: SqlCondition, tx: Transaction): Promise<void> {
  // Everybody locks in the order of ids, so that nobody waits for one who waits for him.
  await database.rows(
    `with l as (select photo_id from photo_text where photo_id in (${chosen.sql}) order by photo_id for update) select count(*) from l`,
    chosen.bind,
    tx,
  );
}

/** Who has changed one of some fields (by their ids) of photos (a statement) last. */
export async function lastChangedBy(
  database: Database,
  chosen: SqlCondition,
  fields: readonly string[],
  tx: Transaction,
): Promise<string | undefined> {
  const row = await database.row<{ by: string }>(
    `select a.display_name as by from ledger_photo l join ledger_entry e on e.id = l.entry_id join account a on a.id = e.account_id
     where l.photo_id in (${chosen.sql}) and l.aspect = 'fields' and l.after ?| $${chosen.bind.length + 1}::text[]
     order by e.id desc limit 1`,
    [...chosen.bind, fields],
    tx,
  );
  return row?.by;
}

/** Some photos (a statement that returns them), page by page, numbered. */
export async function* photosToDescribe(
  database: Database,
  chosen: SqlCondition,
  { inOrder, locked }: Reading,
  tx: Transaction,
): AsyncGenerator<PhotoTexts[]> {
  if (inOrder && locked) await lockTexts(database, chosen, tx);
  let number = 0;
  const rows = pages<Omit<PhotoTexts, 'number'>>(
    database,
    'to_describe',
    `select p.id, p.name, f.path as folder, d.label as drive, to_char(p.taken_at, 'YYYY-MM-DD"T"HH24:MI:SS') as "takenAt", p.kind, p.orientation,
       t.fields::text as fields, t.facts::text as facts
     from (${chosen.sql}) chosen join photo p on p.id = chosen.id join folder f on f.id = p.folder_id join drive d on d.id = p.drive_id
     join photo_text t on t.photo_id = p.id order by ${inOrder ? 'p.taken_at nulls last, f.path, p.name, p.id' : 'p.id'} ${locked ? 'for update of t' : ''}`,
    chosen.bind,
    tx,
  );
  for await (const page of rows) yield page.map((photo) => ({ ...photo, number: ++number }));
}

/** The photos whose fields an entry changes, with what they said before it. */
export async function* photosChanged(
  database: Database,
  entryId: number,
  tx: Transaction,
): AsyncGenerator<ChangedTexts[]> {
  yield* pages<ChangedTexts>(
    database,
    'fields_changed',
    `select p.id, p.name, t.fields::text as fields, t.facts::text as facts, l.after::text as after,
       array(select k.keyword from photo_keyword k where k.photo_id = p.id) as keywords
     from ledger_photo l join photo p on p.id = l.photo_id join photo_text t on t.photo_id = p.id
     where l.entry_id = $1 and l.aspect = 'fields' order by p.id`,
    [entryId],
    tx,
  );
}

/** Writes fields and what follows from them (JSON, see `planner.worker`). */
export async function writeFields(database: Database, json: string, tx: Transaction): Promise<void> {
  await database.rows(
    `with r as materialized (select * from jsonb_to_recordset($1::jsonb) as r (id int, fields jsonb, caption text, fields_folded jsonb,
         caption_folded text, words tsvector, orientation smallint, taken_at timestamp, taken_until timestamp, has_caption boolean, has_people boolean, has_location boolean)),
     texts as (update photo_text t set fields = r.fields, caption = r.caption, fields_folded = r.fields_folded, caption_folded = r.caption_folded, words = r.words
       from r where t.photo_id = r.id)
     update photo p set orientation = r.orientation, taken_at = r.taken_at, taken_until = r.taken_until, has_caption = r.has_caption, has_people = r.has_people, has_location = r.has_location
     from r where p.id = r.id and (p.orientation, p.taken_at, p.taken_until, p.has_caption, p.has_people, p.has_location)
       is distinct from (r.orientation, r.taken_at, r.taken_until, r.has_caption, r.has_people, r.has_location)`,
    [json],
    tx,
  );
}

/** Of fields that the catalogue now says as the file does, nothing is to be kept. Of ratings and marks the photo itself tells what its file says. */
export async function forgetAgreeing(database: Database, entryId: number, tx: Transaction): Promise<void> {
  await database.rows(
    `delete from field_in_file i using ledger_photo l, photo_text t
     where l.entry_id = $1 and l.aspect in ('fields', 'fileSays') and i.photo_id = l.photo_id and t.photo_id = l.photo_id
       and i.conflicting is null and (i.field in ('rating', 'mark') or i.value = coalesce(t.fields -> i.field, 'null'))`,
    [entryId],
    tx,
  );
}

async function* pages<Row extends object>(
  database: Database,
  cursor: string,
  sql: string,
  bind: readonly unknown[],
  tx: Transaction,
): AsyncGenerator<Row[]> {
  await database.rows(`declare ${cursor} no scroll cursor for ${sql}`, bind, tx);
  for (;;) {
    const rows = await database.rows<Row>(`fetch ${PHOTOS_PER_PAGE} from ${cursor}`, [], tx);
    if (rows.length === 0) break;
    yield rows;
  }
  await database.rows(`close ${cursor}`, [], tx);
}

export interface Agreement {
  target: string;
  photos: number;
  distinct: number;
  values: { value: FieldValue; photos: number }[];
}

const VALUES_SHOWN = 12;

/** What the photos of a selection say, by field: how many say anything, how many different values there are, and the most frequent. */
export async function agreementOf(
  database: Database,
  selection: Selection,
  tx?: Transaction,
): Promise<{ photos: number; fields: Agreement[] }> {
  const chosen = selectionSql(selection);
  const [count, fields] = await Promise.all([
    database.row<{ photos: number }>(`select count(*)::int as photos from (${chosen.sql}) chosen`, chosen.bind, tx),
    database.rows<Agreement>(
      `with said as (
         select k.key as target, k.value from (${chosen.sql}) chosen join photo_text t on t.photo_id = chosen.id cross join jsonb_each(t.fields) k
         where k.key <> 'custom'
         union all
         select 'custom:' || (own ->> 'Name'), own -> 'Value' from (${chosen.sql}) chosen join photo_text t on t.photo_id = chosen.id
         cross join jsonb_array_elements(case when jsonb_typeof(t.fields -> 'custom') = 'array' then t.fields -> 'custom' else '[]' end) own),
       counted as (select target, value, count(*)::int as photos,
         row_number() over (partition by target order by count(*) desc, value::text) as place from said group by target, value)
       select target, sum(photos)::int as photos, count(*)::int as distinct,
         json_agg(json_build_object('value', value, 'photos', photos) order by place) filter (where place <= ${VALUES_SHOWN}) as values
       from counted group by target`,
      chosen.bind,
      tx,
    ),
  ]);
  return { photos: count?.photos ?? 0, fields };
}

export interface TemplateRow {
  id: number;
  name: string;
  note: string;
  owner_id: number | null;
  edits: unknown;
  term_ids: number[];
  created_by: number | null;
}

export interface FieldSetRow {
  id: number;
  name: string;
  position: number;
  entries: unknown;
}

export interface QualityRuleRow {
  id: number;
  name: string;
  query: string;
  requires: string[];
}

interface Prepared {
  template: TemplateRow;
  field_set: FieldSetRow;
  quality_rule: QualityRuleRow;
}

export type PreparedKind = keyof Prepared;

const ORDERS: Readonly<Record<PreparedKind, string>> = {
  template: 'name, id',
  field_set: 'position, name',
  quality_rule: 'name',
};

/** All that is prepared of a kind. */
export function listPrepared<Kind extends PreparedKind>(
  database: Database,
  kind: Kind,
  tx?: Transaction,
): Promise<Prepared[Kind][]> {
  return database.rows<Prepared[Kind]>(`select * from ${kind} order by ${ORDERS[kind]}`, [], tx);
}

export interface VersionRow {
  at: string;
  by: string;
  before: unknown;
}

/** How a template was before each of its changes, the latest first. */
export function templateVersions(database: Database, id: number): Promise<VersionRow[]> {
  return database.rows<VersionRow>(
    `select ${isoSql('e.at')} as at, coalesce(a.display_name, 'Stellin') as by, o.before
     from ledger_object o join ledger_entry e on e.id = o.entry_id left join account a on a.id = e.account_id
     where o.kind = 'template' and o.object_id = $1 and o.before is not null and o.after is not null order by e.id desc limit 50`,
    [id],
  );
}

export async function countMeant(database: Database, selection: Selection, tx: Transaction): Promise<number> {
  const chosen = selectionSql(selection);
  const row = await database.row<{ count: number }>(
    `select count(*)::int as count from (${chosen.sql}) chosen`,
    chosen.bind,
    tx,
  );
  return row?.count ?? 0;
}

/** The name by which an account is shown. */
export function displayNameOf(
  database: Database,
  accountId: number,
  tx: Transaction,
): Promise<{ name: string } | undefined> {
  return database.row<{ name: string }>('select display_name as name from account where id = $1', [accountId], tx);
}

/** Grows with every change of anything that can be searched. */
export function catalogueVersion(database: Database): Promise<{ version: string } | undefined> {
  return database.row<{ version: string }>(
    `select last_value || ' ' || is_called as version from catalogue_change_id_seq`,
  );
}

/** Lets a transaction see the catalogue as it is now, whatever others change meanwhile, and change nothing. */
export async function readOneState(database: Database, tx: Transaction): Promise<void> {
  await database.rows('set transaction isolation level repeatable read, read only', [], tx);
}

/** Photos of a selection that stand on their side, by how many degrees clockwise put them upright. */
export function sidewaysSql(selection: Selection, degrees: number): SqlCondition {
  const { sql, bind } = selectionSql(selection);
  return {
    sql: `select p.id from (${sql}) chosen join photo p on p.id = chosen.id where p.sideways = $${bind.length + 1}`,
    bind: [...bind, degrees],
  };
}
