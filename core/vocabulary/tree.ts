// A vocabulary as a tree: paths, narrower terms, and the pre-order numbers that make "within" a range.

import type { Term } from './term';

type Node = Pick<Term, 'id' | 'parentId' | 'label'>;

export class TermTree<T extends Node = Term> {
  private readonly byId = new Map<number, T>();
  private readonly children = new Map<number | null, T[]>();

  constructor(terms: Iterable<T>) {
    for (const term of terms) {
      this.byId.set(term.id, term);
      const siblings = this.children.get(term.parentId);
      if (siblings) siblings.push(term);
      else this.children.set(term.parentId, [term]);
    }
    for (const siblings of this.children.values()) siblings.sort((a, b) => compareLabels(a.label, b.label));
  }

  get(id: number): T | undefined {
    return this.byId.get(id);
  }

  /** The terms directly below, sorted by label; the top terms for null. */
  narrower(id: number | null): readonly T[] {
    return this.children.get(id) ?? [];
  }

  /** From the top down to the term itself. Empty for an unknown id. */
  path(id: number): T[] {
    const path: T[] = [];
    for (let term = this.byId.get(id); term && path.length <= this.byId.size;) {
      path.unshift(term);
      term = term.parentId === null ? undefined : this.byId.get(term.parentId);
    }
    return path;
  }

  /** All terms, each before its narrower ones. */
  preOrder(): T[] {
    const order: T[] = [];
    const visit = (parent: number | null) => {
      for (const term of this.narrower(parent)) {
        order.push(term);
        visit(term.id);
      }
    };
    visit(null);
    return order;
  }
}

const collator = new Intl.Collator('en', { sensitivity: 'base', numeric: true });

/** The order of labels that a person expects: accents and case aside, numbers by size. */
export function compareLabels(a: string, b: string): number {
  return collator.compare(a, b);
}
