// How terms are named to those who read answers: with the labels above them.

import type { TermTree } from '@stellin/core/vocabulary/tree';
import type { TermName } from '@stellin/contract/termName';

/** A term with the labels above it. A term that is gone meanwhile has none. */
export function nameOf(tree: TermTree, id: number): TermName {
  const path = tree.path(id);
  return { id, label: path.at(-1)?.label ?? '', path: path.slice(0, -1).map(({ label }) => label) };
}
