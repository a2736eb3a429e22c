// Reading a file again whose description has changed in the catalogue meanwhile: what both sides say goes together, field
// by field, and what goes together in no way is kept as a conflict until it is settled.

import { KEPT_APART, mergeValues } from '@stellin/core/metadata/merge';
import type { FieldId, FieldValue, FieldValues } from '@stellin/core/metadata/fields';
import type { FileFacts } from '@stellin/core/metadata/read';
import { sameValue } from '@stellin/core/metadata/values';
import type { Database, Transaction } from '../database/database';
import { derivedOf } from './derived';

/** What of a catalogue record the merge looks at; see server/intake/record.ts. */
interface ReadRecord {
  folder_id: number;
  name: string;
  rating: number;
  mark: string;
  mark_folded: string;
  fields: FieldValues;
  facts: FileFacts;
  keywords: { keyword: string }[];
}

interface Waiting {
  place: number;
  id: number;
  rating: number;
  ratingWritten: number;
  mark: string;
  markWritten: string;
  fields: FieldValues;
  pending: Record<string, FieldValue | null>;
}

/**
 * - `merge`: the file may hold what others wrote; what only one side changed stands.
 * - `catalogue`: the catalogue stands, and the file waits to be written anew wherever it says otherwise.
 */
export type ReadingMode = 'merge' | 'catalogue';

/**
 * Records (JSON, of one drive) of files just read, with what the catalogue is to say of them. What the files say of fields that the
 * catalogue says otherwise is kept.
 */
export async function mergeRecords(
  database: Database,
  driveId: string,
  records: readonly string[],
  mode: ReadingMode,
  tx: Transaction,
): Promise<readonly string[]> {
  const waits = await database.row(
    'select 1 as waits from write_back b join photo p on p.id = b.photo_id where p.drive_id = $1 limit 1',
    [driveId],
    tx,
  );
  if (!waits && mode === 'merge') return records;
  const waiting = await database.rows<Waiting>(
    `select (r.place - 1)::int as place, p.id, p.rating, p.rating_written as "ratingWritten", p.mark, p.mark_written as "markWritten", t.fields,
       coalesce((select jsonb_object_agg(i.field, i.value) from field_in_file i where i.photo_id = p.id), '{}') as pending
     from jsonb_array_elements($1::jsonb) with ordinality r (record, place)
     join photo p on p.folder_id = (r.record ->> 'folder_id')::int and p.name = r.record ->> 'name' join photo_text t on t.photo_id = p.id
     ${mode === 'merge' ? 'join write_back b on b.photo_id = p.id' : ''}`,
    [`[${records.join(',')}]`],
    tx,
  );
  const merged = [...records];
  const kept: Kept[] = [];
  for (const photo of waiting) {
    const record = JSON.parse(records[photo.place] ?? '{}') as ReadRecord;
    merged[photo.place] = JSON.stringify({ ...record, ...mergedRecord(photo, record, mode, kept) });
  }
  await keep(
    database,
    waiting.map(({ id }) => id),
    kept,
    tx,
  );
  return merged;
}

interface Kept {
  photoId: number;
  field: string;
  value: FieldValue | null;
  conflicting: FieldValue | null | undefined;
}

function mergedRecord(photo: Waiting, record: ReadRecord, mode: ReadingMode, kept: Kept[]) {
  const catalogue = described(photo.fields);
  const file = described(record.fields);
  const base = mode === 'merge' ? withPending(catalogue, photo.pending) : file;
  const { values, conflicts } = mergeValues(base, catalogue, file);
  const inConflict = new Set<string>(conflicts);
  for (const id of new Set([...Object.keys(values), ...Object.keys(file)]) as Set<FieldId>) {
    const conflicting = inConflict.has(id) ? (file[id] ?? null) : undefined;
    if (conflicting !== undefined) kept.push({ photoId: photo.id, field: id, value: base[id] ?? null, conflicting });
    else if (!sameValue(values[id], file[id]))
      kept.push({ photoId: photo.id, field: id, value: file[id] ?? null, conflicting });
  }
  const fields: FieldValues = { ...record.fields };
  for (const id of Object.keys(fields) as FieldId[]) if (!KEPT_APART.has(id)) delete fields[id];
  Object.assign(fields, values);
  const keywords = record.keywords.map(({ keyword }) => keyword);
  return {
    fields,
    ...derivedOf(record.name, fields, record.facts, keywords),
    ...ratingAndMark(photo, record, mode, kept),
  };
}

/** The file's rating and mark as they are to be kept as written: where they conflict, what was known before. */
function ratingAndMark(photo: Waiting, record: ReadRecord, mode: ReadingMode, kept: Kept[]) {
  const differ = <Value>(catalogue: Value, written: Value, file: Value) =>
    mode === 'merge' && catalogue !== written && file !== written && file !== catalogue;
  const result: Partial<Pick<ReadRecord, 'rating' | 'mark'>> = {};
  if (differ(photo.rating, photo.ratingWritten, record.rating)) {
    kept.push({ photoId: photo.id, field: 'rating', value: photo.ratingWritten, conflicting: record.rating });
    result.rating = photo.ratingWritten;
  }
  if (differ(photo.mark, photo.markWritten, record.mark)) {
    kept.push({ photoId: photo.id, field: 'mark', value: photo.markWritten, conflicting: record.mark });
    result.mark = photo.markWritten;
  }
  return result;
}

function described(fields: FieldValues): FieldValues {
  return Object.fromEntries(Object.entries(fields).filter(([id]) => !KEPT_APART.has(id))) as FieldValues;
}

/** What the file said when it was read last: as the catalogue says, but for the fields that differ. */
function withPending(catalogue: FieldValues, pending: Waiting['pending']): FieldValues {
  const all: Record<string, FieldValue | null | undefined> = { ...catalogue, ...pending };
  return described(Object.fromEntries(Object.entries(all).filter(([, value]) => value !== null)) as FieldValues);
}

async function keep(database: Database, photoIds: readonly number[], kept: readonly Kept[], tx: Transaction) {
  await database.rows('delete from field_in_file where photo_id = any($1)', [photoIds], tx);
  await database.rows(
    `insert into field_in_file (photo_id, field, value, conflicting)
     select r."photoId", r.field, coalesce(r.value, 'null'), case when r.conflicts then coalesce(r.conflicting, 'null') end
     from jsonb_to_recordset($1::jsonb) as r ("photoId" int, field text, value jsonb, conflicting jsonb, conflicts boolean)`,
    [JSON.stringify(kept.map((row) => ({ ...row, conflicts: row.conflicting !== undefined })))],
    tx,
  );
}
