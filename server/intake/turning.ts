// Pictures that follow when photos are turned: the kept previews, large pictures and faces are turned themselves, so that it is seen
// at once and while drives are away. What a process that was killed left is done at the next start.

import { between } from '@stellin/core/metadata/orientation';
import type { Database } from '../database/database';
import type { LargePictures } from './large';
import type { Previews } from './previews';
import * as store from './store';

const PHOTOS_PER_PAGE = 50;

interface Parts {
  database: Database;
  previews: Previews;
  large: LargePictures;
  faces: { turn(faceIds: readonly number[], by: number): Promise<void> };
}

export function pictureTurner({ database, previews, large, faces }: Parts) {
  let last: Promise<void> = Promise.resolve();
  let isClosing = false;

  const turnAll = async (): Promise<void> => {
    let after = 0;
    for (;;) {
      const photos = await store.turnedPhotos(database, after, PHOTOS_PER_PAGE);
      if (photos.length === 0) return;
      const turned: store.NotedRemake[] = [];
      const gone: number[] = [];
      for (const photo of photos) {
        if (isClosing) break;
        const by = between(photo.shownAs, photo.orientation);
        await large.turn(photo.id, photo.version, by);
        // They have no version of their own: whether they are turned is told by the preview, which is turned after them.
        if (!previews.isTurned(photo)) await faces.turn(photo.faces, by);
        const preview = await previews.turn(photo);
        if (preview) turned.push(preview);
        else gone.push(photo.id);
        after = photo.id;
      }
      await previews.noteRemade(turned, gone);
      if (isClosing) return;
      await database.notify(['photos', 'people']);
    }
  };

  return {
    /** Turns the pictures of all photos that were turned; runs follow one another. */
    run(): Promise<void> {
      last = last.catch(() => undefined).then(turnAll);
      return last;
    },

    /** Ends after the photo that is being turned. */
    async close(): Promise<void> {
      isClosing = true;
      await last.catch(() => undefined);
    },
  };
}
