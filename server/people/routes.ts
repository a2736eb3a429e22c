// The routes of persons and faces.

import type { FastifyInstance } from 'fastify';
import { z } from 'zod';
import { peopleRoutes } from '@stellin/contract/people';
import { idParams } from '@stellin/contract/route';
import { StellinError } from '../errors';
import { personOf, PICTURE_CACHE, serve } from '../serve';
import type { Scanning } from './scanning';
import type { People } from './service';

const pictureQuery = z.object({ v: z.coerce.number().int().optional() });

export function peopleRoutesFor(
  app: FastifyInstance,
  { people, scanning }: { people: People; scanning: Scanning },
): void {
  serve(app, peopleRoutes.listPersons, async ({ person }) => ({ persons: await people.listPersons(person) }));
  serve(app, peopleRoutes.showPerson, ({ params, person }) => people.show(person, params.id));
  serve(app, peopleRoutes.listLikenessGroups, ({ query }) => people.groups(query));
  serve(app, peopleRoutes.facesOfPhoto, ({ params, person }) => people.ofPhoto(person, params.id));
  serve(app, peopleRoutes.peopleOfSelection, ({ body, person }) => people.ofSelection(person, body.selection));
  serve(app, peopleRoutes.findLike, async ({ body }) => ({ faces: await people.findLike(body) }), {
    records: 'searchedByFace',
  });
  serve(app, peopleRoutes.listNames, async () => ({ names: await people.names() }));
  serve(app, peopleRoutes.scanState, () => people.scanState());
  serve(app, peopleRoutes.scan, async ({ person }) => {
    await scanning.start(person.id);
    return { done: true as const };
  });
  serve(app, peopleRoutes.setException, async ({ body }) => {
    await people.setException(body);
    return { done: true as const };
  });
  serve(app, peopleRoutes.forgetFaces, async ({ body }) => ({ faces: await people.forget(body.personId) }));

  // A picture, not JSON: outside the contract's table, but with the same rules on who may ask.
  app.get(
    '/api/faces/:id/picture',
    {
      config: { access: 'see', shows: 'seen' },
      schema: { summary: 'A small picture of a face as WebP', params: idParams, querystring: pictureQuery },
    },
    async (request, reply) => {
      const picture = await people.picture(personOf(request), idParams.parse(request.params).id);
      if (!picture) throw new StellinError('noPreview', { why: 'the face is gone, or its picture can’t be decoded.' });
      // One that is asked for without its version may be another one soon: a photo is turned.
      const isVersioned = pictureQuery.parse(request.query).v !== undefined;
      reply.header('cache-control', isVersioned ? PICTURE_CACHE : 'private, max-age=60').type('image/webp');
      return reply.send(picture);
    },
  );
}
