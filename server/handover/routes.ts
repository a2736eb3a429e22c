// The routes of handing over.

import type { FastifyInstance } from 'fastify';
import { z } from 'zod';
import { handoverRoutes, returnedPicturePath } from '@stellin/contract/handover';
import { id } from '@stellin/contract/route';
import { serve } from '../serve';
import type { Handovers } from './service';

const pictureParams = z.object({ id: z.uuid(), returned: id });

export function handoverRoutesFor(app: FastifyInstance, handovers: Handovers): void {
  serve(app, handoverRoutes.listPrograms, () => handovers.programs());
  serve(app, handoverRoutes.listReturned, ({ params, query, person }) => handovers.returned(params.id, query, person));
  serve(app, handoverRoutes.takeReturned, async ({ params, body, person }) => ({
    jobs: await handovers.take(params.id, body.ids, person),
  }));
  serve(app, handoverRoutes.leaveReturned, async ({ params, body }) => {
    await handovers.leave(params.id, body.ids);
    return { done: true as const };
  });
  serve(app, handoverRoutes.lookForReturned, ({ params }) => handovers.look(params.id));
  serve(app, handoverRoutes.closeHandover, ({ params }) => handovers.end(params.id));

  // A picture, not JSON: outside the contract's table, but with the same rules on who may ask.
  app.get(
    returnedPicturePath(':id', ':returned'),
    {
      config: { access: 'files', shows: 'all' },
      schema: { summary: 'A small picture of a file that came back', params: pictureParams },
    },
    async (request, reply) => {
      const { id: deliveryId, returned } = pictureParams.parse(request.params);
      const picture = await handovers.picture(deliveryId, returned);
      return reply.type('image/jpeg').header('cache-control', 'no-store').send(picture);
    },
  );
}
