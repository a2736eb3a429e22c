// Vocabularies as a tree of columns: paths, narrower terms in their order, and what stands above and below by any way.

import type { Relation, Term } from './term';

type Node = Pick<Term, 'id' | 'parentId' | 'label'> & Partial<Pick<Term, 'position' | 'byHand' | 'vocabularyId'>>;

/** Top terms stand in the order of their vocabularies. */
interface TopOrder {
  id: number;
  byHand: boolean;
}

export class TermTree<T extends Node = Term> {
  private readonly byId = new Map<number, T>();
  private readonly children = new Map<number | null, T[]>();
  private readonly ordered = new Set<number | null>();
  /** Broader terms besides the one in the tree, and the same from the other side. */
  private readonly furtherBroader = new Map<number, number[]>();
  private readonly furtherNarrower = new Map<number, number[]>();

  constructor(
    terms: Iterable<T>,
    relations: Iterable<Relation> = [],
    private readonly vocabularies: readonly TopOrder[] = [],
  ) {
    for (const term of terms) {
      this.byId.set(term.id, term);
      put(this.children, term.parentId, term);
    }
    for (const { kind, fromId, toId } of relations) {
      if (kind !== 'broader') continue;
      put(this.furtherBroader, fromId, toId);
      put(this.furtherNarrower, toId, fromId);
    }
  }

  get(id: number): T | undefined {
    return this.byId.get(id);
  }

  get size(): number {
    return this.byId.size;
  }

  all(): Iterable<T> {
    return this.byId.values();
  }

  /** The terms directly below in the tree, in their order; the top terms for null. */
  narrower(id: number | null): readonly T[] {
    const below = this.children.get(id);
    if (!below) return [];
    // Put in order only when somebody looks.
    if (!this.ordered.has(id)) {
      this.ordered.add(id);
      below.sort(id === null ? topOrder(this.vocabularies) : this.byId.get(id)?.byHand ? byPosition : byLabel);
    }
    return below;
  }

  /** Terms elsewhere in the tree that have this one as a further broader term. */
  alsoNarrower(id: number): T[] {
    return this.present(this.furtherNarrower.get(id));
  }

  /** Broader terms besides the one in the tree. */
  alsoBroader(id: number): T[] {
    return this.present(this.furtherBroader.get(id));
  }

  /** From the top down to the term itself, along the tree. Empty for an unknown id. */
  path(id: number): T[] {
    const path: T[] = [];
    for (let term = this.byId.get(id); term && path.length <= this.byId.size;) {
      path.push(term);
      term = term.parentId === null ? undefined : this.byId.get(term.parentId);
    }
    return path.reverse();
  }

  /** The ids of all terms that are broader, by the tree or otherwise (skos:broaderTransitive). The term itself only where there is a circle. */
  above(id: number): Set<number> {
    return this.reach(id, (at) => {
      const parent = this.byId.get(at)?.parentId ?? null;
      return [...(parent === null ? [] : [parent]), ...(this.furtherBroader.get(at) ?? [])];
    });
  }

  /** The ids of all terms that are narrower, by the tree or otherwise. */
  below(id: number): Set<number> {
    return this.reach(id, (at) => [
      ...(this.children.get(at) ?? []).map((term) => term.id),
      ...(this.furtherNarrower.get(at) ?? []),
    ]);
  }

  /** All terms, each before its narrower ones. */
  preOrder(): T[] {
    const order: T[] = [];
    const open: T[] = [...this.narrower(null)].reverse();
    for (let term = open.pop(); term; term = open.pop()) {
      order.push(term);
      open.push(...[...this.narrower(term.id)].reverse());
    }
    return order;
  }

  private reach(start: number, next: (id: number) => readonly number[]): Set<number> {
    const found = new Set<number>();
    const open = [...next(start)];
    for (let id = open.pop(); id !== undefined; id = open.pop()) {
      if (found.has(id) || !this.byId.has(id)) continue;
      found.add(id);
      open.push(...next(id));
    }
    return found;
  }

  private present(ids: readonly number[] = []): T[] {
    return ids.flatMap((id) => this.byId.get(id) ?? []).sort(byLabel);
  }
}

function put<K, V>(map: Map<K, V[]>, key: K, value: V): void {
  const known = map.get(key);
  if (known) known.push(value);
  else map.set(key, [value]);
}

const collator = new Intl.Collator('en', { sensitivity: 'base', numeric: true });

/** The order of labels that a person expects: accents and case aside, numbers by size. */
export function compareLabels(a: string, b: string): number {
  return collator.compare(a, b);
}

function byLabel(a: Node, b: Node): number {
  return compareLabels(a.label, b.label) || a.id - b.id;
}

function byPosition(a: Node, b: Node): number {
  return (a.position ?? 0) - (b.position ?? 0) || byLabel(a, b);
}

function topOrder(vocabularies: readonly TopOrder[]): (a: Node, b: Node) => number {
  const places = new Map(vocabularies.map(({ id, byHand }, place) => [id, { place, byHand }]));
  const of = (node: Node) => places.get(node.vocabularyId ?? 0) ?? { place: places.size, byHand: false };
  return (a, b) => of(a).place - of(b).place || (of(a).byHand ? byPosition(a, b) : byLabel(a, b));
}
