import { z } from 'zod';
import { queryTextSchema, SORTS } from './photos';
import { route } from './route';

export const savedSearch = z.object({
  id: z.number(),
  name: z.string(),
  query: z.string(),
  sort: z.enum(SORTS),
  note: z.string(),
  count: z.number().describe('What matches now'),
});
export type SavedSearch = z.infer<typeof savedSearch>;

export const suggestion = z.object({
  kind: z.enum(['term', 'folder', 'drive', 'field', 'value', 'search']),
  label: z.string(),
  detail: z.string().describe('The path of a term or folder, the help of a field'),
  query: z.string().describe('The text it stands for in the query line'),
  photos: z.number().nullable(),
});
export type Suggestion = z.infer<typeof suggestion>;

export const searchRoutes = {
  listSearches: route({
    method: 'GET',
    path: '/api/searches',
    access: 'viewer',
    summary: 'Saved searches with their counts',
    response: z.object({ searches: z.array(savedSearch) }),
  }),
  suggest: route({
    method: 'GET',
    path: '/api/suggestions',
    access: 'viewer',
    summary: 'What the text being typed could mean',
    query: z.object({
      text: z.string().max(200),
      query: queryTextSchema.default('').describe('What the result is narrowed to already'),
    }),
    response: z.object({ suggestions: z.array(suggestion) }),
  }),
};
