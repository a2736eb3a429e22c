// The pictures behind view links: made of the kept preview or large picture, without any metadata, in the size that the link allows.

import { LRUCache } from 'lru-cache';
import type { LinkSettings } from '@stellin/contract/sharing';
import type { Deliveries } from '../delivering/service';

const SMALL_EDGE = 400;
const KEPT_BYTES = 96 * 1024 * 1024;

interface Parts {
  /** The file with the preview of a photo, or with a larger picture where there is one; null for none. */
  previewOf: (photoId: number) => Promise<string | null>;
  largeOf: (photoId: number) => Promise<string | null>;
  render: Deliveries['pictureOutside'];
}

export type SharedPictures = ReturnType<typeof sharedPictures>;

export function sharedPictures({ previewOf, largeOf, render }: Parts) {
  const kept = new LRUCache<string, Buffer>({ maxSize: KEPT_BYTES, sizeCalculation: ({ length }) => length || 1 });

  return {
    /** A JPEG of a photo; undefined where there is no picture of it. */
    async pictureOf(
      photoId: number,
      size: 'small' | 'large',
      { longEdge, watermark }: Pick<LinkSettings, 'longEdge' | 'watermark'>,
    ): Promise<Buffer | undefined> {
      const path = size === 'small' ? await previewOf(photoId) : await largeOf(photoId);
      if (path === null) return undefined;
      const edge = size === 'small' ? SMALL_EDGE : longEdge;
      // The path changes with the picture.
      const key = `${path} ${edge} ${watermark}`;
      const made = kept.get(key) ?? (await render(path, edge, size === 'small' ? '' : watermark));
      kept.set(key, made);
      return made;
    },
  };
}
