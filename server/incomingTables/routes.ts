// The routes of tables that come in. What is no JSON stands outside the contract's table, with the same rules on who may ask.

import type { FastifyInstance } from 'fastify';
import { Readable } from 'node:stream';
import { z } from 'zod';
import { incomingTableRoutes } from '@stellin/contract/incomingTables';
import { idParams, text } from '@stellin/contract/route';
import { attachment, personOf, serve } from '../serve';
import type { IncomingTables } from './service';

const FILE = 'application/octet-stream';
const fileParams = z.object({ name: text.min(1).max(255) });

export function incomingTableRoutesFor(app: FastifyInstance, tables: IncomingTables): void {
  serve(app, incomingTableRoutes.listIncomingTables, async ({ person }) => ({ tables: await tables.list(person) }));
  serve(app, incomingTableRoutes.showIncomingTable, ({ params, person }) => tables.show(params.id, person));
  serve(app, incomingTableRoutes.readTableAgain, ({ params, body, person }) =>
    tables.readAgain(params.id, body, person),
  );
  serve(app, incomingTableRoutes.useIncomingTable, ({ params, body, person }) => tables.use(params.id, body, person));
  serve(app, incomingTableRoutes.listIncomingRows, ({ params, query, person }) =>
    tables.rows(params.id, query, person),
  );
  serve(app, incomingTableRoutes.listIncomingWords, ({ params, query, person }) =>
    tables.words(params.id, query, person),
  );
  serve(app, incomingTableRoutes.previewIncomingTable, ({ params, query, person }) =>
    tables.preview(params.id, query, person),
  );
  serve(app, incomingTableRoutes.removeIncomingTable, async ({ params, person }) => {
    await tables.remove(params.id, person);
    return { done: true as const };
  });

  app.get(
    '/api/incoming-tables/:id/rest.csv',
    {
      config: { access: 'describe', shows: 'seen' },
      schema: { summary: 'Rows of a table that were not taken in, or not wholly', params: idParams },
    },
    async (request, reply) => {
      const { id } = idParams.parse(request.params);
      const { name, content } = await tables.rest(id, personOf(request));
      return reply
        .type('text/csv; charset=utf-8')
        .header('content-disposition', attachment(name))
        .header('cache-control', 'no-store')
        .send(content);
    },
  );
  void app.register((scope, _options, ready) => {
    scope.addContentTypeParser(FILE, (_request, payload, parsed) => parsed(null, payload));
    scope.put(
      '/api/incoming-tables/files/:name',
      {
        config: { access: 'describe', shows: 'seen' },
        schema: { summary: 'Bring a table in: the content of its file', params: fileParams },
      },
      async (request) => {
        const { name } = fileParams.parse(request.params);
        const content = request.body instanceof Readable ? request.body : Readable.from([]);
        return {
          id: await tables.add(name, content, Number(request.headers['content-length'] ?? 0), personOf(request)),
        };
      },
    );
    ready();
  });
}
