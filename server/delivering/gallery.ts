// A web gallery: pictures in two sizes and the pages around them, as a ZIP that is made while it is read.

import type { Readable } from 'node:stream';
import sharp from 'sharp';
import { linesOf, type TableContext } from '@stellin/core/delivering/columns';
import { fileOf, galleryPages, type GalleryPhoto } from '@stellin/core/delivering/gallery';
import type { FieldId, FieldValue } from '@stellin/core/metadata/fields';
import { DEFAULT_LANGUAGE, textsOf } from '@stellin/core/metadata/values';
import type { FileKind } from '@stellin/core/metadata/containers/index';
import type { Position } from '@stellin/core/delivering/galleryMap';
import { copySettings, type GallerySettings } from '@stellin/contract/delivering';
import { messageOf, systemCode } from '../errors';
import { joinPath, resolveInside } from '../files/drivePath';
import { problemOf } from '../files/problem';
import { groundOf, type World } from './mapGround';
import { renderCopy, type Rendered } from './rendering';
import type { DeliveredPhoto, FileOutcome, PreviewOf, TableRow } from './store';
import { zipStream } from './zipStream';

/** Fields that captions and alt texts come from. */
export const GALLERY_FIELDS: readonly FieldId[] = ['description', 'headline', 'title', 'altText', 'position'];

const SMALL_EDGE = 400;
const LARGE_QUALITY = 84;
const SMALL_QUALITY = 78;

/** A photo with where its file is, and what is said of it without what is private. */
export interface ShownPhoto {
  file: DeliveredPhoto;
  row: TableRow;
}

export interface GalleryContext extends TableContext {
  at: Date;
  /** The file with the preview of a photo whose drive is away; null where there is none. */
  previewOf: PreviewOf;
  world: World;
  noteOutcomes: (outcomes: readonly FileOutcome[]) => Promise<void>;
}

/** Writes a gallery. A photo of which there is no picture is left out, and noted with the reason. */
export function writeGallery(
  pages: AsyncIterable<readonly ShownPhoto[]>,
  settings: GallerySettings,
  context: GalleryContext,
): Readable {
  const copies = shownCopy(settings);
  return zipStream(context.at, async (zip) => {
    const photos: GalleryPhoto[] = [];
    for await (const page of pages) {
      const outcomes: FileOutcome[] = [];
      for (const { file, row } of page) {
        const { position, path } = file;
        const made = await picturesOf(file, row, copies, context);
        if ('problem' in made) {
          outcomes.push({ position, path, state: 'failed', bytes: null, sha256: null, problem: made.problem });
          continue;
        }
        const { large, small } = made;
        const photo = shown(photos.length + 1, large, row, settings, context);
        await zip.add(`large/${fileOf(photo)}.jpg`, { bytes: large.bytes });
        await zip.add(`small/${fileOf(photo)}.jpg`, { bytes: small });
        photos.push(photo);
        outcomes.push({ position, path, state: 'written', bytes: large.bytes.length, sha256: null, problem: null });
      }
      await context.noteOutcomes(outcomes);
    }
    const placed = photos.flatMap(({ position }) => (position === null ? [] : [position]));
    const map = placed.length > 0 ? await groundOf(placed, context.world) : undefined;
    for (const { name, text } of galleryPages({ ...settings, photos, map }))
      await zip.add(name, { bytes: Buffer.from(text) });
  });
}

/** How a picture is made that is shown on pages outside: a JPEG, no larger than wanted, with a watermark. */
export function shownCopy({ longEdge, watermark }: Pick<GallerySettings, 'longEdge' | 'watermark'>) {
  const settings = copySettings.parse({
    quality: LARGE_QUALITY,
    size: { by: 'long', value: longEdge, height: 1, enlarge: false },
    watermark: { text: watermark, picture: '', place: 'southeast', opacity: 0.6, percent: 3 },
    resolution: 96,
  });
  return { ...settings, format: 'jpeg' as const };
}

/** Both pictures of a photo, or why there are none. */
async function picturesOf(
  file: DeliveredPhoto,
  row: TableRow,
  settings: Parameters<typeof renderCopy>[1],
  context: GalleryContext,
): Promise<{ large: Rendered; small: Buffer } | { problem: string }> {
  try {
    const large = await largeOf(file, row, settings, context);
    const small = await sharp(large.bytes)
      .resize(SMALL_EDGE, SMALL_EDGE, { fit: 'inside', withoutEnlargement: true })
      .jpeg({ quality: SMALL_QUALITY })
      .toBuffer();
    return { large, small };
  } catch (error) {
    return { problem: systemCode(error) === undefined ? messageOf(error) : problemOf(error) };
  }
}

/** The large view: of the original, or where that is away of its preview. */
async function largeOf(
  { attached, mountPoint, missing, folder, name, kind, orientation }: DeliveredPhoto,
  row: TableRow,
  settings: Parameters<typeof renderCopy>[1],
  { previewOf }: GalleryContext,
): Promise<Rendered> {
  if (attached && mountPoint !== null && !missing)
    return renderCopy(
      { path: await resolveInside(mountPoint, joinPath(folder, name)), kind: kind as FileKind, orientation },
      settings,
      '',
    );
  const preview = await previewOf(row);
  if (preview === null) throw new Error('its drive is away, and there is no preview of it');
  return renderCopy({ path: preview, kind: 'webp' }, settings, '');
}

function shown(
  number: number,
  { width, height }: Rendered,
  row: TableRow,
  { fields, terms, map }: GallerySettings,
  context: TableContext,
): GalleryPhoto {
  const { description, headline, title, altText } = row.fields;
  const captions = captionsOf(description ?? headline ?? title);
  const lines = fields.flatMap((id) => linesOf(id, row, context));
  return {
    number,
    width,
    height,
    alt: textsOf(altText)[0] ?? captions[DEFAULT_LANGUAGE] ?? `Picture ${number}`,
    captions,
    lines,
    position: map ? positionOf(row.fields.position) : null,
    terms: terms ? row.termIds.flatMap((id) => context.tree.get(id)?.label ?? []) : [],
  };
}

/** Where a photo says that it was taken. */
export function positionOf(value: FieldValue | undefined): Position | null {
  if (typeof value !== 'object' || Array.isArray(value)) return null;
  const { latitude, longitude } = value;
  return typeof latitude === 'number' && typeof longitude === 'number' ? { latitude, longitude } : null;
}

function captionsOf(value: FieldValue | undefined): Record<string, string> {
  if (value === undefined) return {};
  if (typeof value !== 'object' || Array.isArray(value)) return { [DEFAULT_LANGUAGE]: textsOf(value).join(' ') };
  return Object.fromEntries(
    Object.entries(value).flatMap(([tag, text]) => (typeof text === 'string' ? [[tag, text]] : [])),
  );
}
