// The routes of taking in, and of previews and large pictures.

import { createReadStream } from 'node:fs';
import { readFile } from 'node:fs/promises';
import type { FastifyInstance } from 'fastify';
import { z } from 'zod';
import { intakeRoutes } from '@stellin/contract/intake';
import { idParams } from '@stellin/contract/route';
import { StellinError } from '../errors';
import { requireSeen } from '../catalogue/seen';
import type { Database } from '../database/database';
import { personOf, PICTURE_CACHE, serve } from '../serve';
import type { LargePictures } from './large';
import type { Linking } from './linking';
import type { Previews } from './previews';
import type { Intake } from './service';

interface IntakeServices {
  database: Database;
  intake: Intake;
  linking: Linking;
  previews: Previews;
  large: LargePictures;
}

/** How large, and of several pages which. */
const pictureQuery = z.object({
  size: z.enum(['large', 'full']).default('large'),
  page: z.coerce.number().int().min(1).max(100_000).default(1),
});

export function intakeRoutesFor(
  app: FastifyInstance,
  { database, intake, linking, previews, large }: IntakeServices,
): void {
  serve(app, intakeRoutes.takeIn, ({ body, person }) => intake.takeIn(body, person.id));
  serve(app, intakeRoutes.tryAgain, ({ body, person }) => intake.tryAgain(body.jobId, person.id));
  serve(app, intakeRoutes.lookInto, ({ query }) => intake.survey(query.driveKey));
  serve(app, intakeRoutes.browseAway, async ({ params, body, person }) => {
    await large.browseAway(params.id, body.on, person.id);
    return { done: true as const };
  });
  serve(app, intakeRoutes.listCandidates, async ({ params, query }) => ({
    candidates: await linking.candidates(params.id, query.driveId, query.folder),
  }));
  serve(app, intakeRoutes.linkPhoto, async ({ params, body }) => {
    await linking.link(params.id, body);
    return { done: true as const };
  });
  serve(app, intakeRoutes.listAccessions, async () => ({ accessions: await intake.accessions() }));

  // A picture, not JSON: outside the contract's table, but with the same rules on who may ask.
  app.get(
    '/api/photos/:id/picture',
    {
      config: { access: 'see', shows: 'seen', records: 'looked' },
      schema: { summary: 'A large picture as WebP', params: idParams },
    },
    async (request, reply) => {
      const { id } = idParams.parse(request.params);
      const { size, page } = pictureQuery.parse(request.query);
      await requireSeen(database, personOf(request), id);
      const file = await large.fileOf(id, size, page);
      reply.header('cache-control', PICTURE_CACHE).type('image/webp');
      return reply.send(createReadStream(file));
    },
  );
  app.get(
    '/api/photos/:id/preview',
    { config: { access: 'see', shows: 'seen' }, schema: { summary: 'The preview as WebP', params: idParams } },
    async (request, reply) => {
      const { id } = idParams.parse(request.params);
      await requireSeen(database, personOf(request), id);
      const file = await previews.fileOf(id);
      if (!file) throw new StellinError('noPreview', { why: 'its drive is away, or the file can’t be decoded.' });
      reply.header('cache-control', PICTURE_CACHE).type('image/webp');
      return reply.send(await readFile(file));
    },
  );
}
