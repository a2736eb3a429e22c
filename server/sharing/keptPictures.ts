// Pictures that are kept already, for a process that sees no drives and makes none of them.

import { largePath, previewPath } from '../files/preview';
import { isTaken } from '../files/relocate';

/** `folder`: where previews are kept. Each gives the file of a photo, or null. */
export function keptPictures(folder: string) {
  const ifThere = async (path: string): Promise<string | null> => ((await isTaken(path)) ? path : null);
  return {
    previewOf: (photoId: number, version: number) => ifThere(previewPath(folder, photoId, version)),
    largeOf: (photoId: number, version: number) => ifThere(largePath(folder, 'large', photoId, version)),
  };
}
