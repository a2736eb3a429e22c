// Stepping to the folder, day, month or event beside where one is, and the places that a person has pinned.

import { z } from 'zod';
import { STEP_KINDS } from '@stellin/core/stepping/stepping';
import { queryTextSchema } from './photos';
import { chosenId, done, id, route } from './route';

export const PIN_KINDS = ['folder', 'dossier', 'search'] as const;
export const MAX_PINNED = 50;

const pinnedPlace = z.object({
  kind: z.enum(PIN_KINDS),
  id: chosenId.describe('Of the folder, dossier or saved search'),
});
export type PinnedPlace = z.infer<typeof pinnedPlace>;

export const steppingRoutes = {
  step: route({
    method: 'GET',
    path: '/api/step',
    access: 'see',
    shows: 'seen',
    summary: 'Where the next or former folder, day, month or event is, from a photo or from what a query finds',
    query: z.object({
      kind: z.enum(STEP_KINDS),
      direction: z.enum(['next', 'before']),
      photo: id.optional().describe('Where one is; else the first photo that the query finds'),
      query: queryTextSchema.default('').describe('What is shown now: what it asks besides stays'),
    }),
    response: z.object({
      to: z.object({ query: z.string(), label: z.string() }).nullable().describe('Null: there is none'),
    }),
  }),
  listPinned: route({
    method: 'GET',
    path: '/api/pinned',
    access: 'see',
    shows: 'nothing',
    summary: 'The folders, dossiers and saved searches that who asks has pinned, in their order',
    response: z.object({ pinned: z.array(pinnedPlace) }),
  }),
  setPinned: route({
    method: 'POST',
    path: '/api/pinned',
    access: 'see',
    shows: 'nothing',
    summary: 'Say which are pinned for oneself, in which order',
    body: z.object({ pinned: z.array(pinnedPlace).max(MAX_PINNED) }),
    response: done,
  }),
};
