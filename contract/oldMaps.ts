// Pictures of old maps, laid over the map by pins.

import { z } from 'zod';
import { latitude, longitude } from './places';
import { done, idParams, isoTime, route, text } from './route';

const pin = z.object({
  x: z.number().min(-100_000).max(100_000).describe('Pixels from the left of the picture'),
  y: z.number().min(-100_000).max(100_000).describe('Pixels from its top'),
  latitude: latitude.min(-85).max(85),
  longitude,
});

const oldMapShape = z.object({
  name: text.trim().min(1).max(200),
  note: text.max(5000).default('').describe('Where it comes from'),
  pins: z.array(pin).max(200).default([]).describe('Two or more lay it over the map'),
});

const oldMap = oldMapShape.extend({
  id: z.number(),
  width: z.number(),
  height: z.number(),
  addedAt: isoTime,
  addedBy: z.string().nullable(),
});
export type OldMapRow = z.infer<typeof oldMap>;

/** The largest picture that is taken, as base64. */
export const MAX_OLD_MAP_CHARACTERS = 60_000_000;

export const oldMapRoutes = {
  listOldMaps: route({
    method: 'GET',
    path: '/api/old-maps',
    access: 'see',
    shows: 'nothing',
    summary: 'Pictures of old maps, by name',
    response: z.object({ maps: z.array(oldMap) }),
  }),
  addOldMap: route({
    method: 'POST',
    path: '/api/old-maps',
    access: 'vocabulary',
    shows: 'nothing',
    summary: 'Keep a picture of an old map; one that is very large is kept smaller',
    body: oldMapShape.pick({ name: true }).extend({ picture: z.base64().max(MAX_OLD_MAP_CHARACTERS) }),
    response: z.object({ id: z.number() }),
  }),
  changeOldMap: route({
    method: 'POST',
    path: '/api/old-maps/:id',
    access: 'vocabulary',
    shows: 'nothing',
    summary: 'Name an old map, and say where spots of it are',
    params: idParams,
    body: oldMapShape,
    response: done,
  }),
  removeOldMap: route({
    method: 'DELETE',
    path: '/api/old-maps/:id',
    access: 'vocabulary',
    shows: 'nothing',
    summary: 'Keep a picture of an old map no longer',
    params: idParams,
    response: done,
  }),
};
