// Previews: small WebP pictures kept in the data folder, made from the original, the preview inside a raw file, or a still
// of a document or film.

import { mkdir, open, rename } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import sharp, { type Sharp } from 'sharp';
import { differenceHash, LIKENESS_COLUMNS, LIKENESS_ROWS } from '@stellin/core/intake/likeness';
import type { FileKind } from '@stellin/core/metadata/containers/index';
import { readMetadata } from '@stellin/core/metadata/read';
import { withSource } from './source';
import { hasStillProgram, stillOf } from './still';

const PREVIEW_PIXELS = 640;
/** Wide enough for a screen. */
export const LARGE_PIXELS = 2048;
/** The longest side a WebP can have. */
export const FULL_PIXELS = 16_383;
const PLACEHOLDER_PIXELS = 16;
const MAX_INPUT_PIXELS = 400_000_000;

sharp.cache(false);

/** Where the preview of a photo is kept. */
export function previewPath(folder: string, photoId: number, version: number): string {
  const bucket = String(Math.floor(photoId / 1000)).padStart(4, '0');
  return join(folder, bucket, `${photoId}-${version}.webp`);
}

export interface MadePreview {
  /** A tiny picture as a data URL. */
  placeholder: string;
  /** The difference hash. */
  likeness: bigint;
  /** False when the picture data broke off and only a part could be decoded. */
  whole: boolean;
}

/** Makes a preview of at most 640 pixels on the longer side, turned upright, in sRGB. Throws an Error that says why when nothing can be decoded. */
export async function makePreview(original: string, kind: FileKind | undefined, target: string): Promise<MadePreview> {
  const { data, info, whole } = await decode(original, kind, PREVIEW_PIXELS);
  const picture = () => sharp(data, { raw: { width: info.width, height: info.height, channels: info.channels } });
  const [webp, tiny, grey] = await Promise.all([
    picture().webp({ quality: 80, effort: 2 }).toBuffer(),
    picture()
      .resize(PLACEHOLDER_PIXELS, PLACEHOLDER_PIXELS, { fit: 'inside' })
      .webp({ quality: 30, effort: 0 })
      .toBuffer(),
    picture()
      .resize(LIKENESS_COLUMNS, LIKENESS_ROWS, { fit: 'fill' })
      .flatten({ background: 'white' })
      .greyscale()
      .raw()
      .toBuffer(),
  ]);
  await putFile(target, webp);
  return { placeholder: `data:image/webp;base64,${tiny.toString('base64')}`, likeness: differenceHash(grey), whole };
}

/** Makes a picture of at most `pixels` on the longer side, for a whole screen or for looking at single pixels. */
export async function makeLarge(
  original: string,
  kind: FileKind | undefined,
  pixels: number,
  target: string,
): Promise<void> {
  const { data, info } = await decode(original, kind, pixels);
  await putFile(
    target,
    await sharp(data, { raw: { width: info.width, height: info.height, channels: info.channels } })
      .webp({ quality: 86, effort: 2 })
      .toBuffer(),
  );
}

/** The pixels of a picture of at most `pixels` on the longer side, upright: red, green and blue, row by row. */
export async function pixelsForLooking(
  original: string,
  kind: FileKind | undefined,
  pixels: number,
): Promise<{ data: Buffer; width: number; height: number }> {
  const { data, info } = await decode(original, kind, pixels);
  const { width, height, channels } = info;
  if (channels === 3) return { data, width, height };
  const rgb = await sharp(data, { raw: { width, height, channels } })
    .flatten({ background: 'white' })
    .toColourspace('srgb')
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  if (rgb.info.channels !== 3) throw new Error('the picture has no colours');
  return { data: rgb.data, width, height };
}

/** Writes a file that is there whole or not at all, with its folders. */
export async function putFile(target: string, bytes: Uint8Array): Promise<void> {
  await mkdir(dirname(target), { recursive: true });
  const temporary = `${target}.${process.pid}.part`;
  const handle = await open(temporary, 'w');
  try {
    await handle.writeFile(bytes);
  } finally {
    await handle.close();
  }
  await rename(temporary, target);
}

interface Decoded {
  data: Buffer;
  info: { width: number; height: number; channels: 1 | 2 | 3 | 4 };
  whole: boolean;
}

async function decode(original: string, kind: FileKind | undefined, pixels: number): Promise<Decoded> {
  if (kind === 'raw') return decodeEmbedded(original, pixels);
  const source = kind && hasStillProgram(kind) ? await stillOf(original, kind, pixels) : original;
  const { data, info } = await pixelsOf(sharp(source, options('truncated')).rotate(), pixels).catch(() => ({
    data: undefined,
    info: undefined,
  }));
  if (data) return { data, info, whole: true };
  return { ...(await pixelsOf(sharp(source, options('none')).rotate(), pixels)), whole: false };
}

/** A raw file shows the JPEG its camera put inside, turned as the file says. */
async function decodeEmbedded(original: string, pixels: number): Promise<Decoded> {
  const found = withSource(original, (source) => {
    const { preview, facts } = readMetadata(source);
    return preview && { bytes: Buffer.from(source.read(preview.start, preview.end - preview.start)), facts };
  });
  if (!found) throw new Error('the raw file holds no preview');
  const inside = sharp(found.bytes, options('none'));
  const { orientation } = await inside.metadata();
  const upright = orientation && orientation > 1 ? inside.rotate() : turned(inside, found.facts.orientation ?? 1);
  return { ...(await pixelsOf(upright, pixels)), whole: true };
}

/** Turns as EXIF's orientation asks (Exif 3.0, 4.6.5.1): first mirrored, then turned clockwise. */
function turned(picture: Sharp, orientation: number): Sharp {
  const mirrors = [2, 4, 5, 7].includes(orientation);
  const degrees = { 3: 180, 4: 180, 5: 270, 6: 90, 7: 90, 8: 270 }[orientation] ?? 0;
  return (mirrors ? picture.flop() : picture).rotate(degrees);
}

async function pixelsOf(picture: Sharp, pixels: number): Promise<Omit<Decoded, 'whole'>> {
  const sized = picture.resize(pixels, pixels, { fit: 'inside', withoutEnlargement: true });
  const { data, info } = await sized.toColourspace('srgb').raw().toBuffer({ resolveWithObject: true });
  return { data, info };
}

function options(failOn: 'truncated' | 'none') {
  return { limitInputPixels: MAX_INPUT_PIXELS, failOn } as const;
}
