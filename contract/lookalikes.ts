// Pictures that look alike: bursts among those that a pass goes through. Photos that look like one are found by the query language.

import { z } from 'zod';
import { MAX_PASSED } from './photos';
import { id, route } from './route';

export const lookalikeRoutes = {
  findBursts: route({
    method: 'POST',
    path: '/api/bursts',
    access: 'see',
    shows: 'seen',
    summary: 'The bursts among some photos: those that one camera took right after one another of one thing',
    body: z.object({ photoIds: z.array(id).max(MAX_PASSED) }),
    response: z.object({
      bursts: z.array(z.array(z.number())).describe('Photos of each, the sharpest first'),
      waiting: z.number().describe('How many of the photos are still to be measured: their bursts are not known yet'),
    }),
  }),
};
