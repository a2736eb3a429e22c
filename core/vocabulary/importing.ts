// Taking in a vocabulary that may be here already: what in it is new, changed, moved, gone or doubtful, and making it so.

import { freeName } from '../text/freeName';
import { foldText } from '../text/words';
import { moveTo } from './changes';
import { Refusal, VocabularyEditor, type Fresh, type Plan, type VocabularyState } from './editor';
import { draftOf, type Draft, type DraftPart, type DraftTerm } from './formats/draft';
import type { ImportKind } from './importKinds';
import { SlipIndex } from './slips';
import { labelsOf, type Term, type Vocabulary } from './term';

export interface ImportRow {
  /** Of the draft; of what is gone, `term ID`. */
  key: string;
  kind: ImportKind;
  label: string;
  /** Labels from the top. */
  path: string[];
  /** The term it is taken for, or might be. */
  termId: number | null;
  /** What differs, in words. */
  what: string[];
}

export interface ImportChoices {
  /** What becomes of terms that the file does not have. */
  gone: 'keep' | 'deprecate' | 'remove';
  /** Doubtful ones that are taken for the term they might be, by key; the others are made anew. */
  same: string[];
  /** Keys that are left out. */
  without: string[];
}

/** Holds a draft against a vocabulary; null: it becomes a new one. Rows in the order of the draft, those gone at the end. */
export function compareImport(state: VocabularyState, vocabularyId: number | null, draft: Draft): ImportRow[] {
  const present = presentTerms(state, vocabularyId);
  const matches = matchTerms(state, present, draft);
  const byKey = new Map(draft.terms.map((term) => [term.key, term]));
  const now = vocabularyId === null ? undefined : nowOf(state, vocabularyId);
  const doubts = doubtsOf(present);
  const rows = draft.terms.map((term): ImportRow => {
    const path = pathOf(byKey, term);
    const match = matches.get(term.key);
    if (!match) {
      const might = doubts(term.label);
      return {
        key: term.key,
        kind: might ? 'doubtful' : 'new',
        label: term.label,
        path,
        termId: might?.term.id ?? null,
        what: might ? [might.why] : [],
      };
    }
    const changes = now ? differences(now, matches, draft, term, match) : [];
    const parent = term.parent === null ? null : (matches.get(term.parent)?.id ?? undefined);
    const moved = parent !== match.parentId;
    const kind = moved ? 'moved' : changes.length > 0 ? 'changed' : 'same';
    const from = moved ? [`stands below ${broaderLabel(state, match)} now`] : [];
    return { key: term.key, kind, label: term.label, path, termId: match.id, what: [...from, ...changes] };
  });
  const matched = new Set([...matches.values()].map(({ id }) => id));
  const gone = present
    .filter(({ id }) => !matched.has(id))
    .map((term): ImportRow => ({
      key: `term ${term.id}`,
      kind: 'gone',
      label: term.label,
      path: state.tree.path(term.id).map(({ label }) => label),
      termId: term.id,
      what: [],
    }));
  return [...rows, ...gone];
}

/** Plans taking a draft in. Throws a Refusal when it may not be. */
export function planImport(
  state: VocabularyState,
  vocabularyId: number | null,
  draft: Draft,
  choices: ImportChoices,
  fresh: Fresh,
): Plan {
  const editor = new VocabularyEditor(state, fresh);
  const present = presentTerms(state, vocabularyId);
  const matches = matchTerms(state, present, draft);
  const doubts = doubtsOf(present);
  const without = new Set(choices.without);
  for (const term of draft.terms) {
    const might = matches.has(term.key) || !choices.same.includes(term.key) ? undefined : doubts(term.label)?.term;
    if (might && ![...matches.values()].some(({ id }) => id === might.id)) matches.set(term.key, might);
  }
  const target = vocabularyFor(editor, vocabularyId, draft);
  const ids = new Map([...matches].map(([key, { id }]) => [key, id]));
  const placeOf = (term: DraftTerm) => {
    const parentId = term.parent === null ? null : (ids.get(term.parent) ?? null);
    return { parentId, vocabularyId: parentId === null ? target.id : null };
  };
  const places = new Map<string | null, number>();
  const taken: DraftTerm[] = [];
  for (const term of draft.terms) {
    // What stands below something left out is left out with it.
    if (without.has(term.key) || (term.parent !== null && !ids.has(term.parent))) {
      ids.delete(term.key);
      continue;
    }
    taken.push(term);
    const place = placeOf(term);
    const position = (places.get(term.parent) ?? 0) + 1;
    places.set(term.parent, position);
    const known = matches.get(term.key);
    if (!known)
      ids.set(
        term.key,
        editor.add({ ...saidOf(draft.says, term), ...place, label: term.label, uri: freeUri(state, term), position })
          .id,
      );
    else {
      const doubtful = choices.same.includes(term.key);
      if (!doubtful && !sits(editor, known.id, place)) moveTo(editor, known.id, place);
      const before = editor.get(known.id);
      const label = doubtful ? before.label : term.label;
      const after = { ...before, ...(doubtful ? {} : saidOf(draft.says, term)), label, position };
      if (label !== before.label) editor.requireFreeLabel(after);
      editor.put(after);
    }
  }
  link(editor, draft, taken, ids);
  if (choices.gone !== 'keep') settleGone(editor, present, new Set(ids.values()), choices.gone);
  return editor.plan();
}

function sits(
  editor: VocabularyEditor,
  id: number,
  place: { parentId: number | null; vocabularyId: number | null },
): boolean {
  const term = editor.get(id);
  return term.parentId === place.parentId && term.vocabularyId === place.vocabularyId;
}

function vocabularyFor(editor: VocabularyEditor, id: number | null, draft: Draft): Vocabulary {
  if (id !== null) {
    const known = editor.vocabulary(id);
    if (draft.says.includes('byHand')) editor.putVocabulary({ ...known, byHand: draft.byHand });
    return known;
  }
  const names = new Set(editor.allVocabularies().map(({ name }) => name));
  const name = freeName(draft.name || 'Imported vocabulary', (taken) => names.has(taken));
  const uris = new Set(editor.allVocabularies().map(({ uri }) => uri));
  const uri = draft.uri && !uris.has(draft.uri) ? draft.uri : editor.newUri();
  const vocabulary = {
    id: editor.newId(),
    name,
    language: draft.language || 'en',
    note: draft.note,
    uri,
    byHand: draft.byHand,
  };
  editor.putVocabulary(vocabulary);
  return vocabulary;
}

/** The parts that a format says, as a term has them. */
function saidOf(says: readonly DraftPart[], term: DraftTerm): Partial<Term> {
  const parts = says.filter(
    (part): part is Exclude<DraftPart, 'replacedBy' | 'broader' | 'related'> => !LINKS.has(part),
  );
  return Object.fromEntries(parts.map((part) => [part, term[part]]));
}
const LINKS: ReadonlySet<DraftPart> = new Set(['replacedBy', 'broader', 'related']);

/** The URI of a term that comes in, unless a term elsewhere has it already. */
function freeUri(state: VocabularyState, { uri }: DraftTerm): string {
  return uri !== '' && !uriIndex(state).has(uri) ? uri : '';
}

const uriIndexes = new WeakMap<VocabularyState, ReadonlyMap<string, Term>>();
function uriIndex(state: VocabularyState): ReadonlyMap<string, Term> {
  const known = uriIndexes.get(state) ?? new Map([...state.tree.all()].map((term) => [term.uri, term]));
  uriIndexes.set(state, known);
  return known;
}

function link(
  editor: VocabularyEditor,
  draft: Draft,
  taken: readonly DraftTerm[],
  ids: ReadonlyMap<string, number>,
): void {
  const idsOf = (keys: readonly string[]) => keys.flatMap((key) => ids.get(key) ?? []);
  for (const kind of ['broader', 'related'] as const) {
    if (!draft.says.includes(kind)) continue;
    const mine = new Set(taken.flatMap(({ key }) => ids.get(key) ?? []));
    const wanted = new Set(
      taken.flatMap((term) => idsOf(term[kind]).map((to) => pairKey(kind, ids.get(term.key) ?? 0, to))),
    );
    for (const relation of editor.relations())
      if (
        relation.kind === kind &&
        mine.has(relation.fromId) &&
        mine.has(relation.toId) &&
        !wanted.has(pairKey(kind, relation.fromId, relation.toId))
      )
        editor.relate(relation, false);
    for (const term of taken)
      for (const toId of idsOf(term[kind])) {
        const fromId = ids.get(term.key) ?? 0;
        // What is wrong in the file is kept as it says, and told among the findings; only circles of broader terms are not.
        if (fromId !== toId && (kind === 'related' || !editor.isWithin(toId, fromId)))
          editor.relate({ kind, fromId, toId }, true);
      }
  }
  if (draft.says.includes('replacedBy'))
    for (const term of taken) {
      const before = editor.get(ids.get(term.key) ?? 0);
      const replacedBy = term.replacedBy === null ? null : (ids.get(term.replacedBy) ?? null);
      if (before.replacedBy !== replacedBy) editor.put({ ...before, replacedBy });
    }
}

function pairKey(kind: 'broader' | 'related', from: number, to: number): string {
  return kind === 'related' && from > to ? `${to} ${from}` : `${from} ${to}`;
}

function settleGone(
  editor: VocabularyEditor,
  present: readonly Term[],
  kept: ReadonlySet<number>,
  how: 'deprecate' | 'remove',
): void {
  // From below, so that narrower ones are gone before.
  for (const { id } of [...present].reverse()) {
    const term = kept.has(id) ? undefined : editor.find(id);
    if (!term) continue;
    if (how === 'deprecate') editor.put({ ...term, deprecated: true });
    else if (editor.narrower(id).length > 0 || editor.uses(id) > 0)
      throw new Refusal('termInUse', {
        label: term.label,
        why: 'it is not in the file, but photos have it or other terms stand below it',
      });
    else editor.remove(id, null);
  }
}

/** The terms of a vocabulary, each before its narrower ones. */
function presentTerms({ tree }: VocabularyState, vocabularyId: number | null): Term[] {
  if (vocabularyId === null) return [];
  const found: Term[] = [];
  const open = tree
    .narrower(null)
    .filter((term) => term.vocabularyId === vocabularyId)
    .reverse();
  for (let term = open.pop(); term; term = open.pop()) {
    found.push(term);
    open.push(...[...tree.narrower(term.id)].reverse());
  }
  return found;
}

/** Which term each of a draft is: by its URI, else by its path of labels, else by a label that both sides have just once. */
function matchTerms({ tree }: VocabularyState, present: readonly Term[], draft: Draft): Map<string, Term> {
  const matches = new Map<string, Term>();
  const taken = new Set<number>();
  const match = (key: string, term: Term | undefined) => {
    if (!term || taken.has(term.id) || matches.has(key)) return;
    matches.set(key, term);
    taken.add(term.id);
  };
  const byUri = new Map(present.map((term) => [term.uri, term]));
  for (const { key, uri } of draft.terms) if (uri !== '') match(key, byUri.get(uri));
  const byPath = new Map(
    present.map((term) => [
      tree
        .path(term.id)
        .map(({ label }) => label)
        .join('\u0000'),
      term,
    ]),
  );
  const byKey = new Map(draft.terms.map((term) => [term.key, term]));
  for (const term of draft.terms) match(term.key, byPath.get(pathOf(byKey, term).join('\u0000')));
  const once = <Thing>(things: readonly Thing[], labelOf: (thing: Thing) => string) => {
    const found = new Map<string, Thing | null>();
    for (const thing of things) found.set(labelOf(thing), found.has(labelOf(thing)) ? null : thing);
    return found;
  };
  const mine = once(
    present.filter(({ id }) => !taken.has(id)),
    ({ label }) => label,
  );
  const theirs = once(
    draft.terms.filter(({ key }) => !matches.has(key)),
    ({ label }) => label,
  );
  for (const [label, term] of theirs) if (term) match(term.key, mine.get(label) ?? undefined);
  return matches;
}

/** Finds the term that a label might mean: another label of it, or one that is a slip away. */
function doubtsOf(present: readonly Term[]): (label: string) => { term: Term; why: string } | undefined {
  const byLabel = new Map<string, Term>();
  const slips = new SlipIndex<Term>();
  for (const term of present)
    for (const label of labelsOf(term)) {
      const folded = foldText(label);
      if (!byLabel.has(folded)) byLabel.set(folded, term);
      slips.add(folded, term);
    }
  return (label) => {
    const folded = foldText(label);
    const same = byLabel.get(folded);
    if (same) return { term: same, why: `is a label of “${same.label}”` };
    const near = slips.near(folded)[0];
    return near && { term: near, why: `is nearly “${near.label}”` };
  };
}

function pathOf(byKey: ReadonlyMap<string, DraftTerm>, term: DraftTerm): string[] {
  const path: string[] = [];
  const seen = new Set<string>();
  for (
    let at: DraftTerm | undefined = term;
    at && !seen.has(at.key);
    at = at.parent === null ? undefined : byKey.get(at.parent)
  ) {
    seen.add(at.key);
    path.unshift(at.label);
  }
  return path;
}

function broaderLabel({ tree }: VocabularyState, term: Term): string {
  const parent = term.parentId === null ? undefined : tree.get(term.parentId);
  return parent ? `“${parent.label}”` : 'the top';
}

/** The vocabulary as a draft, by term id. */
function nowOf(state: VocabularyState, vocabularyId: number): Map<number, DraftTerm> | undefined {
  const vocabulary = state.vocabularies.find(({ id }) => id === vocabularyId);
  if (!vocabulary) return undefined;
  const byUri = uriIndex(state);
  return new Map(
    draftOf(vocabulary, state.tree, state.relations).terms.map((term) => [byUri.get(term.uri)?.id ?? 0, term]),
  );
}

const PART_NAMES: Record<DraftPart, string> = {
  otherLabels: 'other labels',
  heading: 'heading',
  status: 'status',
  deprecated: 'deprecated',
  scopeNote: 'scope note',
  definition: 'definition',
  notation: 'notation',
  colour: 'colour',
  byHand: 'order of narrower terms',
  writeSelf: 'rules for writing',
  writeBroader: 'rules for writing',
  writeOthers: 'rules for writing',
  writeLanguage: 'rules for writing',
  replacedBy: 'replacement',
  broader: 'further broader terms',
  related: 'related terms',
};

function differences(
  now: ReadonlyMap<number, DraftTerm>,
  matches: ReadonlyMap<string, Term>,
  draft: Draft,
  term: DraftTerm,
  match: Term,
): string[] {
  const before = now.get(match.id);
  if (!before) return [];
  const uris = (keys: readonly string[]) => keys.map((key) => matches.get(key)?.uri ?? key).sort();
  const text = (part: DraftPart, one: DraftTerm, isDraft: boolean) => {
    if (part === 'broader' || part === 'related')
      return JSON.stringify(isDraft ? uris(one[part]) : [...one[part]].sort());
    if (part === 'replacedBy')
      return isDraft && one.replacedBy !== null ? (matches.get(one.replacedBy)?.uri ?? '') : (one.replacedBy ?? '');
    if (part === 'otherLabels')
      return JSON.stringify(one.otherLabels.map(({ kind, language, label }) => `${kind} ${language} ${label}`).sort());
    return JSON.stringify(one[part]);
  };
  const changed = draft.says
    .filter((part) => text(part, term, true) !== text(part, before, false))
    .map((part) => PART_NAMES[part]);
  const renamed = term.label === match.label ? [] : [`is called “${match.label}” now`];
  return [...renamed, ...new Set(changed)];
}
