// Which stretches of films and sounds a query speaks of.

import { foldText, matcherOf, patternsOf, wordMatches, wordsOf } from '../text/words';
import type { Stretch } from '../media/stretches';
import { conjuncts, type Query } from '../query/query';

/** Whether all that a query finds has stretches, because it asks for them. */
export function asksForStretches(query: Query): boolean {
  return conjuncts(query).some(
    (part) =>
      part.kind === 'criterion' &&
      (part.criterion === 'stretches' || (part.criterion === 'has' && part.value === 'stretches')),
  );
}

/** The stretches that a query speaks of, by its criterion or by plain words; all where it only asks that there are any. */
export function stretchesAsked(query: Query, stretches: readonly Stretch[]): readonly Stretch[] {
  const parts = conjuncts(query);
  const patterns = parts.flatMap((part) =>
    part.kind === 'criterion' && part.criterion === 'stretches' ? [part.value] : [],
  );
  const words = parts
    .flatMap((part) => (part.kind === 'words' || part.kind === 'phrase' ? [part.text] : []))
    .flatMap(patternsOf);
  if (patterns.length === 0 && words.length === 0) return asksForStretches(query) ? stretches : [];
  return stretches.filter(({ name, note, terms, people }) => {
    const texts = [name, note, ...terms, ...people];
    const said = texts.flatMap(wordsOf);
    return (
      patterns.some((pattern) => texts.some((text) => matcherOf(foldText(pattern))(foldText(text)))) ||
      (words.length > 0 && words.every((pattern) => said.some((word) => wordMatches(word, pattern))))
    );
  });
}
