// Previews: small WebP pictures kept in the data folder, made from the original, the preview inside a raw file, or a still
// of a document or film.

import { mkdir, open, rename } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { requireNoDrawing } from './drawing';
import sharp, { type Sharp } from 'sharp';
import { differenceHash, greyParts } from '@stellin/core/intake/likeness';
import type { FileKind } from '@stellin/core/metadata/containers/index';
import { readMetadata } from '@stellin/core/metadata/read';
import { withSource } from './source';
import { hasStillProgram, stillOf } from './still';

const PREVIEW_PIXELS = 640;
/** Wide enough for a screen. */
export const LARGE_PIXELS = 2048;
/** The longest side a WebP can have. */
export const FULL_PIXELS = 16_383;
const SMALL_PIXELS = 64;
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
  const { data: webp, whole } = await decode(original, kind, PREVIEW_PIXELS, (picture) =>
    picture.webp({ quality: 80, effort: 2 }),
  );
  // What is smaller is made of this: it is quicker than of the original.
  const [small, tiny] = await Promise.all([
    sharp(webp).resize(SMALL_PIXELS, SMALL_PIXELS, { fit: 'inside' }).raw().toBuffer({ resolveWithObject: true }),
    sharp(webp)
      .resize(PLACEHOLDER_PIXELS, PLACEHOLDER_PIXELS, { fit: 'inside' })
      .webp({ quality: 30, effort: 0 })
      .toBuffer(),
  ]);
  await putFile(target, webp);
  return {
    placeholder: `data:image/webp;base64,${tiny.toString('base64')}`,
    likeness: differenceHash(greyParts({ ...small.info, data: small.data })),
    whole,
  };
}

/** Makes a picture of at most `pixels` on the longer side, for a whole screen or for looking at single pixels; of several pages one, from 1. */
export async function makeLarge(
  original: string,
  kind: FileKind | undefined,
  pixels: number,
  target: string,
  page = 1,
): Promise<void> {
  const { data } = await decode(original, kind, pixels, (picture) => picture.webp({ quality: 86, effort: 2 }), page);
  await putFile(target, data);
}

/** The pixels of a picture of at most `pixels` on the longer side, upright: red, green and blue, row by row. */
export async function pixelsForLooking(
  original: string,
  kind: FileKind | undefined,
  pixels: number,
): Promise<{ data: Buffer; width: number; height: number }> {
  const { data, info } = await decode(original, kind, pixels, (picture) => picture.raw());
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

/** As what the pixels are wanted. */
type Encode = (picture: Sharp) => Sharp;

async function decode(
  original: string,
  kind: FileKind | undefined,
  pixels: number,
  encode: Encode,
  page = 1,
): Promise<Decoded> {
  if (kind === 'raw') return decodeEmbedded(original, pixels, encode);
  const isDrawn = kind && hasStillProgram(kind);
  const source = isDrawn ? await stillOf(original, kind, pixels, page) : original;
  await requireNoDrawing(source);
  const opened = (failOn: 'truncated' | 'none') =>
    sharp(source, { ...options(failOn), ...(isDrawn || page === 1 ? {} : { page: page - 1 }) }).rotate();
  const found = await sized(opened('truncated'), pixels, encode).catch(() => undefined);
  return found ? { ...found, whole: true } : { ...(await sized(opened('none'), pixels, encode)), whole: false };
}

/**
 * A picture as it is seen, for copies of it: upright, with its own colours. What broke off, or is a drawing, is refused with an Error that
 * says so. `pixels`: how large documents are drawn.
 */
export async function openUpright(original: string, kind: FileKind | undefined, pixels: number): Promise<Sharp> {
  if (kind === 'raw') {
    const turnedAlready = (await openEmbedded(original, 'truncated')).keepIccProfile();
    return sharp(await turnedAlready.tiff({ compression: 'none' }).toBuffer()).keepIccProfile();
  }
  const source = kind && hasStillProgram(kind) ? await stillOf(original, kind, pixels) : original;
  await requireNoDrawing(source);
  return sharp(source, options('truncated')).autoOrient().keepIccProfile();
}

/** A raw file shows the JPEG its camera put inside. */
async function decodeEmbedded(original: string, pixels: number, encode: Encode): Promise<Decoded> {
  return { ...(await sized(await openEmbedded(original, 'none'), pixels, encode)), whole: true };
}

/** The JPEG that a camera put into a raw file, turned as the file says. */
async function openEmbedded(original: string, failOn: 'truncated' | 'none'): Promise<Sharp> {
  const found = withSource(original, (source) => {
    const { preview, facts } = readMetadata(source);
    return preview && { bytes: Buffer.from(source.read(preview.start, preview.end - preview.start)), facts };
  });
  if (!found) throw new Error('the raw file holds no preview');
  await requireNoDrawing(found.bytes);
  const inside = sharp(found.bytes, options(failOn));
  const { orientation } = await inside.metadata();
  return orientation && orientation > 1 ? inside.rotate() : turned(inside, found.facts.orientation ?? 1);
}

/** Turns as EXIF's orientation asks (Exif 3.0, 4.6.5.1): first mirrored, then turned clockwise. */
function turned(picture: Sharp, orientation: number): Sharp {
  const mirrors = [2, 4, 5, 7].includes(orientation);
  const degrees = { 3: 180, 4: 180, 5: 270, 6: 90, 7: 90, 8: 270 }[orientation] ?? 0;
  return (mirrors ? picture.flop() : picture).rotate(degrees);
}

async function sized(picture: Sharp, pixels: number, encode: Encode): Promise<Omit<Decoded, 'whole'>> {
  const smaller = picture.resize(pixels, pixels, { fit: 'inside', withoutEnlargement: true }).toColourspace('srgb');
  return encode(smaller).toBuffer({ resolveWithObject: true });
}

function options(failOn: 'truncated' | 'none') {
  return { limitInputPixels: MAX_INPUT_PIXELS, failOn } as const;
}
