// Places: looking them up by name and by where they lie, the archive's own ones, and what the map shows.

import { z } from 'zod';
import type { NamesOfPlace } from '@stellin/core/describing/placing';
import { MAX_CELLS, cellsOf } from '@stellin/core/search/index/mapCells';
import { PLACE_KINDS } from '@stellin/core/timeplace/ownPlaces';
import { selection } from './photos';
import { id, route, text } from './route';

export const latitude = z.number().min(-90).max(90).describe('Decimal degrees, south negative');
export const longitude = z.number().min(-180).max(180).describe('Decimal degrees, west negative');
export const point = z.object({ latitude, longitude });

const year = text
  .trim()
  .regex(/^\d{0,4}$/, 'a year, or nothing')
  .default('');

/** What a person says of an own place. */
export const ownPlaceShape = z.object({
  parentId: id.nullable().describe('The place it lies in'),
  kind: z.enum(PLACE_KINDS),
  name: text.trim().min(1).max(100),
  otherNames: z
    .array(z.object({ name: text.trim().min(1).max(100), from: year, until: year }))
    .max(50)
    .default([])
    .describe('Other and former names, these with the years in which it was called so'),
  countryCode: text
    .trim()
    .regex(/^([A-Z]{2,3})?$/, 'is no country code like NL')
    .default('')
    .describe('ISO 3166-1, of a country'),
  note: text.max(5000).default(''),
  point: point.nullable().default(null).describe('Its middle'),
  metres: z
    .number()
    .int()
    .min(1)
    .max(1_000_000)
    .nullable()
    .default(null)
    .describe('How far it reaches; null: as is usual'),
  corners: z.array(point).min(3).max(500).nullable().default(null).describe('Its outline, instead of a circle'),
  geonamesId: id.nullable().default(null).describe('The place of the gazetteer that it is, by its number at GeoNames'),
  termId: id.nullable().default(null).describe('The term that stands for it'),
});
export type OwnPlaceForm = z.infer<typeof ownPlaceShape>;

const said = text.max(1000);

/** Names of a place as somebody sends them. */
export const givenNames = z.object({
  sublocation: said,
  city: said,
  provinceState: said,
  country: said,
  countryCode: said,
});

const rewrite = z
  .boolean()
  .default(false)
  .describe('Photos that say what it was called, and what it lay in, say what it is now');

/** A place of a file: what it lies in is meant by its position in the list. */
export const readPlace = ownPlaceShape
  .omit({ parentId: true, termId: true })
  .extend({ parent: z.number().int().min(0).nullable() });
export type ReadPlaceRow = z.output<typeof readPlace>;

/** So many places are taken in at once. */
export const MAX_READ_PLACES = 5000;

/** The changes to own places: entries of the union of changes. */
export const placeChanges = [
  ownPlaceShape.extend({
    kind: z.literal('saveOwnPlace'),
    placeKind: ownPlaceShape.shape.kind,
    placeId: id.nullable(),
    rewrite,
  }),
  z.object({
    kind: z.literal('mergeOwnPlaces'),
    placeId: id.describe('Becomes a part of the other: its names are other names of it, what lies in it lies in that'),
    intoId: id,
    rewrite,
  }),
  z.object({ kind: z.literal('removeOwnPlace'), placeId: id.describe('With all that lies in it') }),
  z.object({
    kind: z.literal('importOwnPlaces'),
    places: z
      .array(readPlace)
      .min(1)
      .max(MAX_READ_PLACES)
      .refine(
        (places) => places.every(({ parent }, i) => parent === null || parent < i),
        'stands before what it lies in',
      )
      .describe(
        'Each behind the one it lies in, which is meant by its position; those that are there already get what they lack',
      ),
  }),
  z.object({
    kind: z.literal('leavePlaceNames'),
    names: givenNames.describe('That no place knows: they are right, and not asked about any more'),
  }),
] as const;

export const ownPlace = ownPlaceShape.extend({
  id: z.number(),
  path: z.array(z.string()).describe('The names of what it lies in, the widest first'),
  query: z.string().describe('What finds photos that say it'),
  termLabel: z.string().nullable(),
});
export type OwnPlaceRow = z.infer<typeof ownPlace>;

export const foundPlace = z.object({
  kind: z.enum(PLACE_KINDS),
  ownId: z.number().nullable().describe('An own place of the archive'),
  name: z.string(),
  detail: z.string().describe('What it lies in'),
  latitude: latitude.nullable(),
  longitude: longitude.nullable(),
  population: z.number().describe('0: not known'),
  geonamesId: z.number().nullable().describe('Its number at GeoNames, where it is a town of the gazetteer'),
});
export type FoundPlace = z.infer<typeof foundPlace>;

/** The fields that say where a photo was taken, as a place fills them. */
export const placeNames: z.ZodType<NamesOfPlace> = z.object({
  sublocation: z.string(),
  city: z.string(),
  provinceState: z.string(),
  country: z.string(),
  countryCode: z.string(),
});

export const whereabouts = z.object({
  names: placeNames,
  ownId: z.number().nullable().describe('The own place that holds the point'),
  town: z.string().describe('The nearest town of the gazetteer'),
  metres: z.number().describe('How far its middle is; -1 where there is none'),
});
export type Whereabouts = z.infer<typeof whereabouts>;

export const mapView = z
  .object({
    south: latitude,
    west: longitude.describe('Greater than east across the date line'),
    north: latitude,
    east: longitude,
    level: z.number().int().min(0).max(24).describe('The world is 2 to the power of this many cells wide'),
  })
  .refine((view) => view.south <= view.north, 'south lies north of north')
  .refine((view) => {
    const { columns, rows } = cellsOf(view);
    return columns * rows <= MAX_CELLS;
  }, 'is cut into too many cells');

export const mapCell = z.object({
  latitude: z.number(),
  longitude: z.number(),
  photos: z.number(),
  named: z.number().describe('How many of them say the name of a place'),
  photoId: z.number().describe('One of them'),
  previewVersion: z.number(),
});
export type MapCell = z.infer<typeof mapCell>;

/** Photos about which there is the same doubt. */
const doubtful = z.object({
  query: z.string().describe('What finds them'),
  photos: z.number(),
  photoId: z.number().describe('One of them'),
  previewVersion: z.number(),
});
const listed = <Row extends z.ZodRawShape>(row: z.ZodObject<Row>) =>
  z.object({ found: z.number().describe('How many there are'), rows: z.array(row).describe('The first of them') });

const placeDoubts = z.object({
  contradictions: listed(
    doubtful.extend({
      says: z.string(),
      lies: z.string().describe('Where the position is'),
      metres: z.number().nullable().describe('From the nearest place that is called so; null: it is another country'),
    }),
  ),
  jumps: listed(
    doubtful.extend({
      camera: z.string(),
      metres: z.number().describe('Between two photos of it'),
      seconds: z.number(),
    }),
  ),
  unknownNames: listed(doubtful.extend({ says: z.string(), names: placeNames })),
});
export type PlaceDoubts = z.infer<typeof placeDoubts>;

/** What of a result lies in a part of the map. */
const shownOnMap = z.object({
  photos: z.number(),
  extent: z
    .object({ south: latitude, west: longitude, north: latitude, east: longitude })
    .nullable()
    .describe('The box in which all of them lie'),
  cells: z.array(mapCell),
});
export type ShownOnMap = z.infer<typeof shownOnMap>;

const line = z.array(z.array(z.number())).describe('Corners [longitude, latitude]');

/** How finely outlines are drawn, with the side of the squares in which they are loaded, in degrees: `whole` is one piece. */
export const OUTLINE_DETAILS = { whole: 360, middle: 45, fine: 15 } as const;
export type OutlineDetail = keyof typeof OUTLINE_DETAILS;

export const outline = z.object({
  land: z.array(z.array(line)).describe('Polygons: the outer ring, then holes'),
  borders: z.array(line).describe('Between countries'),
  coasts: z.array(line),
});
export type Outline = z.infer<typeof outline>;

const mapTown = z.object({ name: z.string(), latitude: z.number(), longitude: z.number(), population: z.number() });
export type MapTown = z.infer<typeof mapTown>;

const typed = text.max(100);

/** The longest SKOS file that is read. */
export const MAX_SKOS_CHARACTERS = 10_000_000;

export const placeRoutes = {
  findPlaces: route({
    method: 'GET',
    path: '/api/places/find',
    access: 'see',
    shows: 'seen',
    summary: 'Places by the beginning of a name, own ones first; those near the archive’s photos before others',
    query: z.object({ text: typed, limit: z.coerce.number().int().min(1).max(50).default(12) }),
    response: z.object({ places: z.array(foundPlace) }),
  }),
  whereabouts: route({
    method: 'POST',
    path: '/api/places/whereabouts',
    access: 'see',
    shows: 'nothing',
    summary: 'The names of the places that points lie in',
    body: z.object({ points: z.array(point).min(1).max(1000) }),
    response: z.object({ places: z.array(whereabouts) }),
  }),
  previewNames: route({
    method: 'POST',
    path: '/api/places/names',
    access: 'describe',
    shows: 'seen',
    summary: 'The names that photos of a selection would be filled with, by where they lie',
    body: z.object({ selection }),
    response: z.object({
      photos: z.number().describe('So many of them have a position'),
      rows: z
        .array(
          z.object({ photoId: z.number(), name: z.string(), previewVersion: z.number(), point, place: whereabouts }),
        )
        .describe('The first of them'),
    }),
  }),
  previewPositions: route({
    method: 'POST',
    path: '/api/places/positions',
    access: 'describe',
    shows: 'seen',
    summary: 'Where photos of a selection that say the names of places would be set, by these',
    body: z.object({ selection }),
    response: z.object({
      photos: z.number().describe('So many of them say a name and have no position'),
      rows: z
        .array(
          z.object({
            photoId: z.number(),
            name: z.string(),
            previewVersion: z.number(),
            names: placeNames,
            point: point.nullable(),
            place: z.string().describe('The one place that is called so'),
            several: z.number().describe('So many places are called so: nothing is guessed'),
          }),
        )
        .describe('The first of them'),
    }),
  }),
  exportOwnPlaces: route({
    method: 'GET',
    path: '/api/places/own/skos',
    access: 'see',
    shows: 'nothing',
    summary: 'The archive’s own places as SKOS in Turtle',
    response: z.unknown(),
  }),
  readOwnPlaces: route({
    method: 'POST',
    path: '/api/places/own/read',
    access: 'vocabulary',
    shows: 'nothing',
    summary: 'The places that a SKOS file in Turtle tells of, and how many of them are new; nothing is changed',
    body: z.object({ text: z.string().min(1).max(MAX_SKOS_CHARACTERS) }),
    response: z.object({
      places: z.array(readPlace),
      fresh: z.number(),
    }),
  }),
  placeDoubts: route({
    method: 'GET',
    path: '/api/places/doubts',
    access: 'see',
    shows: 'seen',
    summary: 'Positions that contradict names, jumps that no camera makes, and names that no place knows',
    response: placeDoubts,
  }),
  listOwnPlaces: route({
    method: 'GET',
    path: '/api/places/own',
    access: 'see',
    shows: 'nothing',
    summary: 'The archive’s own places',
    response: z.object({ places: z.array(ownPlace) }),
  }),
  showOnMap: route({
    method: 'POST',
    path: '/api/map/photos',
    access: 'see',
    shows: 'seen',
    summary: 'What of a selection lies in a part of the map, counted by cells',
    body: z.object({ selection, view: mapView }),
    response: shownOnMap,
  }),
  mapOutline: route({
    method: 'GET',
    path: '/api/map/outline',
    access: 'signedIn',
    shows: 'nothing',
    summary: 'Coasts and borders of a square of the world',
    query: z.object({
      detail: z.enum(Object.keys(OUTLINE_DETAILS) as [OutlineDetail, ...OutlineDetail[]]),
      column: z.coerce.number().int().min(0).max(23).describe('From the date line to the east'),
      row: z.coerce.number().int().min(0).max(11).describe('From the south pole to the north'),
    }),
    response: outline,
  }),
  mapTowns: route({
    method: 'GET',
    path: '/api/map/towns',
    access: 'signedIn',
    shows: 'nothing',
    summary: 'The largest towns in a part of the map',
    query: z.object({
      south: z.coerce.number().min(-90).max(90),
      west: z.coerce.number().min(-180).max(180),
      north: z.coerce.number().min(-90).max(90),
      east: z.coerce.number().min(-180).max(180),
      limit: z.coerce.number().int().min(1).max(200).default(40),
    }),
    response: z.object({ towns: z.array(mapTown) }),
  }),
};
