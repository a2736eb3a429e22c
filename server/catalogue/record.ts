// From a file's metadata to its catalogue record.

import { kindByName } from '@stellin/core/metadata/containers/index';
import type { FileMetadata } from '@stellin/core/metadata/read';
import { textsOf } from '@stellin/core/metadata/values';
import { cameraName } from '@stellin/core/search/said';
import { foldText } from '@stellin/core/text/words';
import type { RecordResult } from '../files/readRecord';
import { derivedOf, takenSpan, type Derived } from './derived';

/** A record as the store writes it; names are those of its columns. */
export interface PhotoRecord extends Derived {
  folder_id: number;
  name: string;
  kind: string;
  size_bytes: number;
  mtime_ms: number;
  sidecar_mtime_ms: number | null;
  width: number | null;
  height: number | null;
  rating: number;
  mark: string;
  mark_folded: string;
  damaged: boolean;
  fields: unknown;
  facts: unknown;
  issues: string[];
  disagreements: string[];
  name_folded: string;
  camera_folded: string;
  keywords: { keyword: string; folded: string; position: number }[];
}

/** The record of a file in a folder. */
export function recordOf(
  folderId: number,
  name: string,
  { sizeBytes, mtimeMs, sidecarMtimeMs, metadata }: Extract<RecordResult, { ok: true }>,
): PhotoRecord {
  const { fields, facts } = metadata;
  const mark = textsOf(fields.mark)[0] ?? '';
  const keywords = [...new Set(textsOf(fields.keywords))];
  return {
    folder_id: folderId,
    name,
    kind: metadata.kind ?? kindByName(name) ?? 'unknown',
    size_bytes: sizeBytes,
    mtime_ms: mtimeMs,
    sidecar_mtime_ms: sidecarMtimeMs,
    width: metadata.width ?? null,
    height: metadata.height ?? null,
    rating: ratingOf(fields.rating),
    mark,
    mark_folded: foldText(mark),
    damaged: metadata.damaged,
    fields,
    facts,
    issues: metadata.issues,
    disagreements: metadata.disagreements,
    name_folded: foldText(name),
    camera_folded: foldText(cameraName(facts)),
    ...derivedOf(name, fields, facts, keywords),
    keywords: keywords.map((keyword, position) => ({ keyword, folded: foldText(keyword), position })),
  };
}

/** When a picture was taken, to the second; of a time that is known only in part its first moment. */
export function takenAt({ fields, facts }: FileMetadata): string | null {
  return takenSpan(fields, facts)?.from ?? null;
}

/** Rejected, or whole stars; decimals as some programs write them are rounded down. */
function ratingOf(value: unknown): number {
  return typeof value === 'number' && Number.isFinite(value) ? Math.max(-1, Math.min(5, Math.floor(value))) : 0;
}
