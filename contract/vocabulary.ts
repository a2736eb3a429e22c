// Terms as columns, cards and imports show them.

import { z } from 'zod';
import { FINDING_KINDS } from '@stellin/core/vocabulary/lint';
import { FORMAT_IDS } from '@stellin/core/vocabulary/formatIds';
import { IMPORT_KINDS } from '@stellin/core/vocabulary/importKinds';
import { selection } from './photos';
import { id, idParams, isoTime, route, text } from './route';
import { PAD_KEYS, termFacts, termChange } from './termChanges';
import { termName } from './termName';

/** A term as columns, lists and type-ahead show it. */
export const termRow = z.object({
  id: z.number(),
  parentId: z.number().nullable(),
  vocabularyId: z.number().nullable().describe('Of a top term'),
  label: z.string(),
  also: z.string().describe('Its first alternative label'),
  heading: z.boolean(),
  proposed: z.boolean(),
  deprecated: z.boolean(),
  colour: z.string(),
  narrower: z.number().describe('How many stand directly below'),
  elsewhere: z.boolean().describe('Stands here by a further broader term; its place in the tree is another'),
  photos: z.number().describe('Given to them directly'),
  photosWithin: z.number().describe('Given to them, it or a narrower term'),
});
export type TermRow = z.infer<typeof termRow>;

export const vocabulary = z.object({
  id: z.number(),
  name: z.string(),
  language: z.string(),
  uri: z.string(),
  note: z.string(),
  byHand: z.boolean(),
  terms: z.number(),
  levels: z.number(),
});
export type Vocabulary = z.infer<typeof vocabulary>;

export const foundTerm = termRow.extend({
  path: z.array(z.string()),
  found: z.string().describe('The label that was found'),
  from: z.number().describe('Where the typed text begins in it, in UTF-16 units'),
  to: z.number(),
});
export type FoundTerm = z.infer<typeof foundTerm>;

const termLink = termName.extend({ photosWithin: z.number() });

const sample = z.object({ id: z.number(), previewVersion: z.number() });

export const termCard = termFacts.extend({
  id: z.number(),
  parentId: z.number().nullable(),
  vocabulary: z.object({ id: z.number(), name: z.string(), language: z.string() }),
  heading: z.boolean(),
  status: z.enum(['accepted', 'proposed']),
  proposedBy: z.string().nullable(),
  deprecated: z.boolean(),
  replacedBy: termName.nullable(),
  uri: z.string(),
  path: z.array(termName),
  broader: z.array(termLink).describe('Further broader terms'),
  related: z.array(termLink),
  narrower: z.number(),
  photos: z.number(),
  photosWithin: z.number(),
  lastGivenAt: isoTime.nullable(),
  keywords: z.array(z.string()).describe('What is written of it'),
  example: sample.nullable(),
  madeBy: z.string().nullable(),
  madeAt: isoTime.nullable(),
  query: z.string().describe('What finds its photos on the Desk'),
});
export type TermCard = z.infer<typeof termCard>;

export const termUses = z.object({
  drives: z
    .array(z.object({ label: z.string(), away: z.boolean(), photos: z.number() }))
    .describe('Where photos with it or a narrower term are'),
  samples: z.array(sample),
  together: z
    .array(termName.extend({ share: z.number() }))
    .describe('Terms that its photos have, too, of its last 2,000'),
  origins: z
    .array(z.object({ origin: z.string(), photos: z.number() }))
    .describe('How it came to the photos that have it directly'),
});
export type TermUses = z.infer<typeof termUses>;

export const vocabularyGrowth = z.object({
  terms: z.number(),
  months: z
    .array(z.object({ month: z.string().describe('YYYY-MM'), made: z.number(), gone: z.number() }))
    .describe('Those in which terms were made or went, the latest twelve, in their order'),
  given: z.array(termName.extend({ at: isoTime })).describe('Terms that anybody gave, the last first'),
});

export const finding = z.object({
  kind: z.enum(FINDING_KINDS),
  what: z.string(),
  terms: z.array(termName.extend({ photos: z.number(), heading: z.boolean() })),
});
export type Finding = z.infer<typeof finding>;

/** What a change to vocabularies touches, before it is made. */
export const impact = z.object({
  title: z.string(),
  terms: z.number().describe('That are made, altered or removed'),
  photos: z.number().describe('That get another term, or lose one'),
  both: z.number().describe('Of these such as have the other already'),
  within: z.number().describe('That are found by other broader terms or labels than before'),
  drives: z
    .array(z.object({ label: z.string(), away: z.boolean(), files: z.number() }))
    .describe('Files that are to be written anew'),
  searches: z.array(z.object({ name: z.string(), before: z.string(), after: z.string() })),
  pads: z.array(z.string()),
  keptLabels: z.array(z.string()).describe('Labels that stay as other labels'),
  query: z.string().nullable().describe('What finds the photos'),
});
export type Impact = z.infer<typeof impact>;

export const termPad = z.object({
  id: z.number(),
  name: z.string(),
  shared: z.boolean(),
  mine: z.boolean(),
  mayChange: z.boolean().describe('One made it, or keeps the vocabulary'),
  keys: z.array(z.object({ key: z.enum(PAD_KEYS), term: termName })),
});
export type TermPad = z.infer<typeof termPad>;

export const suggestedTerm = termName.extend({
  why: z.string(),
  share: z.number().describe('Of 1: how many of the photos that this is taken from have it'),
});
export type SuggestedTerm = z.infer<typeof suggestedTerm>;

export const importRow = z.object({
  key: z.string(),
  kind: z.enum(IMPORT_KINDS),
  label: z.string(),
  path: z.array(z.string()),
  termId: z.number().nullable(),
  what: z.array(z.string()),
});
export type ImportRow = z.infer<typeof importRow>;

export const vocabularyRoutes = {
  listVocabularies: route({
    method: 'GET',
    path: '/api/vocabulary',
    access: 'see',
    shows: 'seen',
    summary: 'The vocabularies, how many findings of each kind there are, and proposals',
    response: z.object({
      vocabularies: z.array(vocabulary),
      findings: z.record(z.enum(FINDING_KINDS), z.number()),
      proposals: z.number(),
    }),
  }),
  listColumn: route({
    method: 'GET',
    path: '/api/vocabulary/column',
    access: 'see',
    shows: 'seen',
    summary: 'The terms directly below one, in their order; without it the top terms',
    query: z.object({ parentId: id.optional() }),
    response: z.object({ terms: z.array(termRow) }),
  }),
  findTerms: route({
    method: 'GET',
    path: '/api/vocabulary/find',
    access: 'see',
    shows: 'nothing',
    summary: 'Terms by the beginning of any of their labels, the likeliest first',
    query: z.object({
      text: text.max(300),
      assignable: z.enum(['yes', 'no']).default('no').describe('yes: only such as can be given to photos'),
      limit: z.coerce.number().int().min(1).max(100).default(10),
    }),
    response: z.object({ terms: z.array(foundTerm) }),
  }),
  showTerm: route({
    method: 'GET',
    path: '/api/vocabulary/terms/:id',
    access: 'see',
    shows: 'seen',
    summary: 'All that is known of a term',
    params: idParams,
    response: termCard,
  }),
  termUses: route({
    method: 'GET',
    path: '/api/vocabulary/terms/:id/uses',
    access: 'see',
    summary: 'The photos of a term: where they are, a few of them, and what else they have',
    params: idParams,
    response: termUses,
  }),
  termHistory: route({
    method: 'GET',
    path: '/api/vocabulary/terms/:id/history',
    access: 'see',
    summary: 'What was done to a term, newest first',
    params: idParams,
    response: z.object({
      entries: z.array(z.object({ id: z.number(), at: isoTime, by: z.string(), title: z.string() })),
    }),
  }),
  showGrowth: route({
    method: 'GET',
    path: '/api/vocabulary/growth',
    access: 'see',
    shows: 'nothing',
    summary: 'How the vocabularies have grown, and the terms that were given last',
    response: vocabularyGrowth,
  }),
  listFindings: route({
    method: 'GET',
    path: '/api/vocabulary/findings',
    access: 'vocabulary',
    summary: 'What is doubtful in the vocabularies, of one kind',
    query: z.object({ kind: z.enum(FINDING_KINDS), limit: z.coerce.number().int().min(1).max(1000).default(200) }),
    response: z.object({ findings: z.array(finding) }),
  }),
  listProposals: route({
    method: 'GET',
    path: '/api/vocabulary/proposals',
    access: 'describe',
    summary: 'Proposed terms, oldest first, and what became of one’s own lately',
    response: z.object({
      proposals: z.array(
        termName.extend({
          scopeNote: z.string(),
          by: z.string(),
          photos: z.number(),
          samples: z.array(sample),
          near: z.array(termName).describe('Terms it might be already'),
        }),
      ),
      settled: z.array(z.object({ at: isoTime, title: z.string(), by: z.string(), word: z.string() })),
    }),
  }),
  impact: route({
    method: 'POST',
    path: '/api/vocabulary/impact',
    access: 'vocabulary',
    summary: 'What a change to vocabularies would touch',
    body: z.object({ change: termChange }),
    response: impact,
  }),
  listPads: route({
    method: 'GET',
    path: '/api/vocabulary/pads',
    access: 'see',
    shows: 'nothing',
    summary: 'Term pads: everybody’s and one’s own',
    response: z.object({ pads: z.array(termPad) }),
  }),
  recentTerms: route({
    method: 'GET',
    path: '/api/vocabulary/recent',
    access: 'see',
    shows: 'nothing',
    summary: 'The terms that one gave last',
    response: z.object({ terms: z.array(termName) }),
  }),
  suggestTerms: route({
    method: 'POST',
    path: '/api/vocabulary/suggestions',
    access: 'describe',
    summary: 'Terms that photos like the chosen ones usually have, too, and why',
    body: z.object({ selection }),
    response: z.object({ terms: z.array(suggestedTerm) }),
  }),
  readImport: route({
    method: 'POST',
    path: '/api/vocabulary/imports',
    access: 'vocabulary',
    summary: 'Reads the file of a vocabulary and keeps it until it is taken in',
    body: z.object({ name: text.max(255), format: z.enum(FORMAT_IDS).optional(), text: text.min(1) }),
    response: z.object({
      importId: z.uuid(),
      format: z.enum(FORMAT_IDS),
      name: z.string(),
      terms: z.number(),
      problems: z.array(z.object({ at: z.string(), message: z.string() })),
      problemCount: z.number(),
    }),
  }),
  compareImport: route({
    method: 'GET',
    path: '/api/vocabulary/imports/:importId',
    access: 'vocabulary',
    summary: 'What of a file is new, changed, moved, doubtful or gone, against a vocabulary',
    params: z.object({ importId: z.uuid() }),
    query: z.object({
      vocabularyId: id.optional().describe('None: it becomes a new one'),
      kind: z.enum(IMPORT_KINDS).optional(),
      limit: z.coerce.number().int().min(1).max(5000).default(500),
    }),
    response: z.object({ counts: z.record(z.enum(IMPORT_KINDS), z.number()), rows: z.array(importRow) }),
  }),
  exportVocabulary: route({
    method: 'GET',
    path: '/api/vocabulary/:id/export',
    access: 'see',
    shows: 'nothing',
    summary: 'A vocabulary as a file',
    params: idParams,
    query: z.object({ format: z.enum(FORMAT_IDS) }),
    response: z.unknown(),
  }),
};
