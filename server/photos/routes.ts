import type { FastifyInstance } from 'fastify';
import { photoRoutes } from '@stellin/contract/photos';
import { serve } from '../serve';
import { readBlocks } from './blocks';
import type { Photos } from './service';

export function photosRoutes(app: FastifyInstance, photos: Photos, files: Parameters<typeof readBlocks>[0]): void {
  serve(app, photoRoutes.showBlocks, ({ params }) => readBlocks(files, params.id));
  serve(app, photoRoutes.listGroups, async ({ query }) => ({ groups: await photos.groups(query.query, query.sort) }));
  serve(app, photoRoutes.listPhotos, async ({ query }) => ({ photos: await photos.list(query) }));
  serve(app, photoRoutes.countPhotos, ({ query }) => photos.count(query.query));
  serve(app, photoRoutes.photoPosition, async ({ params, query }) => ({
    position: await photos.position(params.id, query.query, query.sort),
  }));
  serve(app, photoRoutes.showPhoto, ({ params }) => photos.find(params.id));
  serve(app, photoRoutes.photosOfSelection, async ({ body }) => ({
    photos: await photos.ofSelection(body.selection, body.sort, body.limit),
  }));
  serve(app, photoRoutes.describeSelection, ({ body }) => photos.describe(body.selection));
}
