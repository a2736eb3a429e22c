// Keywords that files bring along, and folder names, as long as nobody has decided what becomes of them.

import { nameOf } from './naming';
import { folderWords } from '@stellin/core/vocabulary/matching';
import type { IncomingKeyword, KEYWORD_SOURCES } from '@stellin/contract/keywords';
import type { Database, Transaction } from '../database/database';
import type { VocabularyIndex } from '../catalogue/vocabularySnapshot';

interface Request {
  source: (typeof KEYWORD_SOURCES)[number];
  accession?: number;
  levels: number;
  limit: number;
}

interface Found {
  total: number;
  rows: Omit<IncomingKeyword, 'proposal' | 'person'>[];
}

/** Persons that names probably mean. */
export type PersonsCalled = (names: readonly string[]) => Promise<(IncomingKeyword['person'] | undefined)[]>;

/** What is to be settled, the most frequent first, each with the term it probably means. */
export async function listIncoming(
  database: Database,
  index: VocabularyIndex,
  request: Request,
  personsCalled: PersonsCalled,
): Promise<{ keywords: IncomingKeyword[]; total: number }> {
  const { total, rows } = await (request.source === 'keywords' ? unsettledKeywords : unsettledFolders)(
    database,
    request,
  );
  if (rows.length === 0) return { keywords: [], total };
  const { tree, matcher } = await index.current();
  const persons = request.source === 'keywords' ? await personsCalled(rows.map(({ keyword }) => keyword)) : [];
  const keywords = rows.map((row, i) => {
    const proposal = matcher().propose(row.keyword);
    return {
      ...row,
      person: persons[i] ?? null,
      proposal: proposal ? { term: nameOf(tree, proposal.termId), why: proposal.why } : null,
    };
  });
  return { keywords, total };
}

async function unsettledKeywords(database: Database, { accession, limit }: Request): Promise<Found> {
  const open = `from photo_keyword k join photo p on p.id = k.photo_id
    where p.shown and ($1::int is null or p.accession_id = $1) and not exists (select 1 from keyword_decision d where d.keyword = k.keyword)`;
  const [count, rows] = await Promise.all([
    database.row<{ total: number }>(`select count(distinct k.keyword)::int as total ${open}`, [accession ?? null]),
    limit === 0
      ? []
      : database.rows<Found['rows'][number]>(
          `select o.keyword, o.photos, ${SAMPLES} as samples from (
             select k.keyword, count(*)::int as photos, (array_agg(k.photo_id order by k.photo_id))[1:3] as ids
             ${open} group by k.keyword order by photos desc, k.keyword limit $2) o
           order by o.photos desc, o.keyword`,
          [accession ?? null, limit],
        ),
  ]);
  return { total: count?.total ?? 0, rows };
}

const SAMPLES = `(select json_agg(json_build_object('id', s.id, 'previewVersion', s.preview_version) order by s.id) from photo s where s.id = any(o.ids))`;

async function unsettledFolders(database: Database, { accession, levels, limit }: Request): Promise<Found> {
  const folders = await database.rows<{ path: string; photos: number; ids: number[] }>(
    `select f.path, count(*)::int as photos, (array_agg(p.id order by p.id))[1:3] as ids
     from photo p join folder f on f.id = p.folder_id where p.shown and ($1::int is null or p.accession_id = $1) group by f.path`,
    [accession ?? null],
  );
  const byWords = new Map<string, { photos: number; ids: number[] }>();
  for (const { path, photos, ids } of folders)
    for (const words of folderKeywords(path, levels)) {
      const known = byWords.get(words);
      byWords.set(words, { photos: (known?.photos ?? 0) + photos, ids: [...(known?.ids ?? []), ...ids].slice(0, 3) });
    }
  const settled = await database.rows<{ keyword: string }>(
    'select keyword from keyword_decision where keyword = any($1)',
    [[...byWords.keys()].map(folderDecision)],
  );
  for (const { keyword } of settled) byWords.delete(keyword.slice(FOLDER_MARK.length));
  const words = [...byWords].map(([keyword, { photos, ids }]) => ({ keyword, photos, ids }));
  words.sort((a, b) => b.photos - a.photos || (a.keyword < b.keyword ? -1 : 1));
  const rows = await database.rows<Found['rows'][number]>(
    `select o.keyword, o.photos, ${SAMPLES} as samples
     from jsonb_to_recordset($1::jsonb) as r (keyword text, photos int, ids jsonb)
     cross join lateral (select r.keyword, r.photos, array(select jsonb_array_elements_text(r.ids)::int) as ids) o
     order by o.photos desc, o.keyword`,
    [JSON.stringify(words.slice(0, limit))],
  );
  return { total: words.length, rows };
}

/** How decisions on folder names are told from those on keywords. */
const FOLDER_MARK = 'folder: ';

/** The name under which the decision on a folder's words is kept. */
export function folderDecision(words: string): string {
  return FOLDER_MARK + words;
}

/** What the last folders of a path say, without dates and numbers. */
export function folderKeywords(path: string, levels: number): string[] {
  const words = path
    .split('/')
    .slice(-levels)
    .flatMap((name) => folderWords(name) ?? []);
  return [...new Set(words)];
}

/** Applies what was decided before to files that were just read. */
export async function settleKnown(database: Database, photoIds: readonly number[], tx: Transaction): Promise<void> {
  const settled = await database.row(
    `with decided as materialized (
       select k.photo_id, k.keyword, d.term_id from photo_keyword k join keyword_decision d on d.keyword = k.keyword
       where k.photo_id = any($1) and d.decision <> 'keep'),
     given as (
       insert into photo_term (term_id, photo_id, origin) select distinct x.term_id, x.photo_id, 'file' from decided x join term t on t.id = x.term_id and not t.heading
       on conflict do nothing),
     written as (insert into written_keyword (photo_id, keyword) select photo_id, keyword from decided on conflict do nothing)
     delete from photo_keyword k using decided x where k.photo_id = x.photo_id and k.keyword = x.keyword returning 1 as settled`,
    [photoIds],
    tx,
  );
  if (settled) await database.notify(['vocabulary'], tx);
}
