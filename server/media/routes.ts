// The routes of films and sounds. What is played is sent in the parts that are asked for: nothing is read whole.

import { readFile } from 'node:fs/promises';
import type { FastifyInstance } from 'fastify';
import { z } from 'zod';
import { mediaRoutes } from '@stellin/contract/media';
import { idParams } from '@stellin/contract/route';
import { requireSeen } from '../catalogue/seen';
import type { Database } from '../database/database';
import { filePart } from '../files/ranges';
import { personOf, PICTURE_CACHE, serve } from '../serve';
import type { MediaService } from './service';

const peaks = z.array(z.number());

export function mediaRoutesFor(app: FastifyInstance, database: Database, media: MediaService): void {
  serve(
    app,
    mediaRoutes.showPlayback,
    async ({ params, person }) => {
      await requireSeen(database, person, params.id);
      return media.playback(params.id);
    },
    { records: 'looked' },
  );
  serve(app, mediaRoutes.makePlayable, async ({ params, person }) => {
    await requireSeen(database, person, params.id);
    const { id } = await media.startCopy(params.id, person.id);
    return { id };
  });
  serve(app, mediaRoutes.showWaveform, async ({ params, person }) => {
    await requireSeen(database, person, params.id);
    return { peaks: peaks.parse(JSON.parse(await readFile(await media.waveformOf(params.id), 'utf8'))) };
  });

  // Pictures and streams, not JSON: outside the contract's table, but with the same rules on who may ask.
  app.get(
    '/api/photos/:id/strip',
    { config: { access: 'see', shows: 'seen' }, schema: { summary: 'Pictures over a film as WebP', params: idParams } },
    async (request, reply) => {
      const { id } = idParams.parse(request.params);
      await requireSeen(database, personOf(request), id);
      reply.header('cache-control', PICTURE_CACHE).type('image/webp');
      return reply.send(await readFile(await media.stripOf(id)));
    },
  );
  app.get(
    '/api/photos/:id/stream',
    {
      config: { access: 'see', shows: 'seen' },
      schema: { summary: 'A film or sound as browsers play it, by ranges', params: idParams },
    },
    async (request, reply) => {
      const { id } = idParams.parse(request.params);
      await requireSeen(database, personOf(request), id);
      const { path, mediaType } = await media.played(id);
      const part = await filePart(path, request.headers.range);
      reply.header('accept-ranges', 'bytes').header('cache-control', 'private, no-cache');
      if ('outside' in part) return reply.code(416).header('content-range', `bytes */${part.outside}`).send();
      const { stream, start, end, size, isPart } = part;
      if (isPart) reply.code(206).header('content-range', `bytes ${start}-${end}/${size}`);
      return reply
        .type(mediaType)
        .header('content-length', String(size === 0 ? 0 : end - start + 1))
        .send(stream);
    },
  );
}
