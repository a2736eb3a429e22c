// The routes of places and of the map.

import type { FastifyInstance } from 'fastify';
import { MAX_OLD_MAP_CHARACTERS, oldMapRoutes } from '@stellin/contract/oldMaps';
import { MAX_SKOS_CHARACTERS, placeRoutes } from '@stellin/contract/places';
import { MAX_TRACK_TEXT, trackRoutes } from '@stellin/contract/tracks';
import { idParams } from '@stellin/contract/route';
import { PICTURE_CACHE, serve } from '../serve';
import type { Clocks } from './clocks';
import type { OldMaps } from './oldMaps';
import type { Doubts } from './doubts';
import type { Places } from './service';
import type { Tracks } from './tracks';

export function placesRoutes(app: FastifyInstance, places: Places, { doubts }: Doubts): void {
  serve(app, placeRoutes.findPlaces, async ({ query, person }) => ({
    places: await places.find(person, query.text, query.limit),
  }));
  serve(app, placeRoutes.whereabouts, async ({ body }) => ({ places: await places.whereabouts(body.points) }));
  serve(app, placeRoutes.previewNames, ({ body, person }) => places.previewNames(person, body.selection));
  serve(app, placeRoutes.previewPositions, ({ body, person }) => places.previewPositions(person, body.selection));
  serve(app, placeRoutes.listOwnPlaces, async () => ({ places: await places.listOwn() }));
  serve(app, placeRoutes.exportOwnPlaces, async ({ reply }) => {
    void reply
      .type('text/turtle; charset=utf-8')
      .header('content-disposition', 'attachment; filename="places.ttl"')
      .send(await places.exportOwn());
    return reply as never;
  });
  serve(app, placeRoutes.readOwnPlaces, ({ body }) => places.readOwn(body.text), {}, MAX_SKOS_CHARACTERS * 2);
  serve(app, placeRoutes.placeDoubts, ({ person }) => doubts(person));
  serve(app, placeRoutes.showOnMap, ({ body, person }) => places.onMap(person, body.selection, body.view));
  serve(app, placeRoutes.mapOutline, ({ query }) => places.outline(query));
  serve(app, placeRoutes.mapTowns, async ({ query: { limit, ...box } }) => ({
    towns: (await places.towns(box, limit)).map(({ name, latitude, longitude, population }) => ({
      ...{ name, latitude, longitude, population },
    })),
  }));
}

export function tracksRoutes(app: FastifyInstance, tracks: Tracks, clocks: Clocks): void {
  serve(app, trackRoutes.listClocks, async ({ person }) => ({ clocks: await clocks.list(person) }));
  serve(app, trackRoutes.camerasByTime, ({ body, person }) => clocks.camerasByTime(person, body.selection));
  serve(app, trackRoutes.listTracks, async () => ({ tracks: await tracks.list() }));
  serve(
    app,
    trackRoutes.addTrack,
    async ({ body, person }) => ({ id: await tracks.add(body, person.accountId) }),
    {},
    // What is no ASCII takes more room in JSON.
    MAX_TRACK_TEXT * 2,
  );
  serve(app, trackRoutes.removeTrack, async ({ params }) => {
    await tracks.remove(params.id);
    return { done: true as const };
  });
  serve(app, trackRoutes.trackLine, async ({ params }) => ({ parts: await tracks.line(params.id) }));
  serve(app, trackRoutes.passing, async ({ body }) => ({ passing: await tracks.passing(body) }));
  serve(app, trackRoutes.previewFollowing, ({ body, person }) => tracks.preview(person, body));
}

export function oldMapsRoutes(app: FastifyInstance, oldMaps: OldMaps): void {
  serve(app, oldMapRoutes.listOldMaps, async () => ({ maps: await oldMaps.list() }));
  serve(
    app,
    oldMapRoutes.addOldMap,
    async ({ body, person }) => ({
      id: await oldMaps.add(body.name, Buffer.from(body.picture, 'base64'), person.accountId),
    }),
    {},
    MAX_OLD_MAP_CHARACTERS * 2,
  );
  serve(app, oldMapRoutes.changeOldMap, async ({ params, body }) => {
    await oldMaps.change(params.id, body);
    return { done: true as const };
  });
  serve(app, oldMapRoutes.removeOldMap, async ({ params }) => {
    await oldMaps.remove(params.id);
    return { done: true as const };
  });
  // A picture, not JSON: outside the contract's table, but with the same rules on who may ask.
  app.get(
    '/api/old-maps/:id/picture',
    { config: { access: 'see', shows: 'nothing' }, schema: { summary: 'An old map as WebP', params: idParams } },
    async (request, reply) => {
      const { id } = idParams.parse(request.params);
      reply.header('cache-control', PICTURE_CACHE).type('image/webp');
      return reply.send(await oldMaps.picture(id));
    },
  );
}
