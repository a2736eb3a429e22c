// The routes of places and of the map.

import type { FastifyInstance } from 'fastify';
import { placeRoutes } from '@stellin/contract/places';
import { MAX_TRACK_TEXT, trackRoutes } from '@stellin/contract/tracks';
import { serve } from '../serve';
import type { Places } from './service';
import type { Tracks } from './tracks';

export function placesRoutes(app: FastifyInstance, places: Places): void {
  serve(app, placeRoutes.findPlaces, async ({ query, person }) => ({
    places: await places.find(person, query.text, query.limit),
  }));
  serve(app, placeRoutes.whereabouts, async ({ body }) => ({ places: await places.whereabouts(body.points) }));
  serve(app, placeRoutes.previewNames, ({ body, person }) => places.previewNames(person, body.selection));
  serve(app, placeRoutes.previewPositions, ({ body, person }) => places.previewPositions(person, body.selection));
  serve(app, placeRoutes.listOwnPlaces, async () => ({ places: await places.listOwn() }));
  serve(app, placeRoutes.showOnMap, ({ body, person }) => places.onMap(person, body.selection, body.view));
  serve(app, placeRoutes.mapOutline, ({ query }) => places.outline(query));
  serve(app, placeRoutes.mapTowns, async ({ query: { limit, ...box } }) => ({
    towns: (await places.towns(box, limit)).map(({ name, latitude, longitude, population }) => ({
      ...{ name, latitude, longitude, population },
    })),
  }));
}

export function tracksRoutes(app: FastifyInstance, tracks: Tracks): void {
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
  serve(app, trackRoutes.previewFollowing, ({ body, person }) => tracks.preview(person, body));
}
