// The SQL of vocabularies: rows of terms and links, which photos have them, counts by column.

import { foldText } from '@stellin/core/text/words';
import type { Edit } from '@stellin/core/vocabulary/editor';
import { labelsOf, type Relation, type Term, type Vocabulary } from '@stellin/core/vocabulary/term';
import { sightSql } from '../catalogue/sightSql';
import type { Viewer } from '../catalogue/viewer';
import type { Bind, Database, Transaction } from '../database/database';
import { isoSql } from '../database/isoSql';
import { SELECTED_TERM, TERM_COLUMNS } from '../catalogue/terms';
import { wordVector } from '../catalogue/vector';
import { objectRows, recordObjects, recordPhotos } from '../ledger/recordStore';

/** The row of a term as the ledger keeps it, with what is derived from its labels. */
function termRow(term: Term): Record<string, unknown> {
  const labels = labelsOf(term);
  const said = Object.entries(TERM_COLUMNS).map(([part, column]) => [column, term[part as keyof Term]]);
  return {
    ...(Object.fromEntries(said) as Record<string, unknown>),
    labels_folded: [...new Set(labels.map(foldText))],
    words: wordVector(labels),
  };
}

export async function findTerms(database: Database, ids: readonly number[], tx?: Transaction): Promise<Term[]> {
  return database.rows<Term>(`select ${SELECTED_TERM} from term t where t.id = any($1)`, [ids], tx);
}

/** How many photos have each term directly; terms that none has are left out. */
export async function directUses(database: Database, tx?: Transaction): Promise<Map<number, number>> {
  const rows = await database.rows<{ id: number; photos: number }>(
    'select term_id as id, photos from term_use where photos > 0',
    [],
    tx,
  );
  return new Map(rows.map(({ id, photos }) => [id, photos]));
}

export async function raiseVersion(database: Database, tx: Transaction): Promise<void> {
  await database.rows('update vocabulary_version set version = version + 1', [], tx);
}

export async function nextTermIds(database: Database, count: number, tx: Transaction): Promise<number[]> {
  const rows = await database.rows<{ id: string }>(
    `select nextval(pg_get_serial_sequence('term', 'id')) as id from generate_series(1, $1)`,
    [count],
    tx,
  );
  return rows.map(({ id }) => Number(id));
}

/** Records terms as made, altered or removed. */
export async function recordTerms(
  database: Database,
  entryId: number,
  edits: readonly Edit<Term>[],
  tx: Transaction,
): Promise<void> {
  const rows = edits.map(({ before, after }) => ({
    id: (after ?? before)?.id,
    before: before && termRow(before),
    after: after && termRow(after),
  }));
  await recordObjects(database, entryId, 'term', objectRows(rows), tx);
}

export async function recordVocabularies(
  database: Database,
  entryId: number,
  edits: readonly Edit<Vocabulary>[],
  tx: Transaction,
): Promise<void> {
  const row = ({ byHand, ...said }: Vocabulary) => ({ ...said, by_hand: byHand });
  const rows = edits.map(({ before, after }) => ({
    id: (after ?? before)?.id,
    before: before && row(before),
    after: after && row(after),
  }));
  await recordObjects(database, entryId, 'vocabulary', objectRows(rows), tx);
}

/** Records links as made or removed. */
export async function recordRelations(
  database: Database,
  entryId: number,
  edits: readonly Edit<Relation>[],
  tx: Transaction,
): Promise<void> {
  if (edits.length === 0) return;
  const sql = `select x.id, case when not x.made then x.row end, case when x.made then x.row end
    from (select i.id, r.made, jsonb_build_object('id', i.id, 'kind', r.kind, 'from_id', r."fromId", 'to_id', r."toId") as row
          from jsonb_to_recordset($1::jsonb) r (kind text, "fromId" int, "toId" int, made boolean)
          left join term_relation k on k.kind = r.kind and k.from_id = r."fromId" and k.to_id = r."toId"
          cross join lateral (select coalesce(k.id, nextval(pg_get_serial_sequence('term_relation', 'id'))::int) as id) i) x`;
  const bind = [JSON.stringify(edits.map(({ before, after }) => ({ ...(after ?? before), made: after !== null })))];
  await recordObjects(database, entryId, 'term_relation', { sql, bind }, tx);
}

/** Records that photos which have `from` get `to` instead (null: nothing); how it came to them stays. */
export async function recordRegiven(
  database: Database,
  entryId: number,
  { from, to }: { from: number; to: number | null },
  tx: Transaction,
): Promise<void> {
  await recordTaken(
    database,
    entryId,
    from,
    { sql: 'select photo_id as id from photo_term where term_id = $1', bind: [from] },
    tx,
  );
  if (to === null) return;
  const sql = `select g.photo_id, $2::int, 'false', to_jsonb(g.origin) from photo_term g
    where g.term_id = $1 and not exists (select 1 from photo_term o where o.photo_id = g.photo_id and o.term_id = $2)`;
  await recordPhotos(database, entryId, 'term', { sql, bind: [from, to] }, tx, 'stays');
}

/** Records that some photos (a statement that returns `id`, with bind) lose a term; those without it are passed over. */
async function recordTaken(
  database: Database,
  entryId: number,
  termId: number,
  photos: { sql: string; bind: Bind },
  tx: Transaction,
): Promise<void> {
  const bind = [...photos.bind, termId];
  const sql = `select g.photo_id, g.term_id, to_jsonb(g.origin), 'false'
    from (${photos.sql}) chosen join photo_term g on g.photo_id = chosen.id and g.term_id = $${bind.length}::int`;
  await recordPhotos(database, entryId, 'term', { sql, bind }, tx, 'stays');
}

/** Records that photos of a selection which have `from`, and were not divided off before, get `to` instead. Returns how many. */
export async function recordDivided(
  database: Database,
  entryId: number,
  selection: { sql: string; bind: readonly unknown[] },
  { from, to }: { from: number; to: number },
  tx: Transaction,
): Promise<void> {
  const bind = [...selection.bind, entryId, from, to];
  const [entry, fromId, toId] = [`$${bind.length - 2}::int`, `$${bind.length - 1}::int`, `$${bind.length}::int`];
  const sql = `with divided as materialized (
      select g.photo_id, g.origin from (${selection.sql}) chosen join photo_term g on g.photo_id = chosen.id and g.term_id = ${fromId}
      where not exists (select 1 from ledger_photo l where l.entry_id = ${entry} and l.photo_id = g.photo_id and l.aspect = 'term' and l.key = ${fromId}))
    select photo_id, ${fromId}, to_jsonb(origin), 'false'::jsonb from divided
    union all select photo_id, ${toId}, 'false'::jsonb, to_jsonb(origin) from divided`;
  await recordPhotos(database, entryId, 'term', { sql, bind }, tx);
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
  const terms = `$${bind.push(termIds)}::int[]`;
  const sql = given
    ? `select chosen.id, wanted.id, 'false', '"hand"'
       from (${selection.sql}) chosen cross join unnest(${terms}) wanted (id)
       where not exists (select 1 from photo_term g where g.term_id = any(${terms}) and g.photo_id = chosen.id and g.term_id = wanted.id)`
    : `select g.photo_id, g.term_id, to_jsonb(g.origin), 'false'
       from (${selection.sql}) chosen join photo_term g on g.photo_id = chosen.id and g.term_id = any(${terms})`;
  await recordPhotos(database, entryId, 'term', { sql, bind }, tx);
}

export interface TermCounts {
  id: number;
  photos: number;
  photosWithin: number;
  lastGivenAt: string | null;
}

/** How many photos have each of some terms. Photos that are set aside are not counted. */
export async function countsOf(database: Database, ids: readonly number[]): Promise<Map<number, TermCounts>> {
  const rows = await database.rows<TermCounts>(
    `with hidden as materialized (
       select a.above_id, count(distinct g.photo_id)::int as photos, count(distinct g.photo_id) filter (where g.term_id = a.above_id)::int as direct
       from photo h join photo_term g on g.photo_id = h.id join term_above a on a.term_id = g.term_id
       where not h.shown and a.above_id = any($1) group by a.above_id)
     select u.term_id as id, u.photos - coalesce(h.direct, 0) as photos, u.photos_within - coalesce(h.photos, 0) as "photosWithin", ${isoSql('u.last_given_at')} as "lastGivenAt"
     from term_use u left join hidden h on h.above_id = u.term_id where u.term_id = any($1)`,
    [ids],
  );
  return new Map(rows.map((row) => [row.id, row]));
}

/** The same of the photos that exist for somebody. */
export async function seenCountsOf(
  database: Database,
  { sight }: Viewer,
  ids: readonly number[],
): Promise<Map<number, TermCounts>> {
  const seen = sightSql(sight, [ids]);
  const rows = await database.rows<TermCounts>(
    `select a.above_id as id, count(distinct p.id) filter (where g.term_id = a.above_id)::int as photos,
       count(distinct p.id)::int as "photosWithin", null as "lastGivenAt"
     from term_above a join photo_term g on g.term_id = a.term_id join photo p on p.id = g.photo_id
     where a.above_id = any($1) and p.shown and ${seen.sql} group by a.above_id`,
    seen.bind,
  );
  return new Map(rows.map((row) => [row.id, row]));
}

/** The same of all terms that photos have. */
export async function allCounts(database: Database): Promise<Map<number, TermCounts>> {
  const rows = await database.rows<{ ids: number[] }>(
    'select array(select term_id from term_use where photos_within > 0) as ids',
  );
  return countsOf(database, rows[0]?.ids ?? []);
}

/** Notes keywords as ones that came with files. */
export async function noteIncoming(database: Database, keywords: readonly string[], tx: Transaction): Promise<void> {
  await database.rows(
    'insert into incoming_keyword (keyword, folded) select * from unnest($1::text[], $2::text[]) on conflict do nothing',
    [keywords, keywords.map(foldText)],
    tx,
  );
}

/** All folders with their paths. */
export function listFolders(database: Database, tx: Transaction): Promise<{ id: number; path: string }[]> {
  return database.rows<{ id: number; path: string }>('select id, path from folder', [], tx);
}

export interface Decided {
  keyword: string;
  decision: 'term' | 'keep' | 'drop';
  termId: number | null;
}

/** Records that keywords which become terms or nothing stop being free ones, and that photos that have them get the terms. */
export async function recordSettled(
  database: Database,
  entryId: number,
  settled: readonly Decided[],
  accession: number | null,
  tx: Transaction,
): Promise<void> {
  const bind = [JSON.stringify(settled), accession];
  const having = `from jsonb_to_recordset($1::jsonb) as d (keyword text, "termId" int)
    join photo_keyword k on k.keyword = d.keyword join photo p on p.id = k.photo_id and ($2::int is null or p.accession_id = $2)`;
  const keywords = `select k.photo_id, i.id, 'true', 'false' ${having} join incoming_keyword i on i.keyword = d.keyword`;
  await recordPhotos(database, entryId, 'keyword', { sql: keywords, bind }, tx);
  const terms = `select distinct k.photo_id, d."termId", 'false', '"file"' ${having}
    where d."termId" is not null and not exists (select 1 from photo_term g where g.photo_id = k.photo_id and g.term_id = d."termId")`;
  await recordPhotos(database, entryId, 'term', { sql: terms, bind }, tx);
}

/** Records that photos in some folders get terms. */
export async function recordFolderTerms(
  database: Database,
  entryId: number,
  given: readonly { folderId: number; termId: number }[],
  accession: number | null,
  tx: Transaction,
): Promise<void> {
  const sql = `select distinct p.id, g."termId", 'false', '"intake"'
    from jsonb_to_recordset($1::jsonb) as g ("folderId" int, "termId" int) join photo p on p.folder_id = g."folderId"
    where ($2::int is null or p.accession_id = $2)
      and not exists (select 1 from photo_term o where o.photo_id = p.id and o.term_id = g."termId")`;
  await recordPhotos(database, entryId, 'term', { sql, bind: [JSON.stringify(given), accession] }, tx);
}

/** Records decisions on keywords, so that files which come later follow them. */
export async function recordDecisions(
  database: Database,
  entryId: number,
  decided: readonly Decided[],
  tx: Transaction,
): Promise<void> {
  const sql = `select x.id, to_jsonb(o), jsonb_build_object('id', x.id, 'keyword', x.keyword, 'decision', x.decision, 'term_id', x."termId")
    from (select coalesce(k.id, nextval(pg_get_serial_sequence('keyword_decision', 'id'))::int) as id, d.keyword, d.decision, d."termId"
          from jsonb_to_recordset($1::jsonb) as d (keyword text, decision text, "termId" int)
          left join keyword_decision k on k.keyword = d.keyword) x
    left join keyword_decision o on o.id = x.id`;
  await recordObjects(database, entryId, 'keyword_decision', { sql, bind: [JSON.stringify(decided)] }, tx);
}
