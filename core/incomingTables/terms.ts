// Which terms the words of a table mean: by address, by path, by label; else what somebody decided.

import { foldText } from '../text/words';
import type { Proposal, TermMatcher } from '../vocabulary/matching';
import type { Term } from '../vocabulary/term';

/** What becomes of a word that is no term: a term after all, a keyword as files bring it along, or nothing. */
export const WORD_DECISIONS = ['term', 'keep', 'drop'] as const;
export interface WordDecision {
  /** Folded. */
  word: string;
  decision: (typeof WORD_DECISIONS)[number];
  /** The term, where it is one. */
  termId: number | null;
}

export type Meant = { termId: number } | 'keep' | 'drop';

export interface WordReader {
  /** The term that a word means without doubt. */
  termOf: (word: string) => number | undefined;
  /** What becomes of a word: words that nobody decided on are kept as keywords. */
  meant: (word: string) => Meant;
  /** The term that a word without doubt does not mean, but is like. */
  propose: (word: string) => Proposal | undefined;
}

/** Reads words by the terms there are now. */
export function wordReader(
  terms: Iterable<Pick<Term, 'id' | 'uri' | 'heading' | 'deprecated'>>,
  matcher: Pick<TermMatcher, 'meant' | 'propose'>,
  decisions: readonly WordDecision[],
): WordReader {
  const byUri = new Map<string, number>();
  const given = new Set<number>();
  for (const { id, uri, heading, deprecated } of terms) {
    if (heading || deprecated) continue;
    byUri.set(uri, id);
    given.add(id);
  }
  const decided = new Map(decisions.map((decision) => [decision.word, decision]));
  const known = new Map<string, number | undefined>();
  const termOf = (word: string) => {
    if (!known.has(word)) known.set(word, byUri.get(word) ?? matcher.meant(word));
    return known.get(word);
  };
  return {
    termOf,
    meant(word) {
      const termId = termOf(word);
      if (termId !== undefined) return { termId };
      const { decision = 'keep', termId: chosen = null } = decided.get(foldText(word)) ?? {};
      // A term that was chosen may be gone by now.
      if (decision === 'term') return chosen !== null && given.has(chosen) ? { termId: chosen } : 'keep';
      return decision;
    },
    propose: (word) => matcher.propose(word),
  };
}
