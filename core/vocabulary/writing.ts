// Which keywords a photo's terms become in a file.

import type { Term } from './term';
import type { TermTree } from './tree';

/**
 * The keywords to write for the given terms: the preferred label of each, and of its broader terms where its rule says so
 * (headings never). Broader before narrower, each label once.
 */
export function keywordsOf(tree: TermTree, termIds: Iterable<number>): string[] {
  const labels = new Set<string>();
  for (const id of termIds) {
    const path = tree.path(id);
    const term = path.at(-1);
    for (const step of term?.writeBroader ? path : path.slice(-1)) if (isWritten(step)) labels.add(step.label);
  }
  return [...labels];
}

function isWritten(term: Term): boolean {
  return !term.heading;
}
