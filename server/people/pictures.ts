// Small pictures of faces: kept when they are found; of others cut out of the picture when somebody looks.

import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import sharp from 'sharp';
import type { Box } from '@stellin/core/people/boxes';
import type { Database } from '../database/database';
import { systemCode } from '../errors';
import { putFile, turnKept } from '../files/preview';
import { removeFile } from '../files/relocate';
import { findFaceBox } from './store';

const PIXELS = 160;
/** So much around a face is shown with it. */
const AROUND = 1.55;

export type FacePictures = ReturnType<typeof facePictures>;

export function facePictures(
  database: Database,
  folder: string,
  previewOf: (photoId: number) => Promise<string | null>,
) {
  const pathOf = (faceId: number) => join(folder, String(Math.floor(faceId / 1000)).padStart(4, '0'), `${faceId}.webp`);

  return {
    keep: (faceId: number, picture: Uint8Array): Promise<void> => putFile(pathOf(faceId), picture),

    /** Turns the kept pictures of faces as their photo was turned (core/metadata/orientation). */
    async turn(faceIds: readonly number[], by: number): Promise<void> {
      for (const faceId of faceIds)
        await turnKept(pathOf(faceId), by, pathOf(faceId)).catch((error: unknown) => {
          if (systemCode(error) !== 'ENOENT') throw error;
        });
    },

    /** Deletes the kept pictures of faces that are going for good. */
    async remove(faceIds: readonly number[]): Promise<void> {
      for (const faceId of faceIds) await removeFile(pathOf(faceId));
    },

    /** A WebP of a face; null where there is none. */
    async read(faceId: number): Promise<Buffer | null> {
      const face = await findFaceBox(database, faceId);
      if (!face) return null;
      const kept = await readFile(pathOf(faceId)).catch((error: unknown) => {
        if (systemCode(error) === 'ENOENT') return null;
        throw error;
      });
      if (kept) return kept;
      const preview = await previewOf(face.photoId);
      return preview === null ? null : cutOut(preview, face.box);
    },
  };
}

async function cutOut(path: string, { left, top, width, height }: Box): Promise<Buffer> {
  const { width: w, height: h } = await sharp(path).metadata();
  const side = Math.max(8, Math.round(Math.min(w, h, Math.max(width * w, height * h) * AROUND)));
  const at = (middle: number, length: number) => Math.max(0, Math.min(length - side, Math.round(middle - side / 2)));
  return sharp(path)
    .extract({ left: at((left + width / 2) * w, w), top: at((top + height * 0.45) * h, h), width: side, height: side })
    .resize(PIXELS, PIXELS)
    .webp({ quality: 82, effort: 2 })
    .toBuffer();
}
