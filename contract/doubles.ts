// Photos that are one picture, or look alike.

import { z } from 'zod';
import { photo } from './photos';
import { id, route } from './route';

/** `same`: the coded picture is the same; `alike`: they look alike, and may be two versions of one picture. */
export const DOUBLE_KINDS = ['same', 'alike'] as const;
export type DoubleKind = (typeof DOUBLE_KINDS)[number];

export const doublePhoto = photo.extend({
  driveLabel: z.string(),
  folderPath: z.string(),
  sizeBytes: z.number(),
  terms: z.number().describe('How many terms it has'),
});
export type DoublePhoto = z.infer<typeof doublePhoto>;

export const doubleRoutes = {
  listDoubles: route({
    method: 'GET',
    path: '/api/doubles',
    access: 'see',
    shows: 'seen',
    summary: 'Groups of photos that are one picture, or look alike, by the first taken in',
    query: z.object({
      kind: z.enum(DOUBLE_KINDS).default('same'),
      after: id.optional().describe('Where the page before ended'),
      limit: z.coerce.number().int().min(1).max(100).default(20),
    }),
    response: z.object({
      groups: z.array(z.array(doublePhoto)),
      next: z.number().nullable().describe('Where the next page begins; null at the end'),
    }),
  }),
  countDoubles: route({
    method: 'GET',
    path: '/api/doubles/count',
    access: 'see',
    shows: 'seen',
    summary: 'How many groups of photos are one picture, and how many photos could go',
    response: z.object({ groups: z.number(), surplus: z.number(), bytes: z.number().describe('Of the surplus') }),
  }),
};
