// What tests of the vocabulary share: a small state to change, and random ones.

import { planChange, type TermChange } from './changes';
import type { Fresh, Plan, VocabularyState } from './editor';
import { newTerm, type Relation, type Term, type Vocabulary } from './term';
import { TermTree } from './tree';

export const VOCABULARY: Vocabulary = {
  id: 1,
  name: 'Museum',
  language: 'en',
  uri: 'urn:museum',
  note: '',
  byHand: false,
};

export function stateOf(
  terms: readonly Term[],
  relations: readonly Relation[] = [],
  vocabularies: readonly Vocabulary[] = [VOCABULARY],
  uses: ReadonlyMap<number, number> = new Map(),
): VocabularyState {
  return { tree: new TermTree(terms, relations, vocabularies), relations, vocabularies, uses };
}

/** A term of the vocabulary above. */
export function aTerm(id: number, parentId: number | null, label: string, more: Partial<Term> = {}): Term {
  return newTerm({ id, parentId, label, vocabularyId: parentId === null ? 1 : null, uri: `urn:term:${id}`, ...more });
}

export function freshFrom(start: number): Fresh {
  let next = start;
  return { id: () => next++, uri: () => `urn:fresh:${next}` };
}

/** The state after a plan, and photos with the terms they have then. */
export function carriedOut(
  state: VocabularyState,
  plan: Plan,
  photos: readonly Set<number>[] = [],
): { state: VocabularyState; photos: Set<number>[] } {
  const terms = new Map([...state.tree.all()].map((term) => [term.id, term]));
  for (const { before, after } of plan.terms) {
    if (after) terms.set(after.id, after);
    else if (before) terms.delete(before.id);
  }
  const key = (thing: unknown) => JSON.stringify(thing);
  const relations = new Map(state.relations.map((one) => [key(one), one]));
  for (const { before, after } of plan.relations) {
    if (before) relations.delete(key(before));
    if (after) relations.set(key(after), after);
  }
  const vocabularies = new Map(state.vocabularies.map((one) => [one.id, one]));
  for (const { before, after } of plan.vocabularies) {
    if (after) vocabularies.set(after.id, after);
    else if (before) vocabularies.delete(before.id);
  }
  const regiven = new Map(plan.regiven.map(({ from, to }) => [from, to]));
  const given = photos.map(
    (has) => new Set([...has].flatMap((id) => (regiven.has(id) ? (regiven.get(id) ?? []) : [id]))),
  );
  const uses = new Map<number, number>();
  for (const has of given) for (const id of has) uses.set(id, (uses.get(id) ?? 0) + 1);
  const byId = [...vocabularies.values()].sort((a, b) => a.id - b.id);
  return {
    state: stateOf([...terms.values()], [...relations.values()], byId, photos.length ? uses : state.uses),
    photos: given,
  };
}

/** The state after a change. */
export function changed(state: VocabularyState, change: TermChange, start = 1000): VocabularyState {
  return carriedOut(state, planChange(state, change, freshFrom(start))).state;
}
