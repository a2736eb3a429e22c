// Several at once: who looks at, or describes, the same photos just now.

import { z } from 'zod';
import { done, id, route } from './route';

/** The most photos somebody can be shown to look at; whoever has chosen more is not shown. */
export const MAX_LOOKED_AT = 20;
/** An onlooker whose browser is silent for this long counts as gone. */
export const GONE_AFTER_MS = 45_000;

const doing = z.enum(['looking', 'describing']);

export const onlooker = z.object({ name: z.string(), doing, photoIds: z.array(z.number()) });
export type Onlooker = z.infer<typeof onlooker>;

export const onlookerRoutes = {
  lookAt: route({
    method: 'POST',
    path: '/api/onlookers',
    access: 'signedIn',
    shows: 'nothing',
    summary: 'Tell others which photos one looks at or describes; none: no longer',
    body: z.object({ photoIds: z.array(id).max(MAX_LOOKED_AT), doing }),
    response: done,
  }),
  listOnlookers: route({
    method: 'GET',
    path: '/api/onlookers',
    access: 'see',
    shows: 'seen',
    summary: 'Others who look at or describe photos just now, and which',
    response: z.object({ onlookers: z.array(onlooker) }),
  }),
};
