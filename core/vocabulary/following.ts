// Queries that name terms follow them: when a term is renamed, moved or merged, what named it before still finds the same.

import type { CriterionQuery, Query } from '../query/query';
import { foldText } from '../text/words';
import { labelsOf, type Term } from './term';
import type { TermTree } from './tree';

/** Names of terms, as the criteria `term:` and `only:` read them. */
export class TermNames {
  private readonly byLabel = new Map<string, Term[]>();

  constructor(readonly tree: TermTree) {
    for (const term of tree.preOrder())
      for (const label of new Set(labelsOf(term).map(foldText))) {
        const known = this.byLabel.get(label);
        if (known) known.push(term);
        else this.byLabel.set(label, [term]);
      }
  }

  /** The terms that a text names: by one of their labels, or by a path of labels that ends at them. */
  named(text: string): Term[] {
    const whole = this.byLabel.get(foldText(text)) ?? [];
    const steps = text.split('/').map(foldText);
    if (steps.length === 1) return whole;
    const last = steps.pop() ?? '';
    const byPath = (this.byLabel.get(last) ?? []).filter((term) => {
      const above = this.tree.path(term.id).slice(0, -1);
      return (
        above.length >= steps.length &&
        steps.every((step, i) => {
          const at = above[above.length - steps.length + i];
          return at !== undefined && labelsOf(at).some((label) => foldText(label) === step);
        })
      );
    });
    return [...new Set([...whole, ...byPath])];
  }

  /** The shortest text that names just this term: its label, or as much of its path as tells it from others. */
  nameOf(id: number): string {
    const path = this.tree.path(id).map(({ label }) => label);
    for (let levels = 1; levels <= path.length; levels++) {
      const text = path.slice(-levels).join('/');
      const named = this.named(text);
      if (named.length === 1 && named[0]?.id === id) return text;
    }
    return path.join('/');
  }
}

/**
 * A query whose terms are named as they are now. `becomes` says what became of a term's id (itself, the one it was merged
 * into, nothing). Returns the same object when nothing has to change; a term that is gone for good stays named as it was.
 */
export function followTerms(
  query: Query,
  before: TermNames,
  after: TermNames,
  becomes: (id: number) => number | undefined,
): Query {
  if (query.kind === 'all' || query.kind === 'any') {
    const of = query.of.map((part) => followTerms(part, before, after, becomes));
    return of.every((part, i) => part === query.of[i]) ? query : { kind: query.kind, of };
  }
  if (query.kind === 'not') {
    const of = followTerms(query.of, before, after, becomes);
    return of === query.of ? query : { kind: 'not', of };
  }
  if (query.kind !== 'criterion' || (query.criterion !== 'term' && query.criterion !== 'only')) return query;
  return followed(query, before, after, becomes);
}

function followed(
  query: CriterionQuery,
  before: TermNames,
  after: TermNames,
  becomes: (id: number) => number | undefined,
): Query {
  const wanted = new Set(before.named(query.value).flatMap(({ id }) => becomes(id) ?? []));
  const now = new Set(after.named(query.value).map(({ id }) => id));
  if (wanted.size === 0 || (wanted.size === now.size && [...wanted].every((id) => now.has(id)))) return query;
  const named = [...wanted].map((id): CriterionQuery => ({ ...query, value: after.nameOf(id) }));
  return named.length === 1 && named[0] ? named[0] : { kind: 'any', of: named };
}
