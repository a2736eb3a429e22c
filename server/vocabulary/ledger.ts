// How terms, vocabularies and settled keywords stand in the ledger.

import { recordedValues, shownValue, showGiven, NOTHING, type ObjectKind, type PhotoAspect } from '../ledger/kinds';

export const vocabularyAspects = {
  term: {
    inSlices: true,
    effect: (isMeant) => [
      `delete from photo_term g using ledger_photo l
       where ${isMeant} and l.aspect = 'term' and l.after = 'false' and g.photo_id = l.photo_id and g.term_id = l.key`,
      // How it came stands there instead of a mere yes.
      `insert into photo_term (photo_id, term_id, origin)
       select l.photo_id, l.key, coalesce(nullif(l.after #>> '{}', 'true'), 'hand') from ledger_photo l
       where ${isMeant} and l.aspect = 'term' and l.after <> 'false' on conflict do nothing`,
    ],
    stillBefore: `exists (select 1 from photo_term g where g.photo_id = l.photo_id and g.term_id = l.key) = (l.before <> 'false')`,
    keyOf: 'term',
    show: showGiven('Term', 'term'),
  },
  keyword: {
    // A settled keyword stands in the file, but no longer as a free one: the next write takes it out, unless a term asks for it.
    effect: (isMeant) => [
      `with settled as (delete from photo_keyword k using ledger_photo l, incoming_keyword i
         where ${isMeant} and l.aspect = 'keyword' and l.after = 'false' and i.id = l.key and k.photo_id = l.photo_id and k.keyword = i.keyword
         returning k.photo_id, k.keyword)
       insert into written_keyword (photo_id, keyword) select photo_id, keyword from settled on conflict do nothing`,
      `with wanted as (select l.photo_id, i.keyword, i.folded from ledger_photo l join incoming_keyword i on i.id = l.key
         where ${isMeant} and l.aspect = 'keyword' and l.after = 'true'),
       freed as (delete from written_keyword w using wanted where w.photo_id = wanted.photo_id and w.keyword = wanted.keyword
         returning w.photo_id, w.keyword)
       insert into photo_keyword (photo_id, keyword, folded, position, in_file)
       select photo_id, keyword, folded, 1000, (photo_id, keyword) in (select photo_id, keyword from freed) from wanted on conflict do nothing`,
    ],
    stillBefore: `to_jsonb(exists (select 1 from photo_keyword k join incoming_keyword i on i.id = l.key where k.photo_id = l.photo_id and k.keyword = i.keyword)) = l.before`,
    keyOf: 'incoming_keyword',
    show: ({ key, before, after }, nameOf) => {
      const state = (value: unknown) => (value === false ? NOTHING : 'incoming');
      return [{ what: `Keyword “${nameOf('incoming_keyword', key)}”`, before: state(before), after: state(after) }];
    },
  },
} as const satisfies Record<string, PhotoAspect>;

/** Labels with their language and kind: “Drachen” (de), “kites” (hidden). */
function shownLabels(value: unknown): string {
  const labels = Array.isArray(value) ? value.map(recordedValues) : [];
  return labels
    .map(({ label, language, kind }) => {
      const said = [language, kind === 'preferred' ? '' : kind].filter(Boolean).join(', ');
      return `“${String(label)}”${said ? ` (${said})` : ''}`;
    })
    .join(', ');
}

/** Keys with the term each gives. */
const shownKeys: Extract<ObjectKind['columns'][string], object>['show'] = (value, nameOf) =>
  Object.entries(recordedValues(value))
    .map(([key, id]) => `${key}: ${nameOf('term', Number(id))}`)
    .join(', ');

const RELATIONS: Readonly<Record<string, string>> = {
  broader: 'also narrower than',
  related: 'related',
  apart: 'not the same',
};

export const vocabularyObjects = {
  vocabulary: {
    label: 'Vocabulary',
    named: 'name',
    columns: {
      name: { label: 'Name' },
      language: { label: 'Language' },
      uri: { label: 'URI' },
      note: { label: 'Note' },
      by_hand: { label: 'Ordered by hand' },
    },
  },
  term: {
    label: 'Term',
    named: 'label',
    columns: {
      parent_id: { label: 'Broader term', refersTo: 'term' },
      vocabulary_id: { label: 'Vocabulary', refersTo: 'vocabulary' },
      label: { label: 'Label' },
      other_labels: { label: 'Other labels', show: shownLabels },
      heading: { label: 'Heading' },
      status: { label: 'Status' },
      proposed_by: { label: 'Proposed by', refersTo: 'account' },
      deprecated: { label: 'Deprecated' },
      replaced_by: { label: 'Replaced by', refersTo: 'term' },
      scope_note: { label: 'Scope note' },
      definition: { label: 'Definition' },
      notation: { label: 'Notation' },
      uri: { label: 'URI' },
      colour: { label: 'Colour' },
      example_photo: { label: 'Example', refersTo: 'photo' },
      by_hand: { label: 'Narrower terms ordered by hand' },
      position: { label: 'Place among its neighbours' },
      write_self: { label: 'Written into files' },
      write_broader: { label: 'Broader terms written along' },
      write_others: { label: 'Other labels written along' },
      write_language: { label: 'Written in' },
      labels_folded: 'derived',
      words: 'derived',
    },
  },
  term_relation: {
    label: 'Link between terms',
    named: null,
    columns: {
      kind: { label: 'Kind', show: (value) => RELATIONS[String(value)] ?? shownValue(value) },
      from_id: { label: 'From', refersTo: 'term' },
      to_id: { label: 'To', refersTo: 'term' },
    },
  },
  term_pad: {
    label: 'Term pad',
    named: 'name',
    columns: {
      name: { label: 'Name' },
      owner_id: { label: 'Only for', refersTo: 'account' },
      keys: { label: 'Keys', refersTo: 'term', show: shownKeys },
      created_by: { label: 'Made by', refersTo: 'account' },
    },
  },
  keyword_decision: {
    label: 'Decision on a keyword',
    named: 'keyword',
    columns: {
      keyword: { label: 'Keyword' },
      decision: { label: 'Becomes' },
      term_id: { label: 'Term', refersTo: 'term' },
    },
  },
} as const satisfies Record<string, ObjectKind>;

/** What of the ledger is about terms. */
export const TERM_OBJECTS = ['term', 'term_relation', 'vocabulary'] as const;
