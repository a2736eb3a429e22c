// Site plans: pictures of places with pins that hold photos.

import { z } from 'zod';
import { MARK_COLOURS } from '@stellin/core/describing/marks';
import { NUMBERING_IDS, PIN_KINDS, PIN_SHAPES, pinProblem } from '@stellin/core/plans/pins';
import { queryTextSchema, selection } from './photos';
import { latitude, longitude } from './places';
import { chosenId, id, idParams, route, text } from './route';

const noSlash = (given: string) => !given.includes('/');
const planName = text.trim().min(1).max(200).refine(noSlash, 'A name has no “/”.');
const note = text.max(5000);
const part = z.number().min(0).max(1);
const spot = z.object({
  x: part.describe('Part of the width, from the left'),
  y: part.describe('Of the height, from the top'),
});

/** So many pins a plan has at most, and so many corners an outline. */
export const MAX_PINS = 2000;
const MAX_CORNERS = 500;
/** The highest number of a pin. */
const MAX_NUMBER = 999_999;

const tie = spot.extend({ latitude: latitude.min(-85).max(85), longitude });
const ties = z.array(tie).max(200).describe('Spots of the plan and where they are: two or more tie it to the map');

const pinBase = spot.extend({
  kind: z.enum(PIN_KINDS),
  number: z.number().int().min(1).max(MAX_NUMBER),
  corners: z.array(spot).min(3).max(MAX_CORNERS).nullable().default(null).describe('The outline of an area'),
  direction: z
    .number()
    .min(0)
    .lt(360)
    .nullable()
    .default(null)
    .describe('Where a view looks: degrees clockwise from up'),
  label: text.trim().max(200).refine(noSlash, 'A label has no “/”.').default(''),
  note: note.default(''),
  colour: z.enum(MARK_COLOURS).default('teal'),
  shape: z.enum(PIN_SHAPES).default('disc'),
  layer: text.trim().max(100).default(''),
  termId: chosenId.nullable().default(null).describe('The term it stands for'),
  placeId: chosenId.nullable().default(null).describe('The own place it stands for'),
});

/** What a person says of a pin. */
export const pinShape = pinBase.superRefine((pin, context) => {
  const problem = pinProblem(pin);
  if (problem) context.addIssue({ code: 'custom', message: problem });
});
export type PinForm = z.infer<typeof pinBase>;

/** The changes to plans: entries of the union of changes. */
export const planChanges = [
  z.object({
    kind: z.literal('makePlan'),
    name: planName,
    note: note.default(''),
    pictureId: id.describe('A picture that was added for it'),
  }),
  z.object({
    kind: z.literal('changePlan'),
    planId: id,
    name: planName.optional(),
    note: note.optional(),
    ties: ties.optional(),
  }),
  z.object({ kind: z.literal('removePlan'), planId: id.describe('With its pins; photos stay as they are') }),
  z.object({
    kind: z.literal('savePins'),
    planId: id,
    pins: z
      .array(z.object({ pinId: id.nullable().describe('Null: a new one'), pin: pinShape }))
      .min(1)
      .max(MAX_PINS),
  }),
  z.object({ kind: z.literal('removePins'), planId: id, pinIds: z.array(id).min(1).max(MAX_PINS) }),
  z.object({
    kind: z.literal('mergePins'),
    pinId: id.describe('Goes; its photos are at the other one'),
    intoId: id.describe('On the same plan'),
  }),
  z.object({ kind: z.literal('numberPins'), planId: id, numbering: z.enum(NUMBERING_IDS) }),
  z.object({ kind: z.literal('pinPhotos'), pinId: id, selection }),
  z.object({
    kind: z.literal('unpinPhotos'),
    planId: id,
    pinId: id.nullable().default(null).describe('Null: from all pins of the plan'),
    selection,
  }),
  z.object({
    kind: z.literal('placeByPlan'),
    planId: id,
    onlyWithout: z.boolean().default(true).describe('Only photos without a position'),
  }),
  z.object({ kind: z.literal('writePinRegions'), planId: id }),
] as const;

const plan = z.object({
  id: z.number(),
  name: z.string(),
  note: z.string(),
  width: z.number().describe('Of the kept picture, in pixels'),
  height: z.number(),
  pictureId: z.number(),
  photoId: z.number().nullable().describe('The photo of the catalogue that it shows'),
  page: z.number(),
  pins: z.number(),
  photos: z.number().describe('How many photos are pinned on it'),
  query: z.string().describe('What finds them'),
  ties,
  addedBy: z.string().nullable(),
});
export type Plan = z.infer<typeof plan>;

const pin = pinBase.extend({
  id: z.number(),
  name: z.string().describe('Its label, or its number'),
  query: z.string().describe('What finds its photos'),
  photos: z.number(),
  cover: z.object({ photoId: z.number(), version: z.number() }).nullable().describe('The first of them'),
  termLabel: z.string().nullable(),
  placeName: z.string().nullable(),
});
export type PlanPin = z.infer<typeof pin>;

/** A pin that a file or a picture tells of, to be saved. */
const readPin = pinBase;

const read = z.object({
  pins: z.array(readPin),
  leftOut: z.number().describe('What is told of besides, and has no spot on the plan'),
});

const addedPicture = z.object({ pictureId: z.number(), width: z.number(), height: z.number() });

/** The largest picture that is taken, as base64. */
export const MAX_PLAN_CHARACTERS = 120_000_000;
/** The largest file with pins that is read. */
export const MAX_PINS_TEXT = 10_000_000;

/** How pins are taken along. */
export const PIN_FORMATS = {
  geojson: { label: 'GeoJSON', ending: 'geojson', type: 'application/geo+json' },
  xmp: { label: 'XMP with image regions', ending: 'xmp', type: 'application/rdf+xml' },
} as const satisfies Record<string, { label: string; ending: string; type: string }>;
export type PinFormat = keyof typeof PIN_FORMATS;
const PIN_FORMAT_IDS = Object.keys(PIN_FORMATS) as [PinFormat, ...PinFormat[]];

export const planExport = z.object({ format: z.enum(PIN_FORMAT_IDS) });
export const planPrint = z.object({
  pictures: z.enum(['yes', 'no']).default('yes').describe('With the pictures of each pin, or its words only'),
  layers: text.max(5000).optional().describe('Only pins of these layers, as a JSON list; else all'),
});
/** A tile of a plan’s picture: 0/0/0 shows it whole. */
export const tileParams = z.object({
  id,
  z: z.coerce.number().int().min(0).max(12),
  x: z.coerce.number().int().min(0).max(4096),
  y: z.coerce.number().int().min(0).max(4096),
});
/** Pixels aside of a tile. */
export const TILE_PIXELS = 512;

const pinOfPhoto = z.object({
  planId: z.number(),
  pinId: z.number(),
  plan: z.string(),
  pin: z.string(),
  query: z.string(),
});
export type PinOfPhoto = z.infer<typeof pinOfPhoto>;

export const planRoutes = {
  listPlans: route({
    method: 'GET',
    path: '/api/plans',
    access: 'see',
    shows: 'seen',
    summary: 'Site plans, by name',
    response: z.object({ plans: z.array(plan) }),
  }),
  showPlan: route({
    method: 'GET',
    path: '/api/plans/:id',
    access: 'see',
    shows: 'seen',
    summary: 'A site plan with its pins, by their numbers',
    params: idParams,
    response: plan.extend({ pinned: z.array(pin) }),
  }),
  addPlanPicture: route({
    method: 'POST',
    path: '/api/plan-pictures',
    access: 'describe',
    shows: 'seen',
    summary: 'Keep a picture of which a plan is to be made: a file, or a photo of the catalogue',
    body: z.union([
      z.object({ name: text.max(500), picture: z.base64().max(MAX_PLAN_CHARACTERS) }),
      z.object({ photoId: chosenId, page: z.number().int().min(1).max(100_000).default(1) }),
    ]),
    response: addedPicture,
  }),
  proposePins: route({
    method: 'POST',
    path: '/api/plans/:id/proposals',
    access: 'see',
    shows: 'seen',
    summary: 'Photos with a position on the plan that have no pin on it, by the pin that they belong to',
    params: idParams,
    body: z.object({ query: queryTextSchema }),
    response: z.object({
      pins: z.array(
        z.object({
          pinId: z.number(),
          photos: z.array(z.object({ photoId: z.number(), name: z.string(), version: z.number() })),
        }),
      ),
      without: z.number().describe('On the plan, and far from every pin'),
      looked: z.number().describe('At so many photos was looked'),
    }),
  }),
  readPins: route({
    method: 'POST',
    path: '/api/plans/:id/read',
    access: 'describe',
    shows: 'nothing',
    summary: 'The pins that a file tells of: GeoJSON, or XMP with image regions',
    params: idParams,
    body: z.object({ text: text.max(MAX_PINS_TEXT) }),
    response: read,
  }),
  readPinRegions: route({
    method: 'GET',
    path: '/api/plans/:id/regions',
    access: 'describe',
    shows: 'seen',
    summary: 'The pins that the image regions of the plan’s photo tell of',
    params: idParams,
    response: read,
  }),
  pinsOfPhoto: route({
    method: 'GET',
    path: '/api/photos/:id/pins',
    access: 'see',
    shows: 'seen',
    summary: 'The pins that hold a photo',
    params: idParams,
    response: z.object({ pins: z.array(pinOfPhoto) }),
  }),
};
