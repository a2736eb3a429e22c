// Previews: small WebP pictures kept in the data folder, made from the original, the preview inside a raw file, or a still
// of a document or film.

import { mkdir, open, readFile, rename } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { requireNoDrawing } from './drawing';
import sharp, { type Sharp } from 'sharp';
import { differenceHash, greyParts } from '@stellin/core/intake/likeness';
import { lookOf, type LookPixels } from '@stellin/core/lookalikes/look';
import { kindFacts, type FileKind } from '@stellin/core/metadata/containers/index';
import { openRaw } from './rawPicture';
import { hasStill, stillOf } from './still';
import { options, turned, type FailOn } from './turned';

const PREVIEW_PIXELS = 640;
/** Wide enough for a screen. */
export const LARGE_PIXELS = 2048;
/** The longest side a WebP can have. */
export const FULL_PIXELS = 16_383;
const SMALL_PIXELS = 64;
const PLACEHOLDER_PIXELS = 16;

sharp.cache(false);

/** Where the preview of a photo is kept. */
export function previewPath(folder: string, photoId: number, version: number): string {
  const bucket = String(Math.floor(photoId / 1000)).padStart(4, '0');
  return join(folder, bucket, `${photoId}-${version}.webp`);
}

/** Where the large picture of a photo is kept, by what its sizes are called. */
export function largePath(folder: string, size: string, photoId: number, version: number): string {
  return join(folder, size, `${photoId}-${version}.webp`);
}

/** What is measured of a preview. */
export interface MeasuredPreview {
  /** How it looks (core/lookalikes/look): an Int8Array in base64. */
  look: string;
  /** The deviation of a Laplacian: the higher the sharper. */
  sharpness: number;
}

export interface MadePreview extends MeasuredPreview {
  /** A tiny picture as a data URL. */
  placeholder: string;
  /** The difference hash. */
  likeness: bigint;
  /** False when the picture data broke off and only a part could be decoded. */
  whole: boolean;
}

/** How a picture is to be seen. */
export interface Seen {
  /** As the catalogue has it; else as the file says. */
  orientation?: number | undefined;
  /** Of several pages one, from 1. */
  page?: number | undefined;
  /** Of a film the second whose picture stands for it. */
  poster?: number | null | undefined;
}

/** Makes a preview of at most 640 pixels on the longer side, turned upright, in sRGB. Throws an Error that says why when nothing can be decoded. */
export async function makePreview(
  original: string,
  kind: FileKind | undefined,
  target: string,
  seen: Seen = {},
): Promise<MadePreview> {
  const { data: webp, whole } = await decode(original, kind, PREVIEW_PIXELS, previewOf, seen);
  return { ...(await putPreview(webp, target)), whole };
}

/** Measures a preview that is kept. Throws what the system says where there is none. */
export async function measurePreview(kept: string): Promise<MeasuredPreview> {
  const webp = await readFile(kept);
  const [small, { sharpness }] = await Promise.all([smallPixels(webp), sharp(webp).stats()]);
  return { look: lookText(small), sharpness };
}

/** The pixels of a preview, given as its bytes or its path, in a size in which pictures are compared. */
export async function smallPixels(preview: Buffer | string): Promise<LookPixels> {
  const { data, info } = await sharp(typeof preview === 'string' ? await readFile(preview) : preview)
    .resize(SMALL_PIXELS, SMALL_PIXELS, { fit: 'inside' })
    .toColourspace('srgb')
    .raw()
    .toBuffer({ resolveWithObject: true });
  if (info.channels >= 3) return { ...info, data };
  // Grey becomes red, green and blue of the same.
  const rgb = new Uint8Array(info.width * info.height * 3);
  for (let i = 0; i < info.width * info.height; i++) rgb.fill(data[i * info.channels] ?? 0, i * 3, i * 3 + 3);
  return { data: rgb, width: info.width, height: info.height, channels: 3 };
}

const lookText = (pixels: LookPixels): string => Buffer.from(lookOf(pixels).buffer).toString('base64');

/** Makes a preview out of the one there is, turned (core/metadata/orientation). */
export async function turnPreview(kept: string, by: number, target: string): Promise<Omit<MadePreview, 'whole'>> {
  return putPreview(await previewOf(turned(sharp(await readFile(kept)), by)).toBuffer(), target);
}

/** Makes another kept picture out of one, turned. Throws what the system says where there is none. */
export async function turnKept(kept: string, by: number, target: string): Promise<void> {
  await putFile(target, await largeOf(turned(sharp(await readFile(kept)), by)).toBuffer());
}

const previewOf: Encode = (picture) => picture.webp({ quality: 80, effort: 2 });
const largeOf: Encode = (picture) => picture.webp({ quality: 86, effort: 2 });

async function putPreview(webp: Buffer, target: string): Promise<Omit<MadePreview, 'whole'>> {
  // What is smaller is made of this: it is quicker than of the original.
  const [small, { sharpness }, tiny] = await Promise.all([
    smallPixels(webp),
    sharp(webp).stats(),
    sharp(webp)
      .resize(PLACEHOLDER_PIXELS, PLACEHOLDER_PIXELS, { fit: 'inside' })
      .webp({ quality: 30, effort: 0 })
      .toBuffer(),
  ]);
  await putFile(target, webp);
  return {
    placeholder: `data:image/webp;base64,${tiny.toString('base64')}`,
    likeness: differenceHash(greyParts(small)),
    look: lookText(small),
    sharpness,
  };
}

/** Makes a picture of at most `pixels` on the longer side, for a whole screen or for looking at single pixels. */
export async function makeLarge(
  original: string,
  kind: FileKind | undefined,
  pixels: number,
  target: string,
  seen: Seen = {},
): Promise<void> {
  const { data } = await decode(original, kind, pixels, largeOf, seen);
  await putFile(target, data);
}

/** The pixels of a picture of at most `pixels` on the longer side, upright: red, green and blue, row by row. */
export async function pixelsForLooking(
  original: string,
  kind: FileKind | undefined,
  pixels: number,
  seen: Seen = {},
): Promise<{ data: Buffer; width: number; height: number }> {
  const { data, info } = await decode(original, kind, pixels, (picture) => picture.raw(), seen);
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
  { orientation, page = 1, poster = null }: Seen,
): Promise<Decoded> {
  const wanted = wantedOf(kind, orientation);
  if (kind && kindFacts(kind).raw)
    return { ...(await sized(openRaw(original, kind, pixels, 'none', wanted), pixels, encode)), whole: true };
  const isDrawn = kind && hasStill(kind);
  const source = isDrawn ? await stillOf(original, kind, { pixels, page, at: poster }) : original;
  await requireNoDrawing(source);
  const open = (failOn: FailOn) =>
    sharp(source, { ...options(failOn), ...(isDrawn || page === 1 ? {} : { page: page - 1 }) });
  const opened = async (failOn: FailOn) =>
    (await isSeenAs(open(failOn), wanted)) ? open(failOn).autoOrient() : turned(open(failOn), wanted ?? 1);
  const found = await sized(opened('truncated'), pixels, encode).catch(() => undefined);
  return found ? { ...found, whole: true } : { ...(await sized(opened('none'), pixels, encode)), whole: false };
}

/** The orientation that is asked for; of kinds that are not turned none. */
function wantedOf(kind: FileKind | undefined, orientation: number | undefined): number | undefined {
  return kind && kindFacts(kind).turns ? orientation : undefined;
}

/** Whether a file says itself that it is seen so; what nobody asks for is seen as it says. */
async function isSeenAs(picture: Sharp, wanted: number | undefined): Promise<boolean> {
  return wanted === undefined || ((await picture.metadata()).orientation ?? 1) === wanted;
}

/**
 * A picture as it is seen, for copies of it: upright, with its own colours. What broke off, or is a drawing, is refused with an Error that
 * says so. `pixels`: how large documents are drawn.
 */
export async function openUpright(
  original: string,
  kind: FileKind | undefined,
  pixels: number,
  { orientation, poster = null }: Seen = {},
): Promise<Sharp> {
  const wanted = wantedOf(kind, orientation);
  if (kind && kindFacts(kind).raw) return drawn(await openRaw(original, kind, pixels, 'truncated', wanted));
  const source = kind && hasStill(kind) ? await stillOf(original, kind, { pixels, at: poster }) : original;
  await requireNoDrawing(source);
  const open = () => sharp(source, options('truncated'));
  return (await isSeenAs(open(), wanted)) ? open().autoOrient().keepIccProfile() : drawn(turned(open(), wanted ?? 1));
}

/** A picture that was turned already, to be opened as one that stands upright. */
async function drawn(picture: Sharp): Promise<Sharp> {
  return sharp(await picture.keepIccProfile().tiff({ compression: 'none' }).toBuffer()).keepIccProfile();
}

async function sized(picture: Sharp | Promise<Sharp>, pixels: number, encode: Encode): Promise<Omit<Decoded, 'whole'>> {
  const smaller = (await picture)
    .resize(pixels, pixels, { fit: 'inside', withoutEnlargement: true })
    .toColourspace('srgb');
  return encode(smaller).toBuffer({ resolveWithObject: true });
}
