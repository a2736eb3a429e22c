// Keywords that files bring along, and folder names, as long as nobody has decided what becomes of them.

import { nameOf } from './naming';
import { folderWords } from '@stellin/core/vocabulary/matching';
import type { IncomingKeyword } from '@stellin/contract/keywords';
import type { Database } from '../database/database';
import type { VocabularyIndex } from '../catalogue/vocabularySnapshot';
import {
  withSamples,
  decidedKeywords,
  foldersOpen,
  type Request,
  unsettledKeywords,
  type Found,
} from './incomingStore';
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

async function unsettledFolders(database: Database, { accession, levels, limit }: Request): Promise<Found> {
  const folders = await foldersOpen(database, accession);
  const byWords = new Map<string, { photos: number; ids: number[] }>();
  for (const { path, photos, ids } of folders)
    for (const words of folderKeywords(path, levels)) {
      const known = byWords.get(words);
      byWords.set(words, { photos: (known?.photos ?? 0) + photos, ids: [...(known?.ids ?? []), ...ids].slice(0, 3) });
    }
  const settled = await decidedKeywords(database, [...byWords.keys()].map(folderDecision));
  for (const { keyword } of settled) byWords.delete(keyword.slice(FOLDER_MARK.length));
  const words = [...byWords].map(([keyword, { photos, ids }]) => ({ keyword, photos, ids }));
  words.sort((a, b) => b.photos - a.photos || (a.keyword < b.keyword ? -1 : 1));
  const rows = await withSamples(database, words, limit);
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
