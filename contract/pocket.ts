// The pocket: photos that one person puts aside, across searches.

import { z } from 'zod';
import { selection } from './photos';
import { done, route } from './route';

/** So many photos are in a pocket at most. */
export const MAX_POCKETED = 2000;

export const pocketRoutes = {
  showPocket: route({
    method: 'GET',
    path: '/api/pocket',
    access: 'see',
    shows: 'seen',
    summary: 'What is in the pocket of who asks, what was put in first coming first',
    response: z.object({ ids: z.array(z.number()), query: z.string().describe('What finds them; empty for none') }),
  }),
  changePocket: route({
    method: 'POST',
    path: '/api/pocket',
    access: 'see',
    shows: 'seen',
    summary: 'Put photos into one’s pocket or take them out',
    body: z.object({ selection, way: z.enum(['in', 'out']) }),
    response: done,
  }),
  emptyPocket: route({
    method: 'DELETE',
    path: '/api/pocket',
    access: 'see',
    shows: 'nothing',
    summary: 'Take everything out of one’s pocket',
    response: done,
  }),
};
