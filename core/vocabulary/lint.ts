// What is doubtful in a vocabulary, found from the terms alone and how often they are given. Each kind of finding is an
// entry of the table, with how it is shown.

import { foldText } from '../text/words';
import { SlipIndex } from './slips';
import { labelsOf, type Relation, type Term } from './term';
import type { TermTree } from './tree';
import { IIM_KEYWORD_BYTES, utf8Length } from './utf8';

export const FINDING_KINDS = [
  'twice',
  'near',
  'alternative',
  'branches',
  'unused',
  'single',
  'many',
  'circle',
  'long',
  'headingGiven',
  'deprecatedGiven',
] as const;
export type FindingKind = (typeof FINDING_KINDS)[number];

export interface Finding {
  kind: FindingKind;
  /** The terms concerned, the one that most likely stays first. */
  termIds: number[];
  /** What is doubtful, in words. */
  what: string;
}

export interface LintInput {
  tree: TermTree;
  relations: readonly Relation[];
  /** By term: how many photos it is given to directly. */
  photos: ReadonlyMap<number, number>;
}

/** More narrower terms than can be looked over. */
export const MANY_NARROWER = 60;

const RULES: Record<FindingKind, (input: LintInput) => Finding[]> = {
  twice: ({ tree }) => {
    const own = [...tree.all()].flatMap((term) => {
      const again = repeated(labelsOf(term).map(foldText));
      return again ? [{ kind: 'twice' as const, termIds: [term.id], what: `“${term.label}” has a label twice` }] : [];
    });
    return [
      ...own,
      ...sameLabels(tree).flatMap((terms) =>
        terms.some((term, i) => terms.some((other, j) => j > i && other.parentId === term.parentId))
          ? [finding('twice', terms, 'stand below the same term')]
          : [],
      ),
    ];
  },
  near: nearLabels,
  alternative: ({ tree, photos }) => {
    const preferred = new Map<string, Term>();
    for (const term of tree.all()) preferred.set(foldText(term.label), term);
    return [...tree.all()].flatMap((term) =>
      term.otherLabels.flatMap(({ kind, label }) => {
        const other = kind === 'alternative' ? preferred.get(foldText(label)) : undefined;
        if (!other || other.id === term.id) return [];
        const terms = byUse([term, other], photos);
        return [
          {
            kind: 'alternative' as const,
            termIds: terms,
            what: `“${label}” is another label of “${term.label}” and a term of its own`,
          },
        ];
      }),
    );
  },
  branches: ({ tree }) =>
    sameLabels(tree).flatMap((terms) =>
      terms.every((term, i) => terms.every((other, j) => i === j || other.parentId !== term.parentId)) &&
      terms.some(({ scopeNote }) => scopeNote === '')
        ? [finding('branches', terms, 'stand in different branches without a scope note that tells them apart')]
        : [],
    ),
  unused: ({ tree, photos }) =>
    each(
      tree,
      (term) => !term.heading && !photos.get(term.id) && tree.narrower(term.id).length === 0,
      'unused',
      'is given to no photo',
    ),
  single: ({ tree }) =>
    each(
      tree,
      (term) => tree.narrower(term.id).length + tree.alsoNarrower(term.id).length === 1,
      'single',
      'has a single narrower term',
    ),
  many: ({ tree }) =>
    each(
      tree,
      (term) => tree.narrower(term.id).length > MANY_NARROWER,
      'many',
      `has more than ${MANY_NARROWER} narrower terms`,
    ),
  circle: ({ tree, relations }) =>
    relations.flatMap(({ kind, fromId, toId }) => {
      const [from, to] = [tree.get(fromId), tree.get(toId)];
      if (!from || !to || kind === 'apart') return [];
      // SKOS S27: what is related is neither broader nor narrower.
      const wrong =
        kind === 'broader'
          ? tree.above(toId).has(fromId) || fromId === toId
          : tree.above(fromId).has(toId) || tree.above(toId).has(fromId);
      const what =
        kind === 'broader'
          ? `“${to.label}” is broader than “${from.label}” and narrower, too`
          : `“${from.label}” and “${to.label}” are related although one is broader`;
      return wrong ? [{ kind: 'circle' as const, termIds: [fromId, toId], what }] : [];
    }),
  long: ({ tree }) =>
    each(
      tree,
      (term) => utf8Length(term.label) > IIM_KEYWORD_BYTES,
      'long',
      `is longer than the ${IIM_KEYWORD_BYTES} bytes that IIM keeps`,
    ),
  headingGiven: ({ tree, photos }) =>
    each(
      tree,
      (term) => term.heading && (photos.get(term.id) ?? 0) > 0,
      'headingGiven',
      'is a heading, and photos have it',
    ),
  deprecatedGiven: ({ tree, photos }) =>
    each(
      tree,
      (term) => term.deprecated && (photos.get(term.id) ?? 0) > 0,
      'deprecatedGiven',
      'is deprecated, and photos have it',
    ),
};

/** Kinds of findings that depend on which photos have the terms; the others follow from the terms alone. */
export const BY_USE: ReadonlySet<FindingKind> = new Set(['unused', 'headingGiven', 'deprecatedGiven']);

/** What is doubtful of one kind, in the order of the tree, less what somebody has said is not the same. */
export function findingsOf(kind: FindingKind, input: LintInput): Finding[] {
  const apart = new Set(
    input.relations.flatMap((link) => (link.kind === 'apart' ? [`${link.fromId} ${link.toId}`] : [])),
  );
  const areApart = (a: number, b: number) => apart.has(a < b ? `${a} ${b}` : `${b} ${a}`);
  return RULES[kind](input).filter(
    ({ termIds }) => termIds.length < 2 || !termIds.every((a, i) => termIds.every((b, j) => i === j || areApart(a, b))),
  );
}

/** Everything doubtful, in the order of the kinds and then of the tree. */
export function lint(input: LintInput): Finding[] {
  return FINDING_KINDS.flatMap((kind) => findingsOf(kind, input));
}

function each(tree: TermTree, isSo: (term: Term) => boolean, kind: FindingKind, what: string): Finding[] {
  return tree
    .preOrder()
    .filter(isSo)
    .map((term) => finding(kind, [term], what));
}

function finding(kind: FindingKind, terms: readonly Term[], what: string): Finding {
  return {
    kind,
    termIds: terms.map(({ id }) => id),
    what: `${terms.map(({ label }) => `“${label}”`).join(' and ')} ${what}`,
  };
}

function sameLabels(tree: TermTree): Term[][] {
  const byLabel = new Map<string, Term[]>();
  for (const term of tree.preOrder()) {
    const known = byLabel.get(foldText(term.label));
    if (known) known.push(term);
    else byLabel.set(foldText(term.label), [term]);
  }
  return [...byLabel.values()].filter((terms) => terms.length > 1);
}

function repeated(labels: readonly string[]): boolean {
  return new Set(labels).size < labels.length;
}

/**
 * Two terms whose labels differ in a letter, in number, or in the order of their words. Numbered ones (`Lot 1`, `Lot 2`) are
 * told apart by their numbers, and labels that are quite the same are another kind of finding.
 */
function nearLabels({ tree, photos }: LintInput): Finding[] {
  const index = new SlipIndex<{ term: Term; label: string }>();
  const byWords = new Map<string, { term: Term; label: string }[]>();
  const pairs = new Map<string, Finding>();
  const note = (a: { term: Term; label: string }, b: { term: Term; label: string }) => {
    if (a.term.id === b.term.id || foldText(a.label) === foldText(b.label)) return;
    if (a.term.parentId === b.term.id || b.term.parentId === a.term.id) return;
    const key = [a.term.id, b.term.id].sort((x, y) => x - y).join(' ');
    if (!pairs.has(key))
      pairs.set(key, {
        kind: 'near',
        termIds: byUse([a.term, b.term], photos),
        what: `“${b.label}” is nearly “${a.label}”`,
      });
  };
  for (const term of tree.preOrder())
    for (const label of [
      term.label,
      ...term.otherLabels.filter(({ kind }) => kind === 'alternative').map((other) => other.label),
    ]) {
      const entry = { term, label };
      const folded = foldText(label);
      for (const near of index.near(folded)) note(near, entry);
      index.add(folded, entry);
      const words = folded.split(/[^\p{L}\p{N}]+/u).filter(Boolean);
      if (words.length < 2) continue;
      const sorted = words.sort().join(' ');
      for (const same of byWords.get(sorted) ?? []) note(same, entry);
      byWords.set(sorted, [...(byWords.get(sorted) ?? []), entry]);
    }
  return [...pairs.values()];
}

/** The more often given term first: the one that most likely stays. */
function byUse(terms: readonly Term[], photos: ReadonlyMap<number, number>): number[] {
  return [...terms]
    .sort((a, b) => (photos.get(b.id) ?? 0) - (photos.get(a.id) ?? 0) || a.id - b.id)
    .map(({ id }) => id);
}
