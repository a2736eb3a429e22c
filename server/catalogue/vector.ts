// Texts as a tsvector of the words that core/text/words makes of them, so that PostgreSQL finds what the evaluator finds.

import { wordsOf } from '@stellin/core/text/words';

const GAP = 10;
const MAX_POSITION = 16_000;

/** The literal of a tsvector. Between texts the positions leave a gap, so that no phrase runs from one into the next. */
export function wordVector(texts: readonly string[]): string {
  const positions = new Map<string, number[]>();
  let at = 1;
  for (const text of texts) {
    for (const word of wordsOf(text)) {
      // PostgreSQL keeps at most 255 positions of a word, and words of at most 2 KB.
      const known = positions.get(word) ?? [];
      if (word.length <= 500 && known.length < 255) positions.set(word, [...known, Math.min(at, MAX_POSITION)]);
      at += 1;
    }
    at += GAP;
  }
  return [...positions].map(([word, places]) => `'${word}':${places.join(',')}`).join(' ');
}
