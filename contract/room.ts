// How much room there is on the disk of the catalogue.

import { z } from 'zod';
import { route } from './route';

export const roomRoutes = {
  showRoom: route({
    method: 'GET',
    path: '/api/room',
    access: 'see',
    shows: 'nothing',
    summary: 'How much room there is on the disk of the catalogue',
    response: z.object({
      freeBytes: z.number(),
      state: z
        .enum(['enough', 'little', 'none'])
        .describe('little: somebody should make room; none: work that takes room waits until there is some'),
    }),
  }),
};
