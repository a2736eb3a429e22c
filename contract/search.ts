// Finding: saved searches, suggestions, facets, the time ruler, why a photo is found.

import { z } from 'zod';
import { FACETS, isOwnFacet, type FacetId } from '@stellin/core/search/facets';
import type { Explanation as Explained } from '@stellin/core/search/explaining';
import { RULER_UNITS } from '@stellin/core/search/ruler';
import { SORTS } from '@stellin/core/search/sorts';
import { queryTextSchema } from './photos';
import { id, route, text } from './route';

/** Names of folders from the top down, with / between. */
export const searchFolder = text
  .trim()
  .max(300)
  .overwrite((text) =>
    text
      .split('/')
      .map((name) => name.trim())
      .filter(Boolean)
      .join('/'),
  );

/** How long the name of a saved search is at most, in characters. */
export const MAX_SEARCH_NAME = 200;

/** What a saved search is, without what it finds: also the form in which it is exported. */
export const searchDefinition = z.object({
  name: text.trim().min(1).max(MAX_SEARCH_NAME),
  query: queryTextSchema,
  sort: z.enum(SORTS),
  note: text.max(5000).default(''),
  folder: searchFolder.default(''),
  pinned: z.boolean().default(false).describe('Stands on Holdings'),
  scope: queryTextSchema.default('').describe('What it is asked within; empty for the whole catalogue'),
  size: z.number().int().min(60).max(600).nullable().default(null).describe('Height of the rows of the sheet'),
});
export type SearchDefinition = z.infer<typeof searchDefinition>;

/** What a person says of a saved search besides what it asks. */
export const searchDescription = z.object({
  name: searchDefinition.shape.name,
  folder: searchFolder,
  note: text.max(5000),
  pinned: z.boolean(),
});

/** A file of saved searches. */
export const searchFile = z.object({
  kind: z.literal('stellin saved searches'),
  searches: z.array(searchDefinition).max(5000),
});

export const savedSearch = searchDefinition.extend({
  id: z.number(),
  dossierId: z.number().nullable().describe('The dossier of the project within which it is asked'),
  asks: z.string().describe('Scope and query together'),
  count: z.number().describe('What matches now'),
  problems: z.array(z.string()).describe('What of it can’t be understood'),
});
export type SavedSearch = z.infer<typeof savedSearch>;

export const suggestion = z.object({
  kind: z.enum(['term', 'person', 'place', 'folder', 'drive', 'camera', 'lens', 'dossier', 'search', 'field', 'value']),
  label: z.string(),
  detail: z.string().describe('The path of a term or folder, the help of a field'),
  query: z.string().describe('The text it stands for in the query line'),
  photos: z.number().nullable().describe('How many of the present result have it'),
});
export type Suggestion = z.infer<typeof suggestion>;

/** So many facets are counted at a time. */
export const MAX_FACETS = 60;
const FACET_IDS = new Set<string>(FACETS.map(({ id }) => id));
const facetId = z.custom<FacetId>((id) => typeof id === 'string' && (FACET_IDS.has(id) || isOwnFacet(id)), {
  message: 'there is no such facet',
});

export const facetValue = z.object({
  label: z.string(),
  detail: z.string().describe('The path of a term'),
  query: z.string().describe('The condition it stands for'),
  photos: z.number(),
  chosen: z.enum(['any', 'none']).nullable().describe('Asked for, or left out, by the query'),
  termId: z.number().nullable(),
  narrower: z.boolean().describe('Whether there are narrower terms'),
});
export type FacetValue = z.infer<typeof facetValue>;

export const facet = z.object({
  id: facetId,
  values: z.array(facetValue).describe('Those chosen first, then the most frequent'),
  distinct: z.number().describe('How many different values there are'),
  missing: z
    .object({ query: z.string(), photos: z.number(), chosen: z.boolean() })
    .nullable()
    .describe('Photos that have none'),
});
export type FacetResult = z.infer<typeof facet>;

export const explanation: z.ZodType<Explained> = z.lazy(() =>
  z.object({
    kind: z.enum(['everything', 'all', 'any', 'not', 'words', 'phrase', 'criterion']),
    text: z.string(),
    met: z.boolean(),
    own: z.string(),
    of: z.array(explanation),
  }),
);

const query = queryTextSchema.default('');
const time = text.regex(/^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}:\d{2}$/);

export const searchRoutes = {
  listSearches: route({
    method: 'GET',
    path: '/api/searches',
    access: 'see',
    shows: 'seen',
    summary: 'Saved searches with their counts',
    response: z.object({ searches: z.array(savedSearch) }),
  }),
  exportSearches: route({
    method: 'GET',
    path: '/api/searches/export',
    access: 'see',
    shows: 'seen',
    summary: 'The definitions of all saved searches',
    response: searchFile,
  }),
  recentSearches: route({
    method: 'GET',
    path: '/api/searches/recent',
    access: 'see',
    shows: 'nothing',
    summary: 'What one has asked last, the latest first',
    response: z.object({ searches: z.array(z.object({ query: z.string(), sort: z.enum(SORTS), at: z.string() })) }),
  }),
  rememberSearch: route({
    method: 'POST',
    path: '/api/searches/recent',
    access: 'see',
    shows: 'nothing',
    summary: 'Keep a query among those one has asked',
    body: z.object({ query: queryTextSchema.min(1), sort: z.enum(SORTS) }),
    response: z.object({}),
  }),
  suggest: route({
    method: 'GET',
    path: '/api/suggestions',
    access: 'see',
    shows: 'seen',
    summary: 'What the text being typed could mean',
    query: z.object({
      text: text.max(200),
      query: query.describe('What the result is narrowed to already'),
    }),
    response: z.object({ suggestions: z.array(suggestion) }),
  }),
  facets: route({
    method: 'GET',
    path: '/api/facets',
    access: 'see',
    shows: 'seen',
    summary: 'What the photos of a result have, by facet: each counted without its own choice in the query',
    query: z.object({
      query,
      facets: text
        .max(30_000)
        .transform((text, context) => {
          try {
            return text.split(',').map((id) => decodeURIComponent(id));
          } catch {
            context.addIssue('the ids are not URL-encoded');
            return z.NEVER;
          }
        })
        .pipe(z.array(facetId).min(1).max(MAX_FACETS))
        .describe('Ids with commas between, each URL-encoded; `own:` and the name of a field of a project'),
      limit: z.coerce.number().int().min(1).max(500).default(12),
      containing: text.max(200).default('').describe('Only values whose label has this'),
      under: id.optional().describe('Of terms: those directly below this one; else the top ones'),
    }),
    response: z.object({ facets: z.array(facet), milliseconds: z.number() }),
  }),
  ruler: route({
    method: 'GET',
    path: '/api/ruler',
    access: 'see',
    shows: 'seen',
    summary: 'How many photos of a result were taken when, without regard to the years it asks for',
    query: z.object({ query, from: time.optional(), to: time.optional() }),
    response: z.object({
      unit: z.enum(RULER_UNITS),
      stretches: z.array(z.object({ from: time, to: time, query: z.string(), photos: z.number() })),
      missing: z.number().describe('Photos without a date'),
      whole: z.object({ from: time, to: time }).nullable().describe('From the first to the last photo'),
      chosen: z.object({ from: time.nullable(), to: time.nullable() }).nullable().describe('What the query asks for'),
    }),
  }),
  why: route({
    method: 'POST',
    path: '/api/why',
    access: 'see',
    shows: 'seen',
    summary: 'Why a photo is in a result, or is not',
    body: z.object({
      query: queryTextSchema,
      photo: z.union([id, text.trim().min(1).max(1000)]).describe('Its id; or its name, or drive and path'),
    }),
    response: z.object({
      candidates: z
        .array(z.object({ photoId: z.number(), path: z.string() }))
        .describe('Photos of that name, when there are several'),
      why: z
        .object({
          photoId: z.number(),
          path: z.string(),
          shown: z.boolean().describe('Whether the result shows it'),
          remark: z.string().describe('Why the result shows it otherwise than its conditions say'),
          explanation,
        })
        .nullable(),
    }),
  }),
};
