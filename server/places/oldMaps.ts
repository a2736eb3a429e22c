// Pictures of old maps: kept with the catalogue, and laid over the map by pins.

import sharp, { type OutputInfo } from 'sharp';
import type { MapPin } from '@stellin/core/timeplace/pinning';
import type { Database } from '../database/database';
import { messageOf, StellinError } from '../errors';
import { requireNoDrawing } from '../files/drawing';
import * as store from './oldMapStore';

export type OldMaps = ReturnType<typeof oldMapService>;

/** Pictures are kept no wider and no higher. */
const MAX_PIXELS_ASIDE = 5000;
/** Larger ones are not decoded. */
const MAX_PIXELS = 400_000_000;
const QUALITY = 88;
const GONE = { what: 'such old map (it may have been removed meanwhile)' };

export function oldMapService(database: Database) {
  return {
    list: () => store.listOldMaps(database),

    /** Keeps a picture; gives its number. Refuses by name what is no picture. */
    async add(name: string, bytes: Uint8Array, accountId: number): Promise<number> {
      const { data: picture, info } = await shrunk(bytes).catch((error: unknown) => {
        throw new StellinError('unreadablePicture', { file: name, why: messageOf(error) });
      });
      const { width, height } = info;
      const id = await store.keepOldMap(database, { name, picture, width, height, accountId });
      await database.notify(['places']);
      return id;
    },

    async change(id: number, said: { name: string; note: string; pins: readonly MapPin[] }): Promise<void> {
      if (!(await store.changeOldMap(database, id, said))) throw new StellinError('notFound', GONE);
      await database.notify(['places']);
    },

    async remove(id: number): Promise<void> {
      if (!(await store.removeOldMap(database, id))) throw new StellinError('notFound', GONE);
      await database.notify(['places']);
    },

    /** The picture as WebP. */
    async picture(id: number): Promise<Buffer> {
      const picture = await store.pictureOf(database, id);
      if (!picture) throw new StellinError('notFound', GONE);
      return picture;
    },
  };
}

/** A picture as it is kept. Throws when it is none. */
async function shrunk(bytes: Uint8Array): Promise<{ data: Buffer; info: OutputInfo }> {
  await requireNoDrawing(bytes);
  return sharp(bytes, { limitInputPixels: MAX_PIXELS })
    .rotate()
    .resize(MAX_PIXELS_ASIDE, MAX_PIXELS_ASIDE, { fit: 'inside', withoutEnlargement: true })
    .webp({ quality: QUALITY })
    .toBuffer({ resolveWithObject: true });
}
