// A copy of a picture as a delivery wants it: its size, sharpness, what is drawn on it, colours, and the format. It holds no metadata
// but its profile and resolution.

import sharp, { type Sharp } from 'sharp';
import type { FileKind } from '@stellin/core/metadata/containers/index';
import { formatFacts, type CopyFormat } from '@stellin/core/delivering/formats';
import { copySize, type Size } from '@stellin/core/delivering/sizing';
import type { CopySettings } from '@stellin/contract/delivering';
import { sizeText } from '@stellin/contract/sizeText';
import { messageOf } from '../errors';
import { openUpright } from '../files/preview';
import { drawLettering } from '../paper/lettering';

type Drawn = Exclude<CopyFormat, 'original'>;

/** What a copy is made of. */
export interface Original {
  path: string;
  kind: FileKind | undefined;
  /** How the catalogue says it is seen; else as the file says. */
  orientation?: number;
}

export interface Rendered extends Size {
  bytes: Buffer;
}

/** How large documents are drawn at most. */
const DOCUMENT_PIXELS = 6000;
const SHARPENING: Record<CopySettings['sharpen'], (picture: Sharp) => Sharp> = {
  none: (picture) => picture,
  light: (picture) => picture.sharpen({ sigma: 0.6 }),
  strong: (picture) => picture.sharpen({ sigma: 1, m1: 1, m2: 3 }),
};
const ENCODINGS: Record<Drawn, (picture: Sharp, quality: number, bits: 8 | 16) => Sharp> = {
  jpeg: (picture, quality) => picture.jpeg({ quality, chromaSubsampling: quality >= 90 ? '4:4:4' : '4:2:0' }),
  tiff: (picture) => picture.tiff({ compression: 'lzw', predictor: 'horizontal' }),
  png: (picture) => picture.png({ compressionLevel: 6 }),
  webp: (picture, quality) => picture.webp({ quality, effort: 4 }),
  avif: (picture, quality) => picture.avif({ quality, effort: 3 }),
};
const COLOURS: Record<CopySettings['colours'], (picture: Sharp) => Sharp> = {
  srgb: (picture) => picture.withIccProfile('srgb'),
  p3: (picture) => picture.withIccProfile('p3'),
  keep: (picture) => picture.keepIccProfile(),
};

/** Renders a copy. Throws an Error that says why where the picture can’t be decoded, or not be made as small as it is to be. */
export async function renderCopy(
  original: Original,
  settings: CopySettings & { format: Drawn },
  caption: string,
): Promise<Rendered> {
  if (isPlain(settings, caption)) return inOnePass(original, settings);
  const drawn = await draw(original, settings, caption);
  const encode = async (quality: number): Promise<Rendered> => {
    // From pixels that say nothing of where they come from: what sets the resolution lets all other metadata through.
    const picture = sharp(drawn, { limitInputPixels: false });
    const coloured = COLOURS[settings.colours](sixteen(picture, settings)).withDensity(settings.resolution);
    const { data, info } = await ENCODINGS[settings.format](coloured, quality, settings.bits).toBuffer({
      resolveWithObject: true,
    });
    return { bytes: data, width: info.width, height: info.height };
  };
  return formatFacts(settings.format).lossy && settings.maxBytes !== null
    ? fitted(encode, settings.quality, settings.maxBytes)
    : encode(settings.quality);
}

/** Nothing stands around the picture, and its quality is settled: then no pixels are kept between decoding and encoding. */
function isPlain({ format, border, maxBytes, caption: below }: CopySettings, caption: string): boolean {
  return format === 'jpeg' && border.pixels === 0 && maxBytes === null && !(below && caption !== '');
}

async function inOnePass(original: Original, settings: CopySettings & { format: Drawn }): Promise<Rendered> {
  const coloured = COLOURS[settings.colours](await shaped(original, settings).then(({ picture }) => picture));
  const { data, info } = await ENCODINGS.jpeg(coloured, settings.quality, 8).toBuffer({ resolveWithObject: true });
  return { bytes: withResolution(data, settings.resolution), width: info.width, height: info.height };
}

/**
 * A JPEG that says how many pixels an inch has, in its JFIF header (ISO/IEC 10918-5, 10.1). The library writes none beside a
 * profile; then one is put behind the first marker.
 */
function withResolution(jpeg: Buffer, pixelsPerInch: number): Buffer {
  const header = Buffer.from('ffe000104a46494600010201000000000000', 'hex');
  header.writeUInt16BE(pixelsPerInch, 12);
  header.writeUInt16BE(pixelsPerInch, 14);
  const hasHeader = jpeg.toString('latin1', 6, 10) === 'JFIF';
  return Buffer.concat([jpeg.subarray(0, 2), header, jpeg.subarray(hasHeader ? 2 + header.length : 2)]);
}

const LOWEST_QUALITY = 20;

/** The best quality, no better than wanted, at which a file is no larger than it may be: found by halving. */
async function fitted(
  encode: (quality: number) => Promise<Rendered>,
  quality: number,
  maxBytes: number,
): Promise<Rendered> {
  let best = await encode(quality);
  if (best.bytes.length <= maxBytes) return best;
  let [low, high] = [Math.min(LOWEST_QUALITY, quality), quality - 1];
  let found: Rendered | undefined;
  while (low <= high) {
    const middle = Math.floor((low + high) / 2);
    best = await encode(middle);
    if (best.bytes.length <= maxBytes) {
      found = best;
      low = middle + 1;
    } else high = middle - 1;
  }
  if (!found) throw new Error(`it can’t be made as small as ${sizeText(maxBytes)} at this size in pixels`);
  return found;
}

/** What keeps a picture of one channel as it is, and others as red, green and blue. */
function sixteen(picture: Sharp, { bits, format }: Pick<CopySettings, 'bits' | 'format'>): Sharp {
  return bits === 16 && formatFacts(format).bits === 16 ? picture.toColourspace('rgb16') : picture;
}

const RGB = new Set(['srgb', 'rgb16', 'b-w', 'grey16']);

/** The picture in its size, with the watermark. */
async function shaped(
  original: Original,
  settings: CopySettings & { format: Drawn },
): Promise<{ picture: Sharp; size: Size }> {
  const opened = await openUpright(original.path, original.kind, DOCUMENT_PIXELS, original);
  const { autoOrient: before, space } = await opened.metadata();
  const size = copySize(before, settings.size);
  const isSmaller = size.width < before.width || size.height < before.height;
  let picture = opened.resize(size.width, size.height, { fit: 'fill', withoutEnlargement: false });
  if (isSmaller) picture = SHARPENING[settings.sharpen](picture);
  if (!formatFacts(settings.format).alpha) picture = picture.flatten({ background: settings.background });
  // What is drawn on it is red, green and blue.
  if (!RGB.has(space ?? 'srgb')) picture = picture.withIccProfile('srgb');
  const mark = await watermarkFor(size, settings.watermark);
  return { picture: mark ? picture.composite([mark]) : picture, size };
}

/** The picture in its size with all that is drawn on it, as TIFF, which holds any pixels and their profile. */
async function draw(original: Original, settings: CopySettings & { format: Drawn }, caption: string): Promise<Buffer> {
  const { picture, size } = await shaped(original, settings);
  const first = await tiff(sixteen(picture, settings));
  const below = settings.caption && caption !== '' ? captionFor(size, caption) : undefined;
  const { pixels, colour } = settings.border;
  if (pixels === 0 && !below) return first;
  const framed = sharp(first, { limitInputPixels: false })
    .keepIccProfile()
    .extend({ top: pixels, left: pixels, right: pixels, bottom: pixels + (below?.band ?? 0), background: colour });
  // Drawn onto the band once that is there: both at once would be drawn before it.
  const banded = await tiff(sixteen(framed, settings));
  if (!below) return banded;
  return tiff(
    sixteen(
      sharp(banded, { limitInputPixels: false })
        .keepIccProfile()
        .composite([{ input: below.svg, left: pixels + below.margin, top: pixels + size.height + below.margin }]),
      settings,
    ),
  );
}

function tiff(picture: Sharp): Promise<Buffer> {
  return picture.tiff({ compression: 'none' }).toBuffer();
}

const CAPTION_SHARE = 0.028;
const LEAST_LETTERS = 12;

function captionFor({ width, height }: Size, caption: string) {
  const size = Math.max(LEAST_LETTERS, Math.round(Math.min(width, height) * CAPTION_SHARE));
  const margin = size;
  const { svg, height: high } = drawLettering(caption, {
    size,
    colour: '#17211f',
    opacity: 1,
    maxWidth: Math.max(size, width - 2 * margin),
  });
  return { svg, margin, band: high + 2 * margin };
}

/** What is drawn on a picture of a size, and where; undefined for nothing. */
async function watermarkFor(size: Size, watermark: CopySettings['watermark']) {
  if (watermark.picture !== '') return markPicture(size, watermark);
  if (watermark.text === '') return undefined;
  const height = Math.max(LEAST_LETTERS, markHeight(size, watermark));
  const margin = Math.round(height / 2);
  const drawn = drawLettering(watermark.text, {
    size: height,
    colour: '#ffffff',
    opacity: watermark.opacity,
    maxWidth: size.width - 2 * margin,
    halo: '#000000',
  });
  return { input: drawn.svg, ...placed(size, drawn, margin, watermark.place) };
}

/** A picture to be drawn on others; what it was made transparent by stays. */
async function markPicture(size: Size, watermark: CopySettings['watermark']) {
  const height = markHeight(size, watermark);
  const margin = Math.round(Math.min(size.width, size.height) * MARK_MARGIN_SHARE);
  const bytes = Buffer.from(watermark.picture.slice(watermark.picture.indexOf(',') + 1), 'base64');
  try {
    const { data, info } = await sharp(bytes, { limitInputPixels: MAX_MARK_PIXELS })
      .resize({
        width: Math.max(1, size.width - 2 * margin),
        height: Math.max(1, height),
        fit: 'inside',
      })
      .ensureAlpha()
      .composite([
        {
          input: Buffer.from([255, 255, 255, Math.round(watermark.opacity * 255)]),
          raw: { width: 1, height: 1, channels: 4 },
          tile: true,
          blend: 'dest-in',
        },
      ])
      .png()
      .toBuffer({ resolveWithObject: true });
    return { input: data, ...placed(size, info, margin, watermark.place) };
  } catch (error) {
    throw new Error(`the picture that is to be drawn on it can’t be read (${messageOf(error)})`, { cause: error });
  }
}

const MAX_MARK_PIXELS = 10_000_000;
const MARK_MARGIN_SHARE = 0.02;

function markHeight({ width, height }: Size, { percent }: CopySettings['watermark']): number {
  return Math.round((Math.min(width, height) * percent) / 100);
}

function placed(
  { width, height }: Size,
  mark: Size,
  margin: number,
  place: CopySettings['watermark']['place'],
): { left: number; top: number } {
  const middle = (whole: number, part: number) => Math.round((whole - part) / 2);
  const left =
    place === 'centre' ? middle(width, mark.width) : place.endsWith('west') ? margin : width - margin - mark.width;
  const top =
    place === 'centre'
      ? middle(height, mark.height)
      : place.startsWith('north')
        ? margin
        : height - margin - mark.height;
  return { left: Math.max(0, left), top: Math.max(0, top) };
}
