// The routes of street maps. What is no JSON stands outside the contract's table, with the same rules on who may ask.

import type { FastifyInstance } from 'fastify';
import { Readable } from 'node:stream';
import { z } from 'zod';
import { streetMapName, streetMapRoutes } from '@stellin/contract/streetMaps';
import { PICTURE_CACHE, serve } from '../serve';
import type { StreetMaps } from './streetMaps';

/** Files of streets are large: up to this, in bytes. */
const MAX_FILE_BYTES = 200 * 1024 ** 3;
const FILE = 'application/octet-stream';

const fileParams = z.object({ name: streetMapName });
const number = z.coerce.number().int().min(0);
const tileParams = fileParams.extend({ zoom: number.max(30), column: number, row: number });

export function streetMapsRoutes(app: FastifyInstance, maps: StreetMaps): void {
  serve(app, streetMapRoutes.listStreetMaps, async () => ({ maps: await maps.list() }));
  serve(app, streetMapRoutes.removeStreetMap, async ({ params }) => {
    await maps.remove(params.name);
    return { done: true as const };
  });
  app.get(
    '/api/street-maps/:name/:zoom/:column/:row',
    {
      config: { access: 'see', shows: 'nothing' },
      schema: { summary: 'A tile of a street map', tags: ['street-maps'], params: tileParams },
    },
    async (request, reply) => {
      const { name, zoom, column, row } = tileParams.parse(request.params);
      const tile = await maps.tile(name, zoom, column, row);
      reply.header('cache-control', PICTURE_CACHE);
      return tile ? reply.type(tile.mediaType).send(tile.bytes) : reply.code(204).send();
    },
  );
  void app.register((scope, _options, ready) => {
    scope.addContentTypeParser(FILE, (_request, payload, parsed) => parsed(null, payload));
    scope.put(
      '/api/street-maps/:name',
      {
        bodyLimit: MAX_FILE_BYTES,
        config: { access: 'vocabulary', shows: 'nothing' },
        schema: {
          summary: 'Keep a street map: the content of a .pmtiles file',
          tags: ['street-maps'],
          params: fileParams,
        },
      },
      async (request) => {
        const { name } = fileParams.parse(request.params);
        const content = request.body instanceof Readable ? request.body : Readable.from([]);
        await maps.add(name, content, Number(request.headers['content-length'] ?? 0));
        return { done: true };
      },
    );
    ready();
  });
}
