// Tracks of receivers, and placing photos by them.

import { z } from 'zod';
import { edtfInterval } from '@stellin/core/timeplace/edtf';
import { NAMING_WAYS } from '@stellin/core/describing/placing';
import { selection } from './photos';
import { point } from './places';
import { chosenId, day, done, id, idParams, isoTime, route, text } from './route';

export const track = z.object({
  id: z.number(),
  name: z.string(),
  device: z.string(),
  points: z.number(),
  begins: isoTime,
  ends: isoTime,
  addedAt: isoTime,
  addedBy: z.string().nullable(),
});
export type TrackRow = z.infer<typeof track>;

/** A file of a track is at most so large, in characters. */
export const MAX_TRACK_TEXT = 200_000_000;

/** How photos follow tracks. */
export const following = z.object({
  zoneMinutes: z
    .number()
    .int()
    .min(-14 * 60)
    .max(14 * 60)
    .describe('The zone of clocks that do not say theirs, east of UTC'),
  aheadSeconds: z
    .number()
    .int()
    .min(-40_000_000)
    .max(40_000_000)
    .describe('What clocks were behind; is added to what they say'),
  maxGapSeconds: z.number().int().min(1).max(86_400),
  way: z.enum(['between', 'nearest']),
});

const matching = z.object({
  selection,
  trackIds: z.array(chosenId).min(1).max(50),
  following,
  onlyWithout: z.boolean().default(true).describe('Photos that have a position keep it'),
});
export type Matching = z.output<typeof matching>;

/** How names are put in along with a position. */
export const naming = z.object({ way: z.enum(NAMING_WAYS), shown: z.boolean() });

const calendarDay = day.refine((typed) => edtfInterval(typed) !== undefined, 'is no day of the calendar');

/** What is known of the clock of a camera. */
export const cameraClockShape = z.object({
  camera: text.trim().min(1).max(200).describe('Maker and model, as photos say them'),
  from: calendarDay.describe('The first day, by that clock'),
  until: calendarDay.describe('The last day'),
  aheadSeconds: z
    .number()
    .int()
    .min(-40_000_000)
    .max(40_000_000)
    .refine((seconds) => seconds !== 0, 'a clock that was right need not be noted')
    .describe('How far it was ahead of the right time; negative: behind'),
  note: text.max(2000).default(''),
});

export const cameraClock = cameraClockShape.extend({
  id: z.number(),
  photos: z.number().describe('How many still say what it said'),
  query: z.string().describe('What finds the photos taken with it'),
});
export type CameraClockRow = z.infer<typeof cameraClock>;

/** The changes that place photos by what is known of them: entries of the union of changes. */
export const placingChanges = [
  matching.extend({ kind: z.literal('followTracks'), naming }),
  z.object({
    kind: z.literal('spreadPhotos'),
    selection: selection.describe('Photos whose time is known: the first is set at one end, the last at the other'),
    from: point,
    to: point,
    naming,
  }),
  z.object({
    kind: z.literal('noteZones'),
    selection: selection.describe('Photos with a position and a time that says no zone'),
  }),
  z.object({
    kind: z.literal('putClocksRight'),
    selection: selection.describe(
      'Of them those whose clock is known to have been wrong and that still say what it said',
    ),
  }),
  cameraClockShape.extend({
    kind: z.literal('saveCameraClock'),
    clockId: id.nullable().describe('Null keeps a new one'),
  }),
  z.object({ kind: z.literal('removeCameraClock'), clockId: id }),
  z.object({
    kind: z.literal('namePlaces'),
    selection,
    naming: naming.extend({ way: z.enum(['fill', 'replace']) }),
  }),
  z.object({ kind: z.literal('placeByNames'), selection }),
] as const;

export const FOLLOWED = ['placed', 'kept', 'before', 'after', 'gap', 'timeless'] as const;
export type FollowedState = (typeof FOLLOWED)[number];

/** So many photos are listed at once. */
export const FOLLOWED_ROWS = 100;

const row = z.object({
  photoId: z.number(),
  name: z.string(),
  previewVersion: z.number(),
  clock: z.string().nullable().describe('What its clock says'),
  before: point.nullable(),
  after: point.nullable(),
  state: z.enum(FOLLOWED).describe('Placed, or why not; kept: it has a position'),
});
export type FollowedRow = z.infer<typeof row>;

const timedPhoto = z.object({
  photoId: z.number(),
  name: z.string(),
  previewVersion: z.number(),
  clock: z.string().describe('What its camera wrote, local time'),
  time: z.string().describe('When it was taken as is said now: the same, or what was put right since'),
});
export type TimedPhoto = z.infer<typeof timedPhoto>;

const cameraRow = z.object({
  camera: z.string().describe('Maker and model'),
  photos: z.array(timedPhoto).describe('In the order of time'),
});
export type CameraRow = z.infer<typeof cameraRow>;

export const trackRoutes = {
  camerasByTime: route({
    method: 'POST',
    path: '/api/clocks/cameras',
    access: 'describe',
    shows: 'seen',
    summary: 'The photos of a selection by camera and time, to line cameras up with one another',
    body: z.object({ selection }),
    response: z.object({
      cameras: z.array(cameraRow).describe('That with most photos first'),
      looked: z.number(),
      isWhole: z.boolean().describe('Whether all photos of the selection were looked at'),
    }),
  }),
  listClocks: route({
    method: 'GET',
    path: '/api/clocks',
    access: 'see',
    shows: 'seen',
    summary: 'Clocks of cameras that went wrong, with how many photos still say what they said',
    response: z.object({ clocks: z.array(cameraClock) }),
  }),
  listTracks: route({
    method: 'GET',
    path: '/api/tracks',
    access: 'see',
    shows: 'nothing',
    summary: 'The tracks that are kept, the latest first',
    response: z.object({ tracks: z.array(track) }),
  }),
  addTrack: route({
    method: 'POST',
    path: '/api/tracks',
    access: 'describe',
    shows: 'nothing',
    summary: 'Keep a track: GPX, KML, GeoJSON or NMEA',
    body: z.object({
      name: text.trim().min(1).max(200),
      device: text.trim().max(200).default(''),
      text: z.string().max(MAX_TRACK_TEXT),
    }),
    response: z.object({ id: z.number() }),
  }),
  removeTrack: route({
    method: 'DELETE',
    path: '/api/tracks/:id',
    access: 'describe',
    shows: 'nothing',
    summary: 'Keep a track no longer; photos that follow it stay where they are',
    params: idParams,
    response: done,
  }),
  trackLine: route({
    method: 'GET',
    path: '/api/tracks/:id/line',
    access: 'see',
    shows: 'nothing',
    summary: 'A track as a line for the map, of some of its points',
    params: idParams,
    response: z.object({ parts: z.array(z.array(point)) }),
  }),
  passing: route({
    method: 'POST',
    path: '/api/tracks/passing',
    access: 'describe',
    shows: 'nothing',
    summary: 'What a clock was behind, by when tracks passed the spot of a photo',
    body: z.object({
      trackIds: matching.shape.trackIds,
      zoneMinutes: following.shape.zoneMinutes,
      clock: text.max(40).describe('What the clock said'),
      spot: point,
    }),
    response: z.object({
      passing: z.object({ aheadSeconds: z.number(), metres: z.number() }).nullable().describe('Null: none came near'),
    }),
  }),
  previewFollowing: route({
    method: 'POST',
    path: '/api/tracks/preview',
    access: 'describe',
    shows: 'seen',
    summary: 'Where photos would come to lie by tracks, and which would not',
    body: matching.extend({
      state: z.enum(FOLLOWED).nullable().default(null).describe('Only rows of those that come to this'),
      offset: z.number().int().min(0).max(1_000_000).default(0).describe('So many rows stand before those asked for'),
    }),
    response: z.object({
      looked: z.number(),
      counts: z.record(z.enum(FOLLOWED), z.number()),
      proposedAheadSeconds: z.number().nullable().describe('By which most photos would lie on the tracks'),
      zone: z.string().nullable().describe('The time zone in which the tracks begin'),
      proposedZoneMinutes: z.number().nullable(),
      rows: z.array(row).describe(`Of those asked for the next ${FOLLOWED_ROWS}`),
    }),
  }),
};
