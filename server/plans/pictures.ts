// Pictures of plans: kept with the catalogue, and cut into tiles in the data folder when somebody looks.

import { join } from 'node:path';
import pLimit from 'p-limit';
import sharp, { type OutputInfo } from 'sharp';
import { TILE_PIXELS } from '@stellin/contract/plans';
import type { Database } from '../database/database';
import { messageOf, StellinError } from '../errors';
import { requireNoDrawing } from '../files/drawing';
import { keptFolder, namesIn, readKept } from '../files/keep';
import * as store from './store';

export type PlanPictures = ReturnType<typeof planPictures>;

/** Pictures are kept no wider and no higher: WebP has no more. */
const MAX_PIXELS_ASIDE = 16_000;
/** Larger ones are not decoded. */
const MAX_PIXELS = 500_000_000;
const QUALITY = 88;
/** Cut into tiles side by side at most. */
const CUT_AT_ONCE = 1;
const GONE = { what: 'such plan (it may have been removed meanwhile)' };

export function planPictures(database: Database, folder: string) {
  const inTurn = pLimit(CUT_AT_ONCE);
  const inCutting = new Map<number, Promise<string>>();

  const picture = async (pictureId: number): Promise<Buffer> => {
    const bytes = await store.pictureOf(database, pictureId);
    if (!bytes) throw new StellinError('notFound', GONE);
    return bytes;
  };

  /** The folder with the tiles of a picture, cut now if need be; once, however many ask. */
  const tilesOf = async (pictureId: number): Promise<string> => {
    const kept = join(folder, String(pictureId));
    if ((await namesIn(kept)).length > 0) return kept;
    const cutting =
      inCutting.get(pictureId) ??
      inTurn(async () => keptFolder(kept, async (target) => cut(await picture(pictureId), target))).finally(() =>
        inCutting.delete(pictureId),
      );
    inCutting.set(pictureId, cutting);
    return cutting;
  };

  return {
    picture,

    /** Keeps a picture; gives its number. Refuses by name what is no picture. */
    async add(
      {
        name,
        bytes,
        photoId,
        page,
      }: { name: string; bytes: Uint8Array | string; photoId: number | null; page: number },
      accountId: number,
    ): Promise<{ pictureId: number; width: number; height: number }> {
      const { data, info } = await kept(bytes).catch((error: unknown) => {
        throw new StellinError('unreadablePicture', { file: name, why: messageOf(error) });
      });
      const { width, height } = info;
      const pictureId = await store.keepPicture(database, {
        ...{ picture: data, width, height, photoId, page, addedBy: accountId },
      });
      return { pictureId, width, height };
    },

    /** A tile of a picture as WebP; undefined where it has none. */
    async tile(pictureId: number, { z, x, y }: { z: number; x: number; y: number }): Promise<Buffer | undefined> {
      const tiles = await tilesOf(pictureId);
      const names = await namesIn(join(tiles, String(z), String(y)));
      return names.includes(`${x}.webp`) ? readKept(join(tiles, String(z), String(y), `${x}.webp`)) : undefined;
    },
  };
}

/** A picture as it is kept. Throws when it is none. */
async function kept(bytes: Uint8Array | string): Promise<{ data: Buffer; info: OutputInfo }> {
  await requireNoDrawing(bytes);
  return sharp(bytes, { limitInputPixels: MAX_PIXELS })
    .rotate()
    .resize(MAX_PIXELS_ASIDE, MAX_PIXELS_ASIDE, { fit: 'inside', withoutEnlargement: true })
    .flatten({ background: '#ffffff' })
    .webp({ quality: QUALITY })
    .toBuffer({ resolveWithObject: true });
}

/** Cuts a picture into tiles by level, row and column: level 0 is one tile that shows it whole. */
async function cut(picture: Buffer, target: string): Promise<void> {
  await sharp(picture)
    .webp({ quality: QUALITY })
    .tile({ size: TILE_PIXELS, layout: 'google', background: '#ffffff' })
    .toFile(target);
}
