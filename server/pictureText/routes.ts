// The routes of text in pictures.

import type { FastifyInstance } from 'fastify';
import { pictureTextRoutes } from '@stellin/contract/pictureText';
import { requireSeen } from '../catalogue/seen';
import type { Database } from '../database/database';
import { serve } from '../serve';
import type { PictureTexts } from './service';

export function pictureTextRoutesFor(app: FastifyInstance, database: Database, texts: PictureTexts): void {
  serve(app, pictureTextRoutes.showPictureText, async ({ params, person }) => {
    await requireSeen(database, person, params.id);
    return texts.show(params.id);
  });
  serve(app, pictureTextRoutes.readPictureText, async ({ params, person }) => {
    await requireSeen(database, person, params.id);
    return texts.readNow(params.id);
  });
  serve(app, pictureTextRoutes.readTextOf, async ({ params, body, person }) => {
    await texts.readDrive(params.id, body.on, person.id);
    return { done: true as const };
  });
}
