// Street maps: files of map tiles (PMTiles, an open format) that are laid over the outlines.

import { z } from 'zod';
import { latitude, longitude } from './places';
import { done, route, text } from './route';

/** What a file of tiles may be called: no path, and nothing hidden. */
export const streetMapName = text.max(200).regex(/^[^./\\][^/\\]*\.pmtiles$/i, 'is no name of a .pmtiles file');

export const shownStreetMap = z.object({
  kind: z.enum(['vector', 'picture']),
  minZoom: z.number().int().min(0).max(30),
  maxZoom: z.number().int().min(0).max(30),
  box: z.object({ south: latitude, west: longitude, north: latitude, east: longitude }),
  attribution: z.string().describe('Whose data it shows, without markup'),
});
export type ShownStreetMap = z.infer<typeof shownStreetMap>;

const streetMap = z.object({
  name: z.string().describe('The name of its file'),
  bytes: z.number(),
  version: z.string().describe('Another one when the file is another one'),
  problem: z.string().nullable().describe('Why it can’t be shown'),
  shown: shownStreetMap.nullable().describe('Null where it can’t be'),
});
export type StreetMapRow = z.infer<typeof streetMap>;

export const streetMapRoutes = {
  listStreetMaps: route({
    method: 'GET',
    path: '/api/street-maps',
    access: 'see',
    shows: 'nothing',
    summary: 'Street maps in the data folder, by name',
    response: z.object({ maps: z.array(streetMap) }),
  }),
  removeStreetMap: route({
    method: 'DELETE',
    path: '/api/street-maps/:name',
    access: 'vocabulary',
    shows: 'nothing',
    summary: 'Delete the file of a street map',
    params: z.object({ name: streetMapName }),
    response: done,
  }),
};
