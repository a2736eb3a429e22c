// Text seen in pictures, on signs, labels and backs of prints.

import { z } from 'zod';
import { box } from './people';
import { done, idParams, route } from './route';

/** What is known of the text in a picture: it was read, nobody has, or it can’t be read and why. */
export const pictureText = z.object({
  state: z.enum(['read', 'unread', 'unreadable']),
  problem: z.string(),
  lines: z.array(z.object({ text: z.string(), box, certainty: z.number() })).describe('From the top'),
});
export type PictureText = z.infer<typeof pictureText>;

export const pictureTextRoutes = {
  showPictureText: route({
    method: 'GET',
    path: '/api/photos/:id/text',
    access: 'see',
    shows: 'seen',
    summary: 'The text that was seen in a picture',
    params: idParams,
    response: pictureText,
  }),
  readPictureText: route({
    method: 'POST',
    path: '/api/photos/:id/text',
    access: 'describe',
    shows: 'seen',
    summary: 'Reads the text in a picture now',
    params: idParams,
    response: pictureText,
  }),
  readTextOf: route({
    method: 'POST',
    path: '/api/drives/:id/text',
    access: 'administer',
    shows: 'nothing',
    summary: 'Have the text in the pictures of a drive read in the background, or no longer',
    params: z.object({ id: z.uuid() }),
    body: z.object({ on: z.boolean() }),
    response: done,
  }),
};
