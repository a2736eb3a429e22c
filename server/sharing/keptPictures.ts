// Pictures that are kept already, for a process that sees no drives and makes none of them.

import type { Database } from '../database/database';
import { largePath, previewPath } from '../files/preview';
import { isTaken } from '../files/relocate';
import * as store from './store';

/** `folder`: where previews are kept. Each gives the file of a photo, or null. */
export function keptPictures(database: Database, folder: string) {
  const firstOf = async (paths: readonly string[]): Promise<string | null> => {
    for (const path of paths) if (await isTaken(path)) return path;
    return null;
  };
  return {
    async previewOf(photoId: number): Promise<string | null> {
      return firstOf([previewPath(folder, photoId, await store.previewVersion(database, photoId))]);
    },
    async largeOf(photoId: number): Promise<string | null> {
      const version = await store.previewVersion(database, photoId);
      return firstOf([largePath(folder, 'large', photoId, version), previewPath(folder, photoId, version)]);
    },
  };
}
