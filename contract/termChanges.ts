// Changes to vocabularies, to which terms photos have, and to term pads.

import { z } from 'zod';
import { LABEL_KINDS, TERM_COLOURS, WRITTEN_OTHERS } from '@stellin/core/vocabulary/term';
import { languageTag } from './language';
import { selection } from './photos';
import { id, text } from './route';

const label = text.trim().min(1).max(200);
const note = text.max(5000);
const labelLanguage = languageTag.or(z.literal('')).describe('BCP 47; empty for the vocabulary’s own language');
const termIds = z.array(id).min(1).max(1000);

export const otherLabel = z.object({
  kind: z.enum(LABEL_KINDS),
  language: labelLanguage,
  label: text.min(1).max(200),
});

export interface NewTermInput {
  label: string;
  heading?: boolean;
  writeBroader?: boolean;
  scopeNote?: string;
  otherLabels?: z.infer<typeof otherLabel>[];
  narrower?: NewTermInput[];
}

const newTerm: z.ZodType<NewTermInput> = z
  .lazy(() =>
    z.object({
      label,
      heading: z.boolean().optional(),
      writeBroader: z.boolean().optional(),
      scopeNote: note.optional(),
      otherLabels: z.array(otherLabel).max(100).optional(),
      narrower: z.array(newTerm).max(5000).optional(),
    }),
  )
  .meta({ id: 'NewTerm' });

/** What the card of a term says and takes. */
export const termFacts = z.object({
  label,
  otherLabels: z.array(otherLabel).max(500),
  scopeNote: note,
  definition: note,
  notation: text.max(200),
  uri: z.url().max(2000),
  colour: z.enum(['', ...TERM_COLOURS]),
  examplePhoto: id.nullable(),
  byHand: z.boolean(),
  writeSelf: z.boolean(),
  writeBroader: z.boolean(),
  writeOthers: z.enum(WRITTEN_OTHERS),
  writeLanguage: labelLanguage,
});

const keptLabels = z.enum(['alternative', 'hidden', 'none']).describe('What becomes of the old labels');
const place = {
  parentId: id.nullable(),
  vocabularyId: id.optional().describe('At the top: of which vocabulary; the first one when not said'),
};

/** Keys of a pad as a keyboard has them, row by row. */
export const PAD_KEYS = [...'1234567890', ...'qwertyuiop', ...'asdfghjkl', ';'] as const;

export const termChanges = [
  z.object({ kind: z.literal('giveTerms'), selection, termIds: z.array(id).min(1).max(100) }),
  z.object({ kind: z.literal('takeTerms'), selection, termIds: z.array(id).min(1).max(100) }),
  z.object({
    kind: z.literal('proposeTerm'),
    ...place,
    label,
    scopeNote: note.default(''),
    selection: selection.optional().describe('Photos that get it at once'),
  }),
  z.object({
    kind: z.literal('addTerms'),
    ...place,
    after: id.optional().describe('Where the order is made by hand: behind which term'),
    terms: z.array(newTerm).min(1).max(5000),
    selection: selection.optional().describe('Photos that get the new terms at once'),
  }),
  z.object({
    kind: z.literal('renameTerm'),
    termId: id,
    label,
    seen: label.optional().describe('The label that was seen; another one meanwhile is not written over'),
    keepOld: keptLabels.default('none'),
  }),
  z.object({
    kind: z.literal('editTerm'),
    termId: id,
    facts: termFacts.partial(),
    seen: termFacts
      .partial()
      .default({})
      .describe('What was seen of these; other values meanwhile are not written over'),
  }),
  z.object({ kind: z.literal('swapLabels'), termId: id, label: label.describe('The one to be preferred') }),
  z.object({
    kind: z.literal('moveTerms'),
    termIds,
    ...place,
    before: id.nullable().optional().describe('Before which term, null: last; makes the order one by hand'),
  }),
  z.object({ kind: z.literal('mergeTerms'), termIds, intoId: id, keepLabels: keptLabels.default('alternative') }),
  z.object({
    kind: z.literal('splitTerm'),
    termId: id,
    into: z
      .array(z.object({ label, selection }))
      .min(1)
      .max(50)
      .describe('Each photo goes to the first that means it; the others keep the term'),
  }),
  z.object({
    kind: z.literal('setHeading'),
    termId: id,
    heading: z.boolean(),
    photosTo: id.nullable().default(null).describe('What photos get that have it; null: nothing'),
  }),
  z.object({
    kind: z.literal('deprecateTerm'),
    termId: id,
    deprecated: z.boolean().default(true),
    replacedBy: id.nullable().default(null),
    movePhotos: z.boolean().default(false).describe('Photos get the replacement'),
  }),
  z.object({
    kind: z.literal('removeTerm'),
    termId: id,
    photosTo: id.nullable().optional().describe('What photos get that have it; null: nothing. Not said: none may'),
    narrower: z.enum(['refuse', 'up']).default('refuse'),
  }),
  z.object({
    kind: z.literal('relateTerms'),
    relation: z.enum(['broader', 'related', 'apart']),
    fromId: id.describe('The narrower one'),
    toId: id,
    on: z.boolean().default(true),
  }),
  z.object({ kind: z.literal('acceptTerms'), termIds }),
  z.object({ kind: z.literal('refuseTerm'), termId: id, word: text.max(1000).default('') }),
  z.object({
    kind: z.literal('defineVocabulary'),
    vocabularyId: id.nullable(),
    name: label,
    language: labelLanguage.default('en'),
    note: note.default(''),
    uri: z.union([z.literal(''), z.url()]).default(''),
    byHand: z.boolean().default(false),
  }),
  z.object({ kind: z.literal('removeVocabulary'), vocabularyId: id }),
  z.object({
    kind: z.literal('importTerms'),
    importId: z.uuid(),
    vocabularyId: id.nullable().describe('Null: it becomes a new vocabulary'),
    gone: z.enum(['keep', 'deprecate', 'remove']).default('keep'),
    same: z.array(text).max(100_000).default([]).describe('Doubtful ones that are what they might be, by key'),
    without: z.array(text).max(100_000).default([]).describe('Left out, by key'),
  }),
  z.object({
    kind: z.literal('definePad'),
    padId: id.nullable(),
    name: label,
    shared: z.boolean(),
    keys: z.partialRecord(z.enum(PAD_KEYS), id),
  }),
  z.object({ kind: z.literal('removePad'), padId: id }),
] as const;

/** One of them. */
export const termChange = z.discriminatedUnion('kind', termChanges);
