// The routes of where accessions come from.

import type { FastifyInstance } from 'fastify';
import { accessionRoutes, MAX_PAPER_CHARACTERS } from '@stellin/contract/accessions';
import { idParams } from '@stellin/contract/route';
import { attachment, serve } from '../serve';
import type { Accessions } from './service';

export function accessionsRoutes(app: FastifyInstance, accessions: Accessions): void {
  serve(app, accessionRoutes.showProvenance, ({ params }) => accessions.show(params.id));
  serve(
    app,
    accessionRoutes.addPaper,
    async ({ params, body, person }) => {
      await accessions.addPaper(params.id, body.name, Buffer.from(body.content, 'base64'), person.accountId);
      return { done: true as const };
    },
    {},
    MAX_PAPER_CHARACTERS * 2,
  );
  serve(app, accessionRoutes.removePaper, async ({ params }) => {
    await accessions.removePaper(params.id);
    return { done: true as const };
  });
  // A file, not JSON: outside the contract's table, but with the same rules on who may ask. Nothing of it is shown by the browser itself.
  app.get(
    '/api/papers/:id',
    { config: { access: 'intake', shows: 'all' }, schema: { summary: 'A paper of an accession', params: idParams } },
    async (request, reply) => {
      const { name, content } = await accessions.paper(idParams.parse(request.params).id);
      reply
        .header('cache-control', 'no-store')
        .header('content-disposition', attachment(name))
        .type('application/octet-stream');
      return reply.send(content);
    },
  );
}
