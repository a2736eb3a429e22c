// Changing tags of a TIFF structure without moving anything that is in it: a value that fits goes where the old one was,
// others are put behind the end, and so is a directory that grows. Strips, maker notes and whatever else is found by its
// offset stays where it is.

import { asciiBytes, concatBytes, memorySource, viewOf } from '../bytes';
import { assemble, joinPieces, lengthOf, type Piece } from '../pieces';
import type { TagEdit } from './exif';
import { EXIF_TAG } from './exifTags';
import { allIfds, codedRanges, readTiff, TAG, type Ifd, type IfdEntry, type TiffStructure } from './tiff';

interface RawEntry {
  tag: number;
  bytes: Uint8Array;
}

interface Draft {
  tiff: TiffStructure;
  /** What replaces bytes of the old structure. */
  patches: { at: number; bytes: Uint8Array }[];
  /** How much of the old structure is kept. */
  keptSize: number;
  appended: Uint8Array[];
  end: number;
}

const ENTRY_BYTES = 12;
/** A TIFF header and an empty directory, big-endian. */
const EMPTY_EXIF = concatBytes([asciiBytes('MM'), Uint8Array.of(0, 42, 0, 0, 0, 8, 0, 0, 0, 0, 0, 0)]);
/** Every EXIF directory says its version first (EXIF 3.0, 4.6.5). */
const EXIF_VERSION: TagEdit = { ifd: 'exif', tag: EXIF_TAG.exifVersion, type: 7, count: 4, data: asciiBytes('0232') };
const POINTERS = [
  ['exif', TAG.exifIfd],
  ['gps', TAG.gpsIfd],
] as const;

/** The new structure as pieces of the old one. Throws an Error that says why when it can't be changed safely. */
export function editTiff(tiff: TiffStructure, edits: readonly TagEdit[]): Piece[] {
  const { source } = tiff;
  const [main] = tiff.pages;
  if (tiff.big) throw new Error('a BigTIFF is not written to');
  if (!main) throw new Error('there is no directory to write to');
  if (tiff.broken) throw new Error(`${tiff.issues.join('; ')}, so it is left as it is`);
  const draft: Draft = { tiff, patches: [], keptSize: source.size, appended: [], end: source.size };
  const pointers: TagEdit[] = POINTERS.flatMap(([name, tag]) => {
    const own = edits.filter(({ ifd }) => ifd === name);
    const isNew = name === 'exif' && !tiff.exif && own.some(({ data }) => data);
    const offset = editIfd(draft, tiff[name], isNew ? [EXIF_VERSION, ...own] : own);
    return offset === undefined ? [] : [{ ifd: 'main', tag, type: 4, count: 1, data: numberBytes(draft, offset) }];
  });
  const moved = editIfd(draft, main, [...edits.filter(({ ifd }) => ifd === 'main'), ...pointers]);
  if (moved !== undefined) draft.patches.push({ at: main.pointerAt, bytes: numberBytes(draft, moved) });
  return piecesOf(draft);
}

/** An EXIF block with the edits made; a new one when there was none. Undefined when there is nothing to say. */
export function editedExif(tiff: TiffStructure | undefined, edits: readonly TagEdit[]): Uint8Array | undefined {
  if (tiff)
    return edits.length > 0 ? assemble(tiff.source, editTiff(tiff, edits)) : tiff.source.read(0, tiff.source.size);
  if (edits.every(({ data }) => !data)) return undefined;
  const fresh = readTiff(memorySource(EMPTY_EXIF));
  return assemble(fresh.source, editTiff(fresh, edits));
}

/** Makes the edits of one directory; returns its new offset when it had to move. */
function editIfd(draft: Draft, ifd: Ifd | undefined, edits: readonly TagEdit[]): number | undefined {
  if (edits.length === 0 || (!ifd && edits.every(({ data }) => !data))) return undefined;
  const edited = new Set(edits.map(({ tag }) => tag));
  const entries: RawEntry[] = (ifd?.list ?? [])
    .filter(({ tag }) => !edited.has(tag))
    .map((entry) => ({ tag: entry.tag, bytes: draft.tiff.source.read(entry.at, ENTRY_BYTES).slice() }));
  for (const edit of edits)
    if (edit.data)
      entries.push({ tag: edit.tag, bytes: entryBytes(draft, edit, edit.data, ifd?.entries.get(edit.tag)) });
  entries.sort((a, b) => a.tag - b.tag);
  const table = tableBytes(draft, entries, ifd?.next ?? 0);
  const oldSize = ifd ? 2 + ifd.list.length * ENTRY_BYTES + 4 : 0;
  if (!ifd || table.length > oldSize) return append(draft, table);
  const padded = new Uint8Array(oldSize);
  padded.set(table);
  draft.patches.push({ at: ifd.offset, bytes: padded });
  return undefined;
}

function entryBytes(
  draft: Draft,
  { tag, type, count }: TagEdit,
  data: Uint8Array,
  old: IfdEntry | undefined,
): Uint8Array {
  const le = draft.tiff.littleEndian;
  const bytes = new Uint8Array(ENTRY_BYTES);
  const view = viewOf(bytes);
  view.setUint16(0, tag, le);
  view.setUint16(2, type, le);
  view.setUint32(4, count, le);
  if (data.length <= 4) bytes.set(data, 8);
  else view.setUint32(8, place(draft, data, old), le);
  return bytes;
}

/** Where a value goes: where the old one is when it fits there and nothing else uses the place, else behind the end. */
function place(draft: Draft, data: Uint8Array, old: IfdEntry | undefined): number {
  if (old && old.length > 4 && isAlone(draft.tiff, old)) {
    if (data.length <= old.length) {
      const padded = new Uint8Array(old.length);
      padded.set(data);
      draft.patches.push({ at: old.dataAt, bytes: padded });
      return old.dataAt;
    }
    // The old value is the last thing there is: the new one can begin where it did.
    if (draft.appended.length === 0 && old.dataAt + old.length >= draft.tiff.source.size - 1 && old.dataAt % 2 === 0)
      draft.keptSize = draft.end = old.dataAt;
  }
  return append(draft, data);
}

function append(draft: Draft, bytes: Uint8Array): number {
  // Values begin on a word boundary (TIFF 6.0, section 2).
  const padding = draft.end % 2;
  const offset = draft.end + padding;
  if (offset + bytes.length > 0xffffffff) throw new Error('the file would become larger than a TIFF can be');
  draft.appended.push(new Uint8Array(padding), bytes);
  draft.end = offset + bytes.length;
  return offset;
}

function isAlone(tiff: TiffStructure, { at, dataAt, length }: IfdEntry): boolean {
  const end = dataAt + length;
  const overlaps = (start: number, size: number) => start < end && start + size > dataAt;
  if (overlaps(0, 8)) return false;
  for (const ifd of allIfds(tiff)) {
    if (overlaps(ifd.offset, 2 + ifd.list.length * ENTRY_BYTES + 4)) return false;
    if (ifd.list.some((other) => other.at !== at && other.length > 4 && overlaps(other.dataAt, other.length)))
      return false;
  }
  return !codedRanges(tiff).some((range) => overlaps(range.start, range.end - range.start));
}

function tableBytes(draft: Draft, entries: readonly RawEntry[], next: number): Uint8Array {
  const count = new Uint8Array(2);
  viewOf(count).setUint16(0, entries.length, draft.tiff.littleEndian);
  return concatBytes([count, ...entries.map(({ bytes }) => bytes), numberBytes(draft, next)]);
}

function numberBytes({ tiff }: Draft, number: number): Uint8Array {
  const bytes = new Uint8Array(4);
  viewOf(bytes).setUint32(0, number, tiff.littleEndian);
  return bytes;
}

function piecesOf(draft: Draft): Piece[] {
  const coded = codedRanges(draft.tiff);
  const isCoded = ({ at, bytes }: { at: number; bytes: Uint8Array }) =>
    coded.some(({ start, end }) => start < at + bytes.length && end > at);
  if (draft.patches.some(isCoded) || coded.some(({ end }) => end > draft.keptSize)) throw overlapping();
  const pieces: Piece[] = [];
  let at = 0;
  for (const { at: start, bytes } of draft.patches.sort((a, b) => a.at - b.at)) {
    if (start < at || start + bytes.length > draft.keptSize) throw overlapping();
    pieces.push({ start: at, end: start }, bytes);
    at = start + bytes.length;
  }
  pieces.push({ start: at, end: draft.keptSize }, ...draft.appended);
  return joinPieces(pieces.filter((piece) => lengthOf(piece) > 0));
}

function overlapping(): Error {
  return new Error('parts of the file lie on top of each other or outside it, so it is left as it is');
}
