// A vocabulary on its way in or out: what all formats are read into and written from. Terms name each other by keys.

import { MAX_DEPTH, newTerm, soundLabels, type Relation, type Term, type Vocabulary } from '../term';
import type { TermTree } from '../tree';

/** What is said of a term itself, in the catalogue and in a draft alike, besides its label. */
const FACTS = [
  'otherLabels',
  'heading',
  'status',
  'deprecated',
  'scopeNote',
  'definition',
  'notation',
  'colour',
  'byHand',
  'writeSelf',
  'writeBroader',
  'writeOthers',
  'writeLanguage',
] as const;

/** What a format can say of a term besides its label and place. */
export const DRAFT_PARTS = [...FACTS, 'replacedBy', 'broader', 'related'] as const;
export type DraftPart = (typeof DRAFT_PARTS)[number];

const SAID = ['label', ...FACTS] as const;
type Said = Pick<Term, (typeof SAID)[number]>;

export interface DraftTerm extends Said {
  /** Unlike any other of this draft. */
  key: string;
  /** '' when the format has none. */
  uri: string;
  /** The broader term in the tree; null at the top. */
  parent: string | null;
  replacedBy: string | null;
  /** Further broader terms. */
  broader: string[];
  /** In a sound draft each pair stands on both sides. */
  related: string[];
}

export interface DraftProblem {
  /** Where: a line, a resource. */
  at: string;
  message: string;
}

export interface Draft {
  name: string;
  uri: string;
  language: string;
  note: string;
  byHand: boolean;
  /** Each before its narrower ones, siblings in their order. */
  terms: DraftTerm[];
  /** What the format can say: the rest stays as it is where terms exist already. */
  says: DraftPart[];
  problems: DraftProblem[];
}

export function draftTerm(given: Pick<DraftTerm, 'key' | 'label'> & Partial<DraftTerm>): DraftTerm {
  const nothing = said(newTerm({ id: 0, label: given.label }));
  return { ...nothing, uri: '', parent: null, replacedBy: null, broader: [], related: [], ...given };
}

function said(term: Term): Said {
  return Object.fromEntries(SAID.map((part) => [part, term[part]])) as unknown as Said;
}

export function emptyDraft(says: readonly DraftPart[] = DRAFT_PARTS): Draft {
  return { name: '', uri: '', language: '', note: '', byHand: false, terms: [], says: [...says], problems: [] };
}

/** The draft of one vocabulary. `tree` may hold others, too; relations with their terms are left out. */
export function draftOf(vocabulary: Vocabulary, tree: TermTree, relations: readonly Relation[]): Draft {
  const mine = new Map<number, Term>();
  const open = tree
    .narrower(null)
    .filter((term) => term.vocabularyId === vocabulary.id)
    .reverse();
  for (let term = open.pop(); term; term = open.pop()) {
    mine.set(term.id, term);
    open.push(...[...tree.narrower(term.id)].reverse());
  }
  const uriOf = (id: number | null) => (id === null ? null : (mine.get(id)?.uri ?? null));
  const links = { broader: new Map<number, string[]>(), related: new Map<number, string[]>() };
  const put = (kind: keyof typeof links, from: number, to: number) => {
    const uri = mine.has(from) ? uriOf(to) : null;
    if (uri !== null) links[kind].set(from, [...(links[kind].get(from) ?? []), uri]);
  };
  for (const { kind, fromId, toId } of relations) {
    if (kind === 'apart') continue;
    put(kind, fromId, toId);
    if (kind === 'related') put(kind, toId, fromId);
  }
  return {
    ...emptyDraft(),
    name: vocabulary.name,
    uri: vocabulary.uri,
    language: vocabulary.language,
    note: vocabulary.note,
    byHand: vocabulary.byHand,
    terms: [...mine.values()].map((term) =>
      draftTerm({
        ...said(term),
        key: term.uri,
        uri: term.uri,
        parent: uriOf(term.parentId),
        replacedBy: uriOf(term.replacedBy),
        broader: (links.broader.get(term.id) ?? []).sort(),
        related: (links.related.get(term.id) ?? []).sort(),
      }),
    ),
  };
}

/** Vocabularies larger than this are refused. */
export const MAX_TERMS = 100_000;

/**
 * Makes a draft sound: terms in the order of the tree, no circles, no deeper than MAX_DEPTH, no two of one label below one
 * term, no links to what is not there. What had to be mended is named in `problems`.
 */
export function soundDraft(draft: Draft): Draft {
  const problems = [...draft.problems];
  const byKey = new Map(draft.terms.map((term) => [term.key, term]));
  const parents = new Map<string, string | null>();
  for (const { key, label, parent } of draft.terms) {
    if (parent !== null && !byKey.has(parent)) {
      problems.push({ at: label, message: 'its broader term is not in the file; it is taken to the top' });
      parents.set(key, null);
    } else parents.set(key, parent);
  }
  breakCircles(draft.terms, parents, problems);
  const children = new Map<string | null, DraftTerm[]>();
  for (const term of draft.terms) {
    const parent = parents.get(term.key) ?? null;
    const siblings = children.get(parent);
    if (siblings) siblings.push(term);
    else children.set(parent, [term]);
  }
  const ordered: DraftTerm[] = [];
  const open = [...(children.get(null) ?? [])].reverse().map((term) => ({ term, depth: 1 }));
  const labels = new Map<string | null, Map<string, string>>();
  /** Terms that were left out or melted into another: the key that stands for theirs. */
  const stands = new Map<string, string | null>();
  for (let at = open.pop(); at; at = open.pop()) {
    const { term, depth } = at;
    const parent = standing(stands, parents.get(term.key) ?? null);
    const siblings = labels.get(parent) ?? new Map<string, string>();
    labels.set(parent, siblings);
    const same = siblings.get(term.label);
    if (depth > MAX_DEPTH) {
      problems.push({ at: term.label, message: `is deeper than ${MAX_DEPTH} levels and left out` });
      stands.set(term.key, null);
      continue;
    }
    if (same !== undefined) {
      problems.push({ at: term.label, message: 'stands twice below one term; both are taken as one' });
      stands.set(term.key, same);
    } else {
      siblings.set(term.label, term.key);
      ordered.push({ ...term, parent });
    }
    for (const below of [...(children.get(term.key) ?? [])].reverse()) open.push({ term: below, depth: depth + 1 });
  }
  const terms = ordered.map((term) => linked(term, ordered, stands, problems));
  return { ...draft, problems, terms: relatedBothWays(terms) };
}

function relatedBothWays(terms: readonly DraftTerm[]): DraftTerm[] {
  const related = new Map(terms.map(({ key, related: others }) => [key, new Set(others)]));
  for (const { key, related: others } of terms) for (const other of others) related.get(other)?.add(key);
  return terms.map((term) => ({ ...term, related: [...(related.get(term.key) ?? [])].sort() }));
}

function standing(stands: ReadonlyMap<string, string | null>, key: string | null): string | null {
  return key !== null && stands.has(key) ? (stands.get(key) ?? null) : key;
}

/** Takes one term of each circle of broader terms to the top. */
function breakCircles(
  terms: readonly DraftTerm[],
  parents: Map<string, string | null>,
  problems: DraftProblem[],
): void {
  const settled = new Set<string>();
  for (const { key, label } of terms) {
    const way = new Set<string>();
    let at: string | null = key;
    while (at !== null && !settled.has(at) && !way.has(at)) {
      way.add(at);
      at = parents.get(at) ?? null;
    }
    if (at !== null && way.has(at)) {
      parents.set(at, null);
      problems.push({ at: label, message: 'its broader terms go in a circle; one of them is taken to the top' });
    }
    for (const passed of way) settled.add(passed);
  }
}

const keysOf = new WeakMap<readonly DraftTerm[], ReadonlySet<string>>();

function linked(
  term: DraftTerm,
  all: readonly DraftTerm[],
  stands: ReadonlyMap<string, string | null>,
  problems: DraftProblem[],
): DraftTerm {
  const keys = keysOf.get(all) ?? new Set(all.map(({ key }) => key));
  keysOf.set(all, keys);
  const there = (list: readonly string[]) => {
    const found = [...new Set(list.flatMap((key) => standing(stands, key) ?? []))].filter((key) => key !== term.key);
    const known = found.filter((key) => keys.has(key));
    if (known.length < found.length)
      problems.push({ at: term.label, message: 'refers to a term that is not in the file; that is left out' });
    return known.sort();
  };
  return {
    ...term,
    broader: there(term.broader).filter((key) => key !== term.parent),
    related: there(term.related),
    replacedBy: there(term.replacedBy === null ? [] : [term.replacedBy])[0] ?? null,
    otherLabels: soundLabels(term.label, term.otherLabels),
  };
}
