// From a file's metadata to its catalogue record.

import { kindByName } from '@stellin/core/metadata/containers/index';
import type { FileMetadata } from '@stellin/core/metadata/read';
import { textsOf } from '@stellin/core/metadata/values';
import { SEARCHED_FIELDS } from '@stellin/core/search/criteria';
import { dateInterval } from '@stellin/core/search/dates';
import { foldText } from '@stellin/core/search/words';
import type { RecordResult } from '../files/readRecord';
import { wordVector } from '../search/vector';

/** A record as the store writes it; names are those of its columns. */
export interface PhotoRecord {
  folder_id: number;
  name: string;
  kind: string;
  size_bytes: number;
  mtime_ms: number;
  sidecar_mtime_ms: number | null;
  width: number | null;
  height: number | null;
  orientation: number;
  taken_at: string | null;
  rating: number;
  mark: string;
  mark_folded: string;
  damaged: boolean;
  has_caption: boolean;
  has_people: boolean;
  has_location: boolean;
  caption: string;
  fields: unknown;
  facts: unknown;
  issues: string[];
  disagreements: string[];
  fields_folded: Record<string, string[]>;
  name_folded: string;
  caption_folded: string;
  camera_folded: string;
  words: string;
  keywords: { keyword: string; folded: string; position: number }[];
}

/** Fields whose text the words of a query are looked for in. */
const WORD_FIELDS = [
  'title',
  'headline',
  'description',
  'creator',
  'personInImage',
  'sublocation',
  'city',
  'provinceState',
  'country',
  'jobId',
  'source',
] as const;

/** The record of a file in a folder. */
export function recordOf(
  folderId: number,
  name: string,
  { sizeBytes, mtimeMs, sidecarMtimeMs, metadata }: Extract<RecordResult, { ok: true }>,
): PhotoRecord {
  const { fields, facts } = metadata;
  const caption = textsOf(fields.description)[0] ?? '';
  const mark = textsOf(fields.mark)[0] ?? '';
  const camera = [facts.make, facts.model].filter(Boolean).join(' ');
  const keywords = [...new Set(textsOf(fields.keywords))];
  const located = [
    fields.sublocation,
    fields.city,
    fields.provinceState,
    fields.country,
    fields.locationShown,
    facts.latitude,
  ].some((value) => value !== undefined);
  return {
    folder_id: folderId,
    name,
    kind: metadata.kind ?? kindByName(name) ?? 'unknown',
    size_bytes: sizeBytes,
    mtime_ms: mtimeMs,
    sidecar_mtime_ms: sidecarMtimeMs,
    width: metadata.width ?? null,
    height: metadata.height ?? null,
    orientation: orientationOf(facts.orientation),
    taken_at: takenAt(metadata),
    rating: ratingOf(fields.rating),
    mark,
    mark_folded: foldText(mark),
    damaged: metadata.damaged,
    has_caption: caption !== '',
    has_people: textsOf(fields.personInImage).length > 0,
    has_location: located,
    caption,
    fields,
    facts,
    issues: metadata.issues,
    disagreements: metadata.disagreements,
    fields_folded: Object.fromEntries(
      SEARCHED_FIELDS.flatMap(({ id }) => (fields[id] === undefined ? [] : [[id, textsOf(fields[id]).map(foldText)]])),
    ),
    name_folded: foldText(name),
    caption_folded: foldText(caption),
    camera_folded: foldText(camera),
    words: wordVector([name, ...WORD_FIELDS.flatMap((field) => textsOf(fields[field])), ...keywords]),
    keywords: keywords.map((keyword, position) => ({ keyword, folded: foldText(keyword), position })),
  };
}

/** EXIF says when the shutter was pressed; else the date created, of which a part may be known (its first moment counts). */
export function takenAt({ facts, fields }: FileMetadata): string | null {
  if (facts.takenAt) return facts.takenAt;
  const created = textsOf(fields.dateCreated)[0] ?? '';
  const local = /^\d{4}(-\d{2}(-\d{2}(T\d{2}:\d{2})?)?)?/.exec(created)?.[0] ?? '';
  return dateInterval(local)?.from ?? null;
}

/** Rejected, or whole stars; decimals as some programs write them are rounded down. */
function ratingOf(value: unknown): number {
  return typeof value === 'number' && Number.isFinite(value) ? Math.max(-1, Math.min(5, Math.floor(value))) : 0;
}

function orientationOf(value: number | undefined): number {
  return value !== undefined && Number.isInteger(value) && value >= 1 && value <= 8 ? value : 1;
}
