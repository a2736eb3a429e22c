// Films and sounds: how they can be played, and how loud they are.

import { z } from 'zod';
import { SORTS } from '@stellin/core/search/sorts';
import { queryTextSchema } from './photos';
import { idParams, route } from './route';

/** A place in a film or sound, in seconds; up to ten days. */
export const filmSeconds = z.number().min(0).max(864_000);

/** How a film or sound can be played: its file as it is, a copy that browsers play, one that is being made, or not now. */
export const PLAYBACKS = ['file', 'copy', 'making', 'none'] as const;

export const playback = z.object({
  media: z.enum(['film', 'sound']),
  duration: z.number().nullable().describe('Seconds; null where nobody knows'),
  frameRate: z.number().nullable().describe('Pictures a second'),
  timecode: z.string().nullable().describe('That of the first picture'),
  plays: z.enum(PLAYBACKS),
  why: z.string().nullable().describe('Why the file itself is not played'),
  copyable: z.boolean().describe('A copy that browsers play can be made now'),
  version: z.number().describe('Of what is made of the file: rises with it'),
  poster: z.number().nullable().describe('The second whose picture stands for a film; null: none was chosen'),
});
export type Playback = z.infer<typeof playback>;

/** Where the stretches of a film or sound are listed for others, and where a part of it is had as a file of its own. */
export const STRETCH_LISTS = ['csv', 'edl'] as const;
export const stretchListPath = (photoId: number | string): string => `/api/photos/${photoId}/stretches`;
export const clipPath = (photoId: number | string): string => `/api/photos/${photoId}/clip`;

/** A stretch of a film or sound as a result of its own. */
const foundStretch = z.object({
  photoId: z.number(),
  position: z.number().describe('Of the film in what the query finds'),
  film: z.string().describe('The name of its file'),
  isFilm: z.boolean(),
  version: z.number().describe('Of what is made of the file'),
  duration: z.number().nullable().describe('Of the whole, in seconds'),
  from: z.number(),
  to: z.number(),
  name: z.string(),
  note: z.string(),
  rating: z.number(),
  terms: z.array(z.string()),
  people: z.array(z.string()),
});
export type FoundStretch = z.infer<typeof foundStretch>;

export const mediaRoutes = {
  findStretches: route({
    method: 'GET',
    path: '/api/stretches',
    access: 'see',
    shows: 'seen',
    summary: 'The stretches that a query speaks of, in the order of what it finds',
    query: z.object({ query: queryTextSchema.default(''), sort: z.enum(SORTS).default('taken') }),
    response: z.object({
      stretches: z.array(foundStretch),
      more: z.boolean().describe('There are more than are given'),
    }),
  }),
  showPlayback: route({
    method: 'GET',
    path: '/api/photos/:id/playback',
    access: 'see',
    shows: 'seen',
    summary: 'How a film or sound can be played',
    params: idParams,
    response: playback,
  }),
  makePlayable: route({
    method: 'POST',
    path: '/api/photos/:id/playable',
    access: 'see',
    shows: 'seen',
    summary: 'Begins to make a copy of a film or sound that every browser plays',
    params: idParams,
    response: z.object({ id: z.string().describe('The job') }),
  }),
  showWaveform: route({
    method: 'GET',
    path: '/api/photos/:id/waveform',
    access: 'see',
    shows: 'seen',
    summary: 'How loud a film or sound is over its length',
    params: idParams,
    response: z.object({
      peaks: z.array(z.number()).describe('The loudest of each of as many equal parts, from 0 to 1'),
    }),
  }),
};
