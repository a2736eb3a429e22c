// A vocabulary being changed: terms and links are put, moved and removed here, with the rules that hold for all of it, and at
// the end stands what is different. Nothing of the state it began from is touched.

import { MAX_DEPTH, newTerm, tidyLabel, type Relation, type Term, type Vocabulary } from './term';
import type { TermTree } from './tree';

/** All that is known of the vocabularies. */
export interface VocabularyState {
  tree: TermTree;
  relations: readonly Relation[];
  vocabularies: readonly Vocabulary[];
  /** By term: how many photos have it directly. */
  uses: ReadonlyMap<number, number>;
}

/** Where new ids and URIs come from. */
export interface Fresh {
  id: () => number;
  uri: () => string;
}

/** Something before and after; null where it is not there. */
export interface Edit<Thing> {
  before: Thing | null;
  after: Thing | null;
}

/** What a change does. */
export interface Plan {
  terms: Edit<Term>[];
  relations: Edit<Relation>[];
  vocabularies: Edit<Vocabulary>[];
  /** Photos that have `from` get `to` instead; null: nothing instead. */
  regiven: { from: number; to: number | null }[];
  /** What became of a term: itself, the one it was merged into, undefined when it is gone. */
  becomes: (id: number) => number | undefined;
}

export type RefusalCode = 'termExists' | 'termInUse' | 'termGone' | 'termChanged' | 'termRefused';

/** A change that may not be made. The values fill the sentence that the code stands for. */
export class Refusal extends Error {
  constructor(
    readonly code: RefusalCode,
    readonly values: Record<string, string>,
  ) {
    super(`${code} ${JSON.stringify(values)}`);
  }
}

export class VocabularyEditor {
  private readonly terms = new Map<number, Term>();
  private readonly below = new Map<number | null, Set<number>>();
  private readonly links = new Map<string, Relation>();
  /** Keys of links by the terms at both ends. */
  private readonly linksAt = new Map<number, Set<string>>();
  /** Terms by what replaces them. */
  private readonly replaced = new Map<number, Set<number>>();
  private readonly vocabularies = new Map<number, Vocabulary>();
  private readonly became = new Map<number, number | null>();
  private readonly regiven = new Map<number, number | null>();
  private readonly touched = new Set<number>();

  constructor(
    readonly state: VocabularyState,
    private readonly fresh: Fresh,
  ) {
    for (const term of state.tree.all()) {
      this.terms.set(term.id, term);
      this.narrowerSet(term.parentId).add(term.id);
      if (term.replacedBy !== null) setOf(this.replaced, term.replacedBy).add(term.id);
    }
    for (const relation of state.relations) this.link(relation);
    for (const vocabulary of state.vocabularies) this.vocabularies.set(vocabulary.id, vocabulary);
  }

  find(id: number): Term | undefined {
    return this.terms.get(id);
  }

  get(id: number): Term {
    const term = this.terms.get(id);
    if (!term) throw new Refusal('termGone', {});
    return term;
  }

  narrower(id: number | null): Term[] {
    return [...this.narrowerSet(id)].flatMap((below) => this.terms.get(below) ?? []);
  }

  vocabulary(id: number): Vocabulary {
    const vocabulary = this.vocabularies.get(id);
    if (!vocabulary) throw new Refusal('termRefused', { why: 'that vocabulary is not there any more' });
    return vocabulary;
  }

  allVocabularies(): Vocabulary[] {
    return [...this.vocabularies.values()];
  }

  /** The vocabulary a term stands in. */
  vocabularyOf(id: number): number | null {
    let term = this.terms.get(id);
    while (term && term.parentId !== null) term = this.terms.get(term.parentId);
    return term?.vocabularyId ?? null;
  }

  /** How many photos have a term directly, with what has been planned so far. */
  uses(id: number): number {
    return this.state.uses.get(id) ?? 0;
  }

  add(given: Omit<Partial<Term>, 'id' | 'uri'> & { label: string; uri?: string }): Term {
    const term = newTerm({ ...given, id: this.fresh.id(), uri: given.uri || this.fresh.uri() });
    this.requireFreeLabel(term);
    this.requireDepth(term.parentId, 1);
    this.put(term);
    return term;
  }

  /** Puts a term in the place of the one with its id; its place in the tree may be another. */
  put(term: Term): void {
    const before = this.terms.get(term.id);
    if (before && before.parentId !== term.parentId) this.narrowerSet(before.parentId).delete(term.id);
    this.terms.set(term.id, term);
    this.narrowerSet(term.parentId).add(term.id);
    if (term.replacedBy !== null) setOf(this.replaced, term.replacedBy).add(term.id);
    this.touched.add(term.id);
  }

  /** Removes a term that has no narrower ones any more, with its links. `becomes` is what stands for it from now on. */
  remove(id: number, becomes: number | null): void {
    const term = this.get(id);
    this.terms.delete(id);
    this.narrowerSet(term.parentId).delete(id);
    this.below.delete(id);
    for (const key of setOf(this.linksAt, id)) this.links.delete(key);
    for (const other of setOf(this.replaced, id)) {
      const waiting = this.terms.get(other);
      if (waiting?.replacedBy === id) this.put({ ...waiting, replacedBy: becomes === other ? null : becomes });
    }
    this.became.set(id, becomes);
    this.touched.add(id);
  }

  /** Photos that have `from` get `to` instead. */
  regive(from: number, to: number | null): void {
    if (to !== null) this.requireAssignable(to);
    this.regiven.set(from, to);
  }

  relations(): Relation[] {
    return [...this.links.values()];
  }

  relate(relation: Relation, on: boolean): void {
    const sound = orderedRelation(relation);
    if (on) this.link(sound);
    else this.links.delete(linkKey(sound));
  }

  putVocabulary(vocabulary: Vocabulary): void {
    this.vocabularies.set(vocabulary.id, vocabulary);
  }

  removeVocabulary(id: number): void {
    this.vocabularies.delete(id);
  }

  newId(): number {
    return this.fresh.id();
  }

  newUri(): string {
    return this.fresh.uri();
  }

  /** Whether `above` is broader than `id`, by the tree or otherwise, or the same. */
  isWithin(id: number, above: number): boolean {
    const seen = new Set<number>();
    const open = [id];
    for (let at = open.pop(); at !== undefined; at = open.pop()) {
      if (at === above) return true;
      if (seen.has(at)) continue;
      seen.add(at);
      const parent = this.terms.get(at)?.parentId;
      if (parent !== null && parent !== undefined) open.push(parent);
      for (const { kind, fromId, toId } of this.linksOf(at)) if (kind === 'broader' && fromId === at) open.push(toId);
    }
    return false;
  }

  /** Refuses a label that another term, none of `leaving`, has below the same one, letter for letter. */
  requireFreeLabel(
    term: Pick<Term, 'id' | 'parentId' | 'label' | 'vocabularyId'>,
    leaving?: ReadonlySet<number>,
  ): void {
    const same = this.siblingLike(term, leaving);
    if (same)
      throw new Refusal('termExists', {
        label: same.label,
        parent: term.parentId === null ? 'the top' : `“${this.get(term.parentId).label}”`,
      });
  }

  /** Another term with this label below the same term (or at the top of the same vocabulary), none of `leaving`. */
  siblingLike(
    { id, parentId, label, vocabularyId }: Pick<Term, 'id' | 'parentId' | 'label' | 'vocabularyId'>,
    leaving?: ReadonlySet<number>,
  ): Term | undefined {
    return this.narrower(parentId).find(
      (term) =>
        term.id !== id &&
        term.label === label &&
        !leaving?.has(term.id) &&
        (parentId !== null || term.vocabularyId === vocabularyId),
    );
  }

  requireAssignable(id: number): Term {
    const term = this.get(id);
    if (term.heading)
      throw new Refusal('termRefused', { why: `“${term.label}” is a heading and can’t be given to photos` });
    return term;
  }

  /** Refuses a tree deeper than it may be. `levels` is how many are added below the parent. */
  requireDepth(parentId: number | null, levels: number): void {
    let depth = levels;
    for (let at = parentId; at !== null; at = this.terms.get(at)?.parentId ?? null) depth++;
    if (depth > MAX_DEPTH) throw new Refusal('termRefused', { why: `a vocabulary has at most ${MAX_DEPTH} levels` });
  }

  /** How many levels a term and its narrower ones make. */
  levelsOf(id: number): number {
    let deepest = 0;
    const open = [{ id, level: 1 }];
    for (let at = open.pop(); at; at = open.pop()) {
      deepest = Math.max(deepest, at.level);
      for (const term of this.narrower(at.id)) open.push({ id: term.id, level: at.level + 1 });
    }
    return deepest;
  }

  plan(): Plan {
    const { tree, relations, vocabularies } = this.state;
    const terms = [...this.touched].flatMap((id): Edit<Term>[] => {
      const [before, after] = [tree.get(id) ?? null, this.terms.get(id) ?? null];
      return same(before, after) ? [] : [{ before, after }];
    });
    const known = new Map(relations.map((relation) => [linkKey(relation), relation]));
    return {
      terms: [...terms.filter(({ after }) => after), ...terms.filter(({ after }) => !after)],
      relations: edits(known, this.links),
      vocabularies: edits(new Map(vocabularies.map((one) => [one.id, one])), this.vocabularies),
      regiven: [...this.regiven].map(([from, to]) => ({ from, to: to === null ? null : (this.standing(to) ?? null) })),
      becomes: (id) => this.standing(id),
    };
  }

  private standing(id: number): number | undefined {
    let at: number | null | undefined = id;
    while (at !== null && at !== undefined && this.became.has(at)) at = this.became.get(at);
    return at ?? undefined;
  }

  /** The links that a term has. */
  linksOf(id: number): Relation[] {
    return [...setOf(this.linksAt, id)].flatMap((key) => this.links.get(key) ?? []);
  }

  private link(relation: Relation): void {
    const key = linkKey(relation);
    this.links.set(key, relation);
    for (const end of [relation.fromId, relation.toId]) setOf(this.linksAt, end).add(key);
  }

  private narrowerSet(id: number | null): Set<number> {
    return setOf(this.below, id);
  }
}

function setOf<Key, Value>(sets: Map<Key, Set<Value>>, key: Key): Set<Value> {
  const known = sets.get(key) ?? new Set<Value>();
  sets.set(key, known);
  return known;
}

/** The label tidied, or a refusal. */
export function requireLabel(label: string): string {
  const tidy = tidyLabel(label);
  if (!tidy) throw new Refusal('termRefused', { why: 'a term needs a label of at most 200 characters' });
  return tidy;
}

function orderedRelation({ kind, fromId, toId }: Relation): Relation {
  return kind !== 'broader' && fromId > toId ? { kind, fromId: toId, toId: fromId } : { kind, fromId, toId };
}

function linkKey({ kind, fromId, toId }: Relation): string {
  return `${kind} ${fromId} ${toId}`;
}

function edits<Key, Thing>(before: ReadonlyMap<Key, Thing>, after: ReadonlyMap<Key, Thing>): Edit<Thing>[] {
  const keys = new Set([...before.keys(), ...after.keys()]);
  return [...keys].flatMap((key) => {
    const edit = { before: before.get(key) ?? null, after: after.get(key) ?? null };
    return same(edit.before, edit.after) ? [] : [edit];
  });
}

function same(a: unknown, b: unknown): boolean {
  return a === b || JSON.stringify(a) === JSON.stringify(b);
}
