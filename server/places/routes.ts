// The routes of places and of the map.

import type { FastifyInstance } from 'fastify';
import { placeRoutes } from '@stellin/contract/places';
import { serve } from '../serve';
import type { Places } from './service';

export function placesRoutes(app: FastifyInstance, places: Places): void {
  serve(app, placeRoutes.findPlaces, async ({ query, person }) => ({
    places: await places.find(person, query.text, query.limit),
  }));
  serve(app, placeRoutes.whereabouts, async ({ body }) => ({ places: await places.whereabouts(body.points) }));
  serve(app, placeRoutes.listOwnPlaces, async () => ({ places: await places.listOwn() }));
  serve(app, placeRoutes.showOnMap, ({ body, person }) => places.onMap(person, body.selection, body.view));
  serve(app, placeRoutes.mapOutline, ({ query }) => places.outline(query));
  serve(app, placeRoutes.mapTowns, async ({ query: { limit, ...box } }) => ({
    towns: (await places.towns(box, limit)).map(({ name, latitude, longitude, population }) => ({
      ...{ name, latitude, longitude, population },
    })),
  }));
}
