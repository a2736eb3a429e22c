// Terms that chosen photos might get: those one gave last, and those that photos like them usually have.

import type { TermTree } from '@stellin/core/vocabulary/tree';
import type { Selection } from '@stellin/contract/photos';
import type { SuggestedTerm } from '@stellin/contract/vocabulary';
import type { Database } from '../database/database';
import { selectionSql } from '../catalogue/selection';
import { nameOf } from './naming';
import type { VocabularyIndex } from '../catalogue/vocabularySnapshot';
import type { TermName } from '@stellin/contract/termName';
import { givenLast, suggestionsFor } from './suggestingStore';

const RECENT_TERMS = 12;
const SUGGESTED_TERMS = 12;

function isGiven(term: { heading: boolean; deprecated: boolean } | undefined): boolean {
  return term !== undefined && !term.heading && !term.deprecated;
}

/** The terms that somebody gave last, each once. */
export async function recentTerms(database: Database, index: VocabularyIndex, accountId: number): Promise<TermName[]> {
  const { tree } = await index.current();
  // Some of them may have gone, or can't be given any more.
  const ids = await givenLast(database, accountId, RECENT_TERMS * 2);
  return ids
    .filter((id) => isGiven(tree.get(id)))
    .slice(0, RECENT_TERMS)
    .map((id) => nameOf(tree, id));
}

/**
 * Terms that photos usually have which have the same terms, lie in the same folder, were taken that day or show the same people,
 * with the reason. Of
 * each kind of photos the newest are looked at.
 */
export async function suggestTerms(
  database: Database,
  index: VocabularyIndex,
  selection: Selection,
): Promise<SuggestedTerm[]> {
  const { tree } = await index.current();
  const chosen = selectionSql(selection);
  const rows = await suggestionsFor(database, chosen.sql, chosen.bind);
  const best = new Map<number, SuggestedTerm>();
  for (const { id, why, base, share } of rows)
    if (!best.has(id) && isGiven(tree.get(id)))
      best.set(id, { ...nameOf(tree, id), share, why: reason(tree, why, base ?? '') });
  return [...best.values()].slice(0, SUGGESTED_TERMS);
}

const REASONS: Record<string, (tree: TermTree, base: string) => string> = {
  folder: () => 'in this folder',
  day: () => 'on this day',
  person: (_tree, name) => `with ${name}`,
  term: (tree, id) => `with “${tree.get(Number(id))?.label ?? ''}”`,
};

function reason(tree: TermTree, why: string, base: string): string {
  return REASONS[why]?.(tree, base) ?? '';
}
