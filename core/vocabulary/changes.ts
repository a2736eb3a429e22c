// What changes to vocabularies do: each kind is an entry of the table, made of the editor's few steps. Pure: the server
// carries out the plan that comes of it, and shows from the same plan beforehand what it will touch.

import { Refusal, requireLabel, VocabularyEditor, type Fresh, type Plan, type VocabularyState } from './editor';
import { soundLabels, type OtherLabel, type Relation, type Term } from './term';
import { compareLabels } from './tree';

/** A term to be added, with its narrower ones. */
export interface NewTerm extends Partial<Pick<Term, 'heading' | 'scopeNote' | 'writeBroader' | 'otherLabels'>> {
  label: string;
  narrower?: NewTerm[];
}

/** What of a term is changed by filling in its card. */
export const TERM_FACTS = [
  'label',
  'otherLabels',
  'scopeNote',
  'definition',
  'notation',
  'uri',
  'colour',
  'examplePhoto',
  'byHand',
  'writeSelf',
  'writeBroader',
  'writeOthers',
  'writeLanguage',
] as const;
export type TermFact = (typeof TERM_FACTS)[number];
export type TermFacts = Partial<Pick<Term, TermFact>>;

export type KeptLabels = 'alternative' | 'hidden' | 'none';

export type TermChange =
  | { kind: 'addTerms'; parentId: number | null; vocabularyId?: number; after?: number; terms: NewTerm[] }
  | {
      kind: 'proposeTerm';
      parentId: number | null;
      vocabularyId?: number;
      label: string;
      scopeNote: string;
      by: number;
    }
  | { kind: 'renameTerm'; termId: number; label: string; seen?: string; keepOld: KeptLabels }
  | { kind: 'editTerm'; termId: number; facts: TermFacts; seen: TermFacts }
  | { kind: 'swapLabels'; termId: number; label: string }
  | { kind: 'moveTerms'; termIds: number[]; parentId: number | null; vocabularyId?: number; before?: number | null }
  | { kind: 'mergeTerms'; termIds: number[]; intoId: number; keepLabels: KeptLabels }
  | { kind: 'splitTerm'; termId: number; into: string[] }
  | { kind: 'setHeading'; termId: number; heading: boolean; photosTo: number | null }
  | { kind: 'deprecateTerm'; termId: number; deprecated: boolean; replacedBy: number | null; movePhotos: boolean }
  | { kind: 'removeTerm'; termId: number; photosTo?: number | null; narrower: 'refuse' | 'up' }
  | { kind: 'relateTerms'; relation: Relation['kind']; fromId: number; toId: number; on: boolean }
  | { kind: 'acceptTerms'; termIds: number[] }
  | { kind: 'refuseTerm'; termId: number }
  | {
      kind: 'defineVocabulary';
      vocabularyId: number | null;
      name: string;
      language: string;
      note: string;
      uri: string;
      byHand: boolean;
    }
  | { kind: 'removeVocabulary'; vocabularyId: number };

type ChangeOf<Kind extends TermChange['kind']> = Extract<TermChange, { kind: Kind }>;

/** Plans a change. Throws a Refusal when it may not be made. */
export function planChange(state: VocabularyState, change: TermChange, fresh: Fresh): Plan {
  const editor = new VocabularyEditor(state, fresh);
  // The table's entry for a kind takes changes of that kind; TypeScript can't see that through the lookup.
  (STEPS[change.kind] as (editor: VocabularyEditor, change: TermChange) => void)(editor, change);
  return editor.plan();
}

const STEPS: { [Kind in TermChange['kind']]: (editor: VocabularyEditor, change: ChangeOf<Kind>) => void } = {
  addTerms(editor, { parentId, vocabularyId, after, terms }) {
    const place = placeOf(editor, parentId, vocabularyId);
    const made = terms.map((given) => addWithNarrower(editor, given, place));
    if (after !== undefined && isByHand(editor, place)) {
      const siblings = inOrder(editor, place).filter(({ id }) => !made.includes(id));
      putInOrder(
        editor,
        insertAt(
          siblings,
          siblings.findIndex(({ id }) => id === after) + 1,
          made.map((id) => editor.get(id)),
        ),
      );
    }
  },

  proposeTerm(editor, { parentId, vocabularyId, label, scopeNote, by }) {
    editor.add({
      ...placeOf(editor, parentId, vocabularyId),
      label: requireLabel(label),
      scopeNote,
      status: 'proposed',
      proposedBy: by,
    });
  },

  renameTerm(editor, { termId, label, seen, keepOld }) {
    const term = editor.get(termId);
    requireSeen(term, seen === undefined ? {} : { label: seen });
    const tidy = requireLabel(label);
    if (tidy === term.label) return;
    const kept = keepOld === 'none' ? [] : [{ kind: keepOld, language: '', label: term.label }];
    const others = term.otherLabels.filter((other) => other.label !== tidy || other.language !== '');
    const after = { ...term, label: tidy, otherLabels: soundLabels(tidy, [...others, ...kept]) };
    editor.requireFreeLabel(after);
    editor.put(after);
  },

  editTerm(editor, { termId, facts, seen }) {
    const term = editor.get(termId);
    requireSeen(term, seen);
    const label = facts.label === undefined ? term.label : requireLabel(facts.label);
    const after = { ...term, ...facts, label, otherLabels: soundLabels(label, facts.otherLabels ?? term.otherLabels) };
    if (label !== term.label) editor.requireFreeLabel(after);
    if (facts.byHand && !term.byHand) putInOrder(editor, inOrder(editor, { parentId: term.id, vocabularyId: null }));
    editor.put(after);
  },

  swapLabels(editor, { termId, label }) {
    const term = editor.get(termId);
    const at = term.otherLabels.findIndex((other) => other.label === label && other.kind !== 'preferred');
    if (at < 0) throw new Refusal('termRefused', { why: `“${term.label}” has no other label “${label}” any more` });
    const others = term.otherLabels.map((other, i): OtherLabel =>
      i === at ? { kind: 'alternative', language: '', label: term.label } : other,
    );
    const after = { ...term, label, otherLabels: soundLabels(label, others) };
    editor.requireFreeLabel(after);
    editor.put(after);
  },

  moveTerms(editor, { termIds, parentId, vocabularyId, before }) {
    const place = placeOf(editor, parentId, vocabularyId);
    const moved = withoutNarrower(editor, termIds);
    for (const id of moved) moveTo(editor, id, place);
    if (before === undefined) return;
    const siblings = inOrder(editor, place).filter(({ id }) => !moved.includes(id));
    const at = before === null ? siblings.length : siblings.findIndex(({ id }) => id === before);
    putInOrder(
      editor,
      insertAt(
        siblings,
        at < 0 ? siblings.length : at,
        moved.map((id) => editor.get(id)),
      ),
    );
    setByHand(editor, place);
  },

  mergeTerms(editor, { termIds, intoId, keepLabels }) {
    editor.get(intoId);
    for (const id of new Set(termIds)) if (id !== intoId && editor.find(id)) merge(editor, id, intoId, keepLabels);
  },

  splitTerm(editor, { termId, into }) {
    editor.requireAssignable(termId);
    for (const label of into) editor.add({ parentId: termId, label: requireLabel(label) });
  },

  setHeading(editor, { termId, heading, photosTo }) {
    const term = editor.get(termId);
    if (heading && editor.uses(termId) > 0) editor.regive(termId, photosTo === termId ? null : photosTo);
    editor.put({ ...term, heading });
  },

  deprecateTerm(editor, { termId, deprecated, replacedBy, movePhotos }) {
    const term = editor.get(termId);
    if (replacedBy === termId) throw new Refusal('termRefused', { why: 'a term can’t replace itself' });
    if (replacedBy !== null) editor.requireAssignable(replacedBy);
    if (deprecated && movePhotos && replacedBy !== null) editor.regive(termId, replacedBy);
    editor.put({ ...term, deprecated, replacedBy: deprecated ? replacedBy : null });
  },

  removeTerm(editor, { termId, photosTo, narrower }) {
    const term = editor.get(termId);
    const below = editor.narrower(termId);
    const photos = editor.uses(termId);
    const reasons = [
      ...(photos > 0 && photosTo === undefined ? [`photos have it (${photos.toLocaleString('en')})`] : []),
      ...(below.length > 0 && narrower === 'refuse' ? [`it has narrower terms (${below.length})`] : []),
    ];
    if (reasons.length) throw new Refusal('termInUse', { label: term.label, why: reasons.join(' and ') });
    if (photosTo === termId) throw new Refusal('termRefused', { why: 'its photos can’t go to the term itself' });
    const place = { parentId: term.parentId, vocabularyId: term.vocabularyId };
    for (const { id } of below) moveTo(editor, id, place, new Set([termId]));
    if (photos > 0) editor.regive(termId, photosTo ?? null);
    editor.remove(termId, photosTo ?? null);
  },

  relateTerms(editor, { relation, fromId, toId, on }) {
    const [from, to] = [editor.get(fromId), editor.get(toId)];
    if (on) requireSoundRelation(editor, relation, from, to);
    editor.relate({ kind: relation, fromId, toId }, on);
  },

  acceptTerms(editor, { termIds }) {
    for (const id of termIds) editor.put({ ...editor.get(id), status: 'accepted' });
  },

  refuseTerm(editor, { termId }) {
    const term = editor.get(termId);
    if (term.status !== 'proposed') throw new Refusal('termRefused', { why: `“${term.label}” is not a proposal` });
    if (editor.narrower(termId).length > 0)
      throw new Refusal('termInUse', { label: term.label, why: 'it has narrower terms by now' });
    if (editor.uses(termId) > 0) editor.regive(termId, null);
    editor.remove(termId, null);
  },

  defineVocabulary(editor, { vocabularyId, name, language, note, uri, byHand }) {
    const tidy = requireLabel(name);
    if (editor.allVocabularies().some((other) => other.id !== vocabularyId && other.name === tidy))
      throw new Refusal('termRefused', { why: `there is a vocabulary “${tidy}” already` });
    const known = vocabularyId === null ? undefined : editor.vocabulary(vocabularyId);
    const id = known?.id ?? editor.newId();
    if (known && byHand && !known.byHand) putInOrder(editor, inOrder(editor, { parentId: null, vocabularyId: id }));
    editor.putVocabulary({ id, name: tidy, language, note, uri: uri || known?.uri || editor.newUri(), byHand });
  },

  removeVocabulary(editor, { vocabularyId }) {
    const { name } = editor.vocabulary(vocabularyId);
    if (editor.narrower(null).some((term) => term.vocabularyId === vocabularyId))
      throw new Refusal('termRefused', { why: `“${name}” still has terms` });
    if (editor.allVocabularies().length === 1) throw new Refusal('termRefused', { why: 'one vocabulary has to stay' });
    editor.removeVocabulary(vocabularyId);
  },
};

export interface Place {
  parentId: number | null;
  /** Of a place at the top. */
  vocabularyId: number | null;
}

/** A place below a term, or at the top of a vocabulary: the first one where none is named. */
export function placeOf(editor: VocabularyEditor, parentId: number | null, vocabularyId?: number): Place {
  if (parentId !== null) return { parentId: editor.get(parentId).id, vocabularyId: null };
  const vocabulary = vocabularyId === undefined ? editor.allVocabularies()[0] : editor.vocabulary(vocabularyId);
  if (!vocabulary) throw new Refusal('termRefused', { why: 'there is no vocabulary yet' });
  return { parentId, vocabularyId: vocabulary.id };
}

function addWithNarrower(editor: VocabularyEditor, { narrower = [], ...given }: NewTerm, place: Place): number {
  const label = requireLabel(given.label);
  const said = Object.fromEntries(Object.entries(given).filter(([, value]) => value !== undefined));
  const term = editor.add({ ...said, ...place, label, otherLabels: soundLabels(label, given.otherLabels ?? []) });
  for (const below of narrower) addWithNarrower(editor, below, { parentId: term.id, vocabularyId: null });
  return term.id;
}

const NONE: ReadonlySet<number> = new Set();

/** Moves a term with all below it. Of `leaving`, which are about to be removed, the labels may be taken. */
export function moveTo(editor: VocabularyEditor, id: number, place: Place, leaving = NONE): void {
  const term = editor.get(id);
  if (term.parentId === place.parentId && term.vocabularyId === place.vocabularyId) return;
  if (place.parentId !== null && editor.isWithin(place.parentId, id))
    throw new Refusal('termRefused', { why: `“${term.label}” can’t be moved below itself` });
  const after = { ...term, ...place, position: 0 };
  editor.requireFreeLabel(after, leaving);
  editor.requireDepth(place.parentId, editor.levelsOf(id));
  // What is broader by the tree need not be said again.
  if (place.parentId !== null) editor.relate({ kind: 'broader', fromId: id, toId: place.parentId }, false);
  editor.put(after);
}

/** Of some terms those that do not stand below another of them. */
function withoutNarrower(editor: VocabularyEditor, ids: readonly number[]): number[] {
  const chosen = new Set(ids);
  return [...chosen].filter((id) => {
    for (let at = editor.get(id).parentId; at !== null; at = editor.find(at)?.parentId ?? null)
      if (chosen.has(at)) return false;
    return true;
  });
}

/**
 * Everything of a term goes to another: photos, labels, narrower terms (those of one label become one), links, and what it
 * alone says. `above` are terms being merged of which this one is narrower: like it they are leaving, and take nothing in.
 */
function merge(editor: VocabularyEditor, id: number, intoId: number, keepLabels: KeptLabels, above = NONE): void {
  const term = editor.get(id);
  const leaving = new Set([...above, id]);
  // The one that stays may stand below the one that goes: it comes up beside it first.
  if (withinTree(editor, intoId, id))
    moveTo(editor, intoId, { parentId: term.parentId, vocabularyId: term.vocabularyId }, leaving);
  if (editor.uses(id) > 0) editor.regive(id, intoId);
  for (const below of editor.narrower(id)) {
    const twin = editor.siblingLike({ ...below, parentId: intoId, vocabularyId: null }, leaving);
    if (twin) merge(editor, below.id, twin.id, 'none', leaving);
    else if (below.id !== intoId) moveTo(editor, below.id, { parentId: intoId, vocabularyId: null }, leaving);
  }
  const links = editor.linksOf(id);
  const into = editor.get(intoId);
  const own: OtherLabel[] = keepLabels === 'none' ? [] : [{ kind: keepLabels, language: '', label: term.label }];
  const preferred = new Set(
    into.otherLabels.filter(({ kind }) => kind === 'preferred').map(({ language }) => language),
  );
  const others =
    keepLabels === 'none'
      ? []
      : term.otherLabels.map((other): OtherLabel =>
          other.kind === 'preferred' && preferred.has(other.language) ? { ...other, kind: 'alternative' } : other,
        );
  editor.put({
    ...into,
    otherLabels: soundLabels(into.label, [...into.otherLabels, ...own, ...others]),
    scopeNote: into.scopeNote || term.scopeNote,
    definition: into.definition || term.definition,
    notation: into.notation || term.notation,
    examplePhoto: into.examplePhoto ?? term.examplePhoto,
  });
  editor.remove(id, intoId);
  for (const { kind, fromId, toId } of links) {
    const [from, to] = [fromId === id ? intoId : fromId, toId === id ? intoId : toId];
    const [a, b] = [editor.find(from), editor.find(to)];
    if (a && b && !relationProblem(editor, kind, a, b)) editor.relate({ kind, fromId: from, toId: to }, true);
  }
}

function withinTree(editor: VocabularyEditor, id: number, above: number): boolean {
  for (let at: number | null = id; at !== null; at = editor.find(at)?.parentId ?? null) if (at === above) return true;
  return false;
}

function requireSoundRelation(editor: VocabularyEditor, kind: Relation['kind'], from: Term, to: Term): void {
  const why = relationProblem(editor, kind, from, to);
  if (why) throw new Refusal('termRefused', { why });
}

/** Why two terms can't stand in a relation, in words: SKOS S27 and no circles of broader terms. */
function relationProblem(editor: VocabularyEditor, kind: Relation['kind'], from: Term, to: Term): string | undefined {
  const names = `“${from.label}” and “${to.label}”`;
  if (from.id === to.id) return `“${from.label}” can’t stand in a relation to itself`;
  if (kind === 'apart') return undefined;
  if (kind === 'related')
    return editor.isWithin(from.id, to.id) || editor.isWithin(to.id, from.id)
      ? `${names} can’t be related: one is broader than the other`
      : undefined;
  if (editor.isWithin(to.id, from.id)) return `“${to.label}” is narrower than “${from.label}” already`;
  if (from.parentId === to.id) return `“${to.label}” is broader than “${from.label}” already`;
  return editor.linksOf(from.id).some((link) => link.kind === 'related' && [link.fromId, link.toId].includes(to.id))
    ? `${names} are related: what is related can’t be broader, too`
    : undefined;
}

/** Refuses a change to what somebody else has changed since it was seen. */
function requireSeen(term: Term, seen: TermFacts): void {
  for (const fact of TERM_FACTS) {
    const was = seen[fact];
    if (was !== undefined && JSON.stringify(was) !== JSON.stringify(term[fact]))
      throw new Refusal('termChanged', { label: term.label, what: FACT_NAMES[fact] });
  }
}

const FACT_NAMES: Record<TermFact, string> = {
  label: 'label',
  otherLabels: 'other labels',
  scopeNote: 'scope note',
  definition: 'definition',
  notation: 'notation',
  uri: 'identifier',
  colour: 'colour',
  examplePhoto: 'example picture',
  byHand: 'order of narrower terms',
  writeSelf: 'rules for writing',
  writeBroader: 'rules for writing',
  writeOthers: 'rules for writing',
  writeLanguage: 'rules for writing',
};

function siblingsOf(editor: VocabularyEditor, { parentId, vocabularyId }: Place): Term[] {
  return editor.narrower(parentId).filter((term) => parentId !== null || term.vocabularyId === vocabularyId);
}

function isByHand(editor: VocabularyEditor, { parentId, vocabularyId }: Place): boolean {
  return parentId !== null ? editor.get(parentId).byHand : editor.vocabulary(vocabularyId ?? 0).byHand;
}

function setByHand(editor: VocabularyEditor, { parentId, vocabularyId }: Place): void {
  if (parentId !== null) editor.put({ ...editor.get(parentId), byHand: true });
  else editor.putVocabulary({ ...editor.vocabulary(vocabularyId ?? 0), byHand: true });
}

function inOrder(editor: VocabularyEditor, place: Place): Term[] {
  const byHand = isByHand(editor, place);
  return siblingsOf(editor, place).sort(
    (a, b) => (byHand ? a.position - b.position : 0) || compareLabels(a.label, b.label) || a.id - b.id,
  );
}

function insertAt(terms: readonly Term[], at: number, inserted: readonly Term[]): Term[] {
  return [...terms.slice(0, at), ...inserted, ...terms.slice(at)];
}

function putInOrder(editor: VocabularyEditor, terms: readonly Term[]): void {
  terms.forEach((term, i) => {
    if (term.position !== i + 1) editor.put({ ...editor.get(term.id), position: i + 1 });
  });
}
