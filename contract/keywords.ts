// Keywords that files bring, and what is decided about them.

import { z } from 'zod';
import { REASONS } from '@stellin/core/vocabulary/matching';
import { who } from './people';
import { id, route, text } from './route';
import { termName } from './termName';

export const KEYWORD_SOURCES = ['keywords', 'folders'] as const;

export const incomingKeyword = z.object({
  keyword: z.string(),
  photos: z.number(),
  samples: z
    .array(z.object({ id: z.number(), previewVersion: z.number() }))
    .describe('Up to three photos that have it'),
  person: z
    .object({ id: z.number(), name: z.string(), same: z.boolean().describe('Called just so, not almost') })
    .nullable()
    .describe('The person it probably names'),
  proposal: z.object({ term: termName, why: z.enum(REASONS) }).nullable(),
});
export type IncomingKeyword = z.infer<typeof incomingKeyword>;

export const DECISIONS = ['term', 'keep', 'drop'] as const;

/** What becomes of a keyword: a term of the vocabulary (there already, or made now), a person, a free keyword, or nothing. */
export const keywordDecision = z.discriminatedUnion('decision', [
  z.object({ keyword: text.min(1), decision: z.literal('term'), termId: id }),
  z.object({
    keyword: text.min(1),
    decision: z.literal('new'),
    label: text.trim().min(1).max(200),
    parentId: id.nullable(),
  }),
  z.object({
    keyword: text.min(1),
    decision: z.literal('person').describe('It names somebody; as a keyword it stays in the files'),
    who,
  }),
  z.object({ keyword: text.min(1), decision: z.literal('keep') }),
  z.object({ keyword: text.min(1), decision: z.literal('drop') }),
]);
export type KeywordDecision = z.infer<typeof keywordDecision>;

export const keywordRoutes = {
  listIncoming: route({
    method: 'GET',
    path: '/api/keywords/incoming',
    access: 'describe',
    summary:
      'Keywords of files (or names of folders) that are not settled yet, the most frequent first, with a proposed term',
    query: z.object({
      source: z.enum(KEYWORD_SOURCES).default('keywords'),
      accession: id.optional().describe('Only of this taking-in'),
      limit: z.coerce.number().int().min(0).max(1000).default(1000).describe('0 asks for their number alone'),
      levels: z.coerce
        .number()
        .int()
        .min(1)
        .max(20)
        .default(1)
        .describe('Of folders: how many, counted from the photo up'),
    }),
    response: z.object({
      keywords: z.array(incomingKeyword),
      total: z.number().describe('With rarer ones that are not listed'),
    }),
  }),
};
