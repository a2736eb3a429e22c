// The routes of photos: lists, details, what a selection means.

import type { FastifyInstance } from 'fastify';
import { photoRoutes } from '@stellin/contract/photos';
import { serve } from '../serve';
import { readBlocks } from './blocks';
import type { Photos } from './service';

export function photosRoutes(app: FastifyInstance, photos: Photos, files: Parameters<typeof readBlocks>[0]): void {
  serve(app, photoRoutes.showBlocks, ({ params, person }) => readBlocks(files, person, params.id));
  serve(app, photoRoutes.listGroups, async ({ query, person }) => ({
    groups: await photos.groups(person, query.query, query.sort),
  }));
  serve(app, photoRoutes.listPhotos, async ({ query, person }) => ({ photos: await photos.list(person, query) }));
  serve(app, photoRoutes.countPhotos, ({ query, person }) => photos.count(person, query.query));
  serve(app, photoRoutes.photoPosition, async ({ params, query, person }) => ({
    position: await photos.position(person, params.id, query.query, query.sort),
  }));
  serve(app, photoRoutes.showPhoto, ({ params, person }) => photos.find(person, params.id));
  serve(app, photoRoutes.photosOfSelection, async ({ body, person }) => ({
    photos: await photos.ofSelection(person, body.selection, body.sort, body.limit),
  }));
  serve(app, photoRoutes.describeSelection, ({ body, person }) => photos.describe(person, body.selection));
}
