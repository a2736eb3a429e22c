// Films and sounds: how they can be played, and how loud they are.

import { z } from 'zod';
import { idParams, route } from './route';

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
});
export type Playback = z.infer<typeof playback>;

export const mediaRoutes = {
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
