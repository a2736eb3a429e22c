// The tables of the vocabularies, and which photos have which terms.

import { bigint, boolean, integer, json, moment, table, text, texts, uuid, words } from './table';

/** Vocabularies. */
export const VOCABULARY = table('vocabulary', {
  id: integer({ key: true, preset: true }),
  name: text(),
  /** Of its labels where they say none; BCP 47. */
  language: text({ preset: true }),
  /** Of the concept scheme, SKOS. */
  uri: text(),
  note: text({ preset: true }),
  /** Its top terms stand in an order made by hand. */
  byHand: boolean({ preset: true }),
});

/** One row: a number that every change to the vocabularies raises. */
export const VOCABULARY_VERSION = table('vocabulary_version', {
  version: bigint(),
});

/** The terms of all vocabularies. */
export const TERM = table('term', {
  id: integer({ key: true, preset: true }),
  parentId: integer({ orNull: true, of: 'term' }),
  /** The preferred label, SKOS prefLabel. */
  label: text(),
  /** Only groups others: it is given to no photo. */
  heading: boolean({ preset: true }),
  /** Whether its broader terms are written along. */
  writeBroader: boolean({ preset: true }),
  /** SKOS scopeNote. */
  scopeNote: text({ preset: true }),
  /** Other languages, alternative and hidden labels. */
  otherLabels: json({ preset: true }),
  /** All labels as they are searched for. */
  labelsFolded: texts(),
  /** Of all labels. */
  words: words({ preset: true }),
  vocabularyId: integer({ orNull: true, of: 'vocabulary' }),
  /** accepted or proposed. */
  status: text({ preset: true }),
  proposedBy: integer({ orNull: true, of: 'account' }),
  deprecated: boolean({ preset: true }),
  /** Where a deprecated term points to. */
  replacedBy: integer({ orNull: true, of: 'term' }),
  /** SKOS definition. */
  definition: text({ preset: true }),
  /** SKOS notation. */
  notation: text({ preset: true }),
  /** Of the concept, SKOS. */
  uri: text({ preset: true }),
  /** One of the colours of core, or empty. */
  colour: text({ preset: true }),
  examplePhoto: integer({ orNull: true, of: 'photo' }),
  /** Its narrower terms stand in an order made by hand. */
  byHand: boolean({ preset: true }),
  /** Among its siblings, in that order. */
  position: integer({ preset: true }),
  /** Whether it is written into files. */
  writeSelf: boolean({ preset: true }),
  /** Which of its other labels are written along. */
  writeOthers: text({ preset: true }),
  /** The language it is written in; empty: the vocabulary’s. */
  writeLanguage: text({ preset: true }),
  /** Generated: what its siblings have in common; their labels differ. */
  siblingGroup: integer({ preset: true, orNull: true }),
});

/** Links between terms besides the tree: a broader term elsewhere, related ones. */
export const TERM_RELATION = table('term_relation', {
  id: integer({ key: true, preset: true }),
  /** broader or related, SKOS. */
  kind: text(),
  fromId: integer({ of: 'term' }),
  toId: integer({ of: 'term' }),
});

/** Derived: every term with itself and all that is above it. */
export const TERM_ABOVE = table('term_above', {
  termId: integer({ key: true, of: 'term' }),
  /** The term itself, or one above it by any way. */
  aboveId: integer({ key: true }),
});

/** Derived: how many photos have each term. */
export const TERM_USE = table('term_use', {
  termId: integer({ key: true, of: 'term' }),
  /** Directly. */
  photos: integer({ preset: true }),
  /** With narrower ones. */
  photosWithin: integer({ preset: true }),
  lastGivenAt: moment({ orNull: true }),
});

/** Derived: the keywords that a term writes into files. */
export const TERM_KEYWORD = table('term_keyword', {
  termId: integer({ key: true, of: 'term' }),
  keyword: text({ key: true }),
});

/** Which photos have which terms. */
export const PHOTO_TERM = table('photo_term', {
  termId: integer({ key: true, of: 'term' }),
  photoId: integer({ key: true, of: 'photo' }),
  /** How it came: hand, file, proposal … */
  origin: text({ preset: true }),
});

/** Pads: terms on single keys. */
export const TERM_PAD = table('term_pad', {
  id: integer({ key: true, preset: true }),
  name: text(),
  /** Null: it is shared. */
  ownerId: integer({ orNull: true, of: 'account' }),
  /** Ids of terms by key. */
  keys: json({ preset: true }),
  createdBy: integer({ orNull: true, of: 'account' }),
});

/** Keywords of files that no decision was made of yet. */
export const INCOMING_KEYWORD = table('incoming_keyword', {
  id: integer({ key: true, preset: true }),
  keyword: text(),
  folded: text(),
});

/** What became of a keyword that files bring. */
export const KEYWORD_DECISION = table('keyword_decision', {
  id: integer({ key: true, preset: true }),
  /** Folded. */
  keyword: text(),
  /** term, name, free or ignore. */
  decision: text(),
  termId: integer({ orNull: true, of: 'term' }),
});

/** Vocabularies that were read from a file and wait for their decisions. */
export const VOCABULARY_IMPORT = table('vocabulary_import', {
  id: uuid({ key: true, preset: true }),
  accountId: integer({ orNull: true, of: 'account' }),
  name: text(),
  /** See core/vocabulary/formats. */
  format: text(),
  /** What was read, see core/vocabulary/formats/draft. */
  draft: json(),
  createdAt: moment({ preset: true }),
});
