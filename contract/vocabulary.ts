import { z } from 'zod';
import { route } from './route';

export const otherLabel = z.object({
  kind: z.enum(['alternative', 'hidden']),
  language: z.string().max(35).describe('BCP 47; empty for the vocabulary’s own language'),
  label: z.string().min(1).max(200),
});

export const term = z.object({
  id: z.number(),
  parentId: z.number().nullable(),
  label: z.string(),
  heading: z.boolean(),
  writeBroader: z.boolean(),
  scopeNote: z.string(),
  otherLabels: z.array(otherLabel),
  photos: z.number().describe('Given to them directly'),
  photosWithin: z.number().describe('Given to them, it or a narrower term'),
});
export type TermWithCounts = z.infer<typeof term>;

export const vocabularyRoutes = {
  listTerms: route({
    method: 'GET',
    path: '/api/vocabulary',
    access: 'viewer',
    summary: 'All terms with their use',
    response: z.object({ terms: z.array(term) }),
  }),
};
