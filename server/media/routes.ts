// The routes of films and sounds. What is played is sent in the parts that are asked for: nothing is read whole.

import { readFile } from 'node:fs/promises';
import type { FastifyInstance } from 'fastify';
import { z } from 'zod';
import { clipPath, filmSeconds, mediaRoutes, STRETCH_LISTS, stretchListPath } from '@stellin/contract/media';
import { idParams } from '@stellin/contract/route';
import { requireSeen } from '../catalogue/seen';
import type { Database } from '../database/database';
import { filePart } from '../files/ranges';
import type { Person } from '../catalogue/viewer';
import { attachment, personOf, PICTURE_CACHE, serve } from '../serve';
import type { MediaService } from './service';
import type { Search } from '../search/service';
import { findStretches, type StretchFiles } from './stretches';

const peaks = z.array(z.number());

const listQuery = z.object({ format: z.enum(STRETCH_LISTS).default('csv') });
const clipQuery = z
  .object({ from: z.coerce.number().pipe(filmSeconds), to: z.coerce.number().pipe(filmSeconds) })
  .refine(({ from, to }) => to > from, { message: 'a clip ends after it begins' });

interface Parts {
  database: Database;
  media: MediaService;
  search: Search;
  stretches: StretchFiles;
  /** Refuses what can’t leave by somebody’s hands. */
  requireLeaving: (photoId: number, person: Person) => Promise<unknown>;
}

export function mediaRoutesFor(
  app: FastifyInstance,
  { database, media, search, stretches, requireLeaving }: Parts,
): void {
  // One closure for what its functions share; each of them fits a screen.
  serve(
    app,
    mediaRoutes.showPlayback,
    async ({ params, person }) => {
      await requireSeen(database, person, params.id);
      return media.playback(params.id);
    },
    { records: 'looked' },
  );
  serve(app, mediaRoutes.findStretches, ({ query, person }) => findStretches(database, search, person, query));
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
    stretchListPath(':id'),
    {
      config: { access: 'deliver', shows: 'seen', records: 'downloaded' },
      schema: { summary: 'The stretches of a film as CSV or EDL', params: idParams, querystring: listQuery },
    },
    async (request, reply) => {
      const { id } = idParams.parse(request.params);
      await requireLeaving(id, personOf(request));
      const { name, mediaType, text } = await stretches.list(id, listQuery.parse(request.query).format);
      reply.type(`${mediaType}; charset=utf-8`).header('cache-control', 'no-store');
      return reply.header('content-disposition', attachment(name)).send(text);
    },
  );
  app.get(
    clipPath(':id'),
    {
      config: { access: 'deliver', shows: 'seen', records: 'downloaded' },
      schema: { summary: 'A part of a film as a file of its own', params: idParams, querystring: clipQuery },
    },
    async (request, reply) => {
      const { id } = idParams.parse(request.params);
      await requireLeaving(id, personOf(request));
      const { name, mediaType, stream } = await stretches.clip(id, clipQuery.parse(request.query));
      reply.type(mediaType).header('cache-control', 'no-store').header('content-disposition', attachment(name));
      return reply.send(stream);
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
