// What an installation serves.

import { z } from 'zod';
import { route } from './route';

export const installationRoutes = {
  installation: route({
    method: 'GET',
    path: '/api/installation',
    access: 'public',
    summary: 'What is served here: an archive, or the demo with the accounts that everybody may use',
    response: z.object({
      kind: z.enum(['archive', 'demo']),
      accounts: z
        .array(z.object({ name: z.string(), password: z.string(), role: z.string() }))
        .describe('The published accounts of the demo; none for an archive'),
    }),
  }),
};
