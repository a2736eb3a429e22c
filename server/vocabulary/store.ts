import { foldText } from '@stellin/core/search/words';
import type { Term } from '@stellin/core/vocabulary/term';
import type { TermWithCounts } from '@stellin/contract/vocabulary';
import type { Database, Transaction } from '../database/database';
import { wordVector } from '../search/vector';

/** A row of the term table as the ledger keeps it. */
export interface TermRow {
  id: number;
  parent_id: number | null;
  label: string;
  heading: boolean;
  write_broader: boolean;
  scope_note: string;
  other_labels: Term['otherLabels'];
  labels_folded: string[];
  words: string;
}

/** The row of a term, with what is derived from its labels. */
export function termRow(term: Term): TermRow {
  const labels = [term.label, ...term.otherLabels.map(({ label }) => label)];
  return {
    id: term.id,
    parent_id: term.parentId,
    label: term.label,
    heading: term.heading,
    write_broader: term.writeBroader,
    scope_note: term.scopeNote,
    other_labels: term.otherLabels,
    labels_folded: [...new Set(labels.map(foldText))],
    words: wordVector(labels),
  };
}

const TERM_COLUMNS = `t.id, t.parent_id as "parentId", t.label, t.heading, t.write_broader as "writeBroader", t.scope_note as "scopeNote", t.other_labels as "otherLabels"`;

export async function listTerms(database: Database): Promise<TermWithCounts[]> {
  return database.rows<TermWithCounts>(
    `select ${TERM_COLUMNS}, coalesce(direct.photos, 0) as photos, coalesce(within.photos, 0) as "photosWithin"
     from term t
     left join (select term_id, count(*)::int as photos from photo_term where photo_id not in (select id from photo where not shown) group by term_id) direct on direct.term_id = t.id
     left join (
       select broad.id, count(distinct given.photo_id)::int as photos
       from term broad join term own on own.pre between broad.pre and broad.last
       join photo_term given on given.term_id = own.id where given.photo_id not in (select id from photo where not shown) group by broad.id) within on within.id = t.id
     order by t.pre`,
  );
}

export async function findTerms(database: Database, ids: readonly number[], tx?: Transaction): Promise<Term[]> {
  return database.rows<Term>(`select ${TERM_COLUMNS} from term t where t.id = any($1)`, [ids], tx);
}

/** The labels among `labels` that a term below `parentId` has already. */
export async function takenLabels(
  database: Database,
  parentId: number | null,
  labels: readonly string[],
  tx: Transaction,
): Promise<string[]> {
  const rows = await database.rows<{ label: string }>(
    'select label from term where parent_id is not distinct from $1::int and label = any($2)',
    [parentId, labels],
    tx,
  );
  return rows.map(({ label }) => label);
}

export async function usesOf(
  database: Database,
  id: number,
  tx: Transaction,
): Promise<{ photos: number; narrower: number }> {
  const row = await database.row<{ photos: number; narrower: number }>(
    `select (select count(*)::int from photo_term where term_id = $1) as photos, (select count(*)::int from term where parent_id = $1) as narrower`,
    [id],
    tx,
  );
  return row ?? { photos: 0, narrower: 0 };
}

export async function nextTermIds(database: Database, count: number, tx: Transaction): Promise<number[]> {
  const rows = await database.rows<{ id: string }>(
    `select nextval(pg_get_serial_sequence('term', 'id')) as id from generate_series(1, $1)`,
    [count],
    tx,
  );
  return rows.map(({ id }) => Number(id));
}

/** Records terms as made, altered (before and after) or removed. */
export async function recordTerms(
  database: Database,
  entryId: number,
  changes: readonly { before: TermRow | null; after: TermRow | null }[],
  tx: Transaction,
): Promise<void> {
  const rows = changes.map(({ before, after }) => ({ id: (after ?? before)?.id, before, after }));
  await database.rows(
    `insert into ledger_object (entry_id, kind, object_id, before, after)
     select $1, 'term', r.id, nullif(r.before, 'null'), nullif(r.after, 'null') from jsonb_to_recordset($2::jsonb) r (id int, before jsonb, after jsonb)`,
    [entryId, JSON.stringify(rows)],
    tx,
  );
}

/** Records that photos of a selection (a statement with `bind`) get or lose terms; only those that really change. */
export async function recordTermsOfPhotos(
  database: Database,
  entryId: number,
  selection: { sql: string; bind: readonly unknown[] },
  termIds: readonly number[],
  given: boolean,
  tx: Transaction,
): Promise<void> {
  const bind = [...selection.bind];
  const [entry, terms, after] = [`$${bind.push(entryId)}`, `$${bind.push(termIds)}`, `$${bind.push(given)}`];
  await database.rows(
    `insert into ledger_photo (entry_id, photo_id, aspect, key, before, after)
     select ${entry}::int, chosen.id, 'term', wanted.id, to_jsonb(not ${after}::boolean), to_jsonb(${after}::boolean)
     from (${selection.sql}) chosen cross join unnest(${terms}::int[]) wanted (id)
     where exists (select 1 from photo_term g where g.photo_id = chosen.id and g.term_id = wanted.id) <> ${after}::boolean`,
    bind,
    tx,
  );
}

/** Numbers all terms in pre-order, if the entry touched any: within a term is then a range. */
export async function renumberIfTouched(database: Database, entryId: number, tx: Transaction): Promise<void> {
  const touched = await database.row(
    `select 1 as touched from ledger_object where entry_id = $1 and kind = 'term' limit 1`,
    [entryId],
    tx,
  );
  if (!touched) return;
  await database.rows(
    `with recursive ranked as (
       select id, parent_id, row_number() over (partition by parent_id order by lower(label), id)::int as place from term),
     walk as (
       select id, array[place] as road, array[id] as path from ranked where parent_id is null
       union all
       select r.id, w.road || r.place, w.path || r.id from ranked r join walk w on r.parent_id = w.id),
     numbered as (select id, path, row_number() over (order by road)::int as pre from walk),
     spans as (select above.id, max(n.pre) as last from numbered n cross join unnest(n.path) above (id) group by above.id)
     update term t set pre = n.pre, last = s.last from numbered n join spans s on s.id = n.id
     where t.id = n.id and (t.pre, t.last) is distinct from (n.pre, s.last)`,
    [],
    tx,
  );
}
