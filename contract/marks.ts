// The marks of the team.

import { z } from 'zod';
import { MARK_COLOURS } from '@stellin/core/describing/marks';
import { route } from './route';

export const mark = z.object({
  id: z.number(),
  name: z.string(),
  letter: z.string().describe('Its key on the Desk'),
  colour: z.enum(MARK_COLOURS),
  photos: z.number(),
});
export type Mark = z.infer<typeof mark>;

export const markRoutes = {
  listMarks: route({
    method: 'GET',
    path: '/api/marks',
    access: 'see',
    shows: 'seen',
    summary: 'The marks of the team',
    response: z.object({ marks: z.array(mark) }),
  }),
};
