// The pictures behind view links: made of the kept preview or large picture, without any metadata, in the size that the link allows. Those that
// were made are kept, in memory and on disk.

import { createHash } from 'node:crypto';
import { join } from 'node:path';
import { LRUCache } from 'lru-cache';
import type { LinkSettings } from '@stellin/contract/sharing';
import type { Outside } from '../delivering/service';
import { systemCode } from '../errors';
import { keepFile, keepNewest, markUsed, namesIn, readKept, removeTree } from '../files/keep';

const SMALL_EDGE = 400;
const KEPT_BYTES = 96 * 1024 * 1024;
/** So many are made before those looked at longest ago go. */
const PRUNE_AFTER = 200;
const NAME_LETTERS = 32;

interface Parts {
  /** The file with the preview of a photo; null for none. */
  previewOf: (photoId: number, version: number) => Promise<string | null>;
  /** The file with a larger picture; null where just now there is none. */
  largeOf: (photoId: number, version: number) => Promise<string | null>;
  render: Outside['pictureOutside'];
  /** Where they are kept, and how much room they may take. */
  folder: string;
  limitBytes: number;
}

export type SharedPictures = ReturnType<typeof sharedPictures>;

export function sharedPictures({ previewOf, largeOf, render, folder, limitBytes }: Parts) {
  const kept = new LRUCache<string, Buffer>({ maxSize: KEPT_BYTES, sizeCalculation: ({ length }) => length || 1 });
  let made = 0;

  const folderOf = (photoId: number) => join(folder, String(photoId));

  const prune = async (): Promise<void> => {
    const folders = (await namesIn(folder)).map((name) => join(folder, name));
    await keepNewest(folders, limitBytes, () => Promise.resolve(new Set()));
  };

  const onDisk = async (target: string): Promise<Buffer | undefined> => {
    try {
      const picture = await readKept(target);
      await markUsed(target);
      return picture;
    } catch (error) {
      if (systemCode(error) === 'ENOENT') return undefined;
      throw error;
    }
  };

  return {
    /** A JPEG of a photo as it is by the number of its preview; undefined where there is no picture of it. */
    async pictureOf(
      { photoId, version }: { photoId: number; version: number },
      size: 'small' | 'large',
      { longEdge, watermark }: Pick<LinkSettings, 'longEdge' | 'watermark'>,
    ): Promise<Buffer | undefined> {
      const edge = size === 'small' ? SMALL_EDGE : longEdge;
      const drawn = size === 'small' ? '' : watermark;
      const key = JSON.stringify([photoId, version, size, edge, drawn]);
      const known = kept.get(key);
      if (known) return known;
      const name = createHash('sha256').update(key).digest('hex').slice(0, NAME_LETTERS);
      const target = join(folderOf(photoId), `${name}.jpg`);
      let picture = await onDisk(target);
      if (!picture) {
        const large = size === 'large' ? await largeOf(photoId, version) : null;
        const path = large ?? (await previewOf(photoId, version));
        if (path === null) return undefined;
        picture = await render(path, edge, drawn);
        // What is less than it could be is made anew the next time.
        if (size === 'large' && large === null) return picture;
        await keepFile(target, picture);
        made += 1;
        if (made % PRUNE_AFTER === 0) await prune();
      }
      kept.set(key, picture);
      return picture;
    },

    /** Deletes the pictures of a photo that is going for good. */
    remove: (photoId: number): Promise<void> => removeTree(folderOf(photoId)),
  };
}
