// Writing fields into a file or its sidecar: planned as pieces of the old file, so that nothing is written before all is
// known. The coded picture is never touched; the caller proves it unchanged.

import { buffered, type ByteSource } from './bytes';
import { exifEdits } from './blocks/exif';
import { iimCuts, serializeIim, setIimFields, type IimCut } from './blocks/iim';
import { setXmpField } from './blocks/xmp/fields';
import { emptyXmp, parseXmp, serializeXmp, setProperty } from './blocks/xmp/packet';
import { textValue } from './blocks/xmp/tree';
import { containerOf, type ContainerWriter, type Range } from './containers';
import { FIELDS, fieldOf, type FieldId, type FieldValue, type FieldValues } from './fields';
import { xmpName } from './namespaces';
import { openFile, type OpenFile } from './open';
import { changesNothing, type Piece } from './pieces';
import { metadataOf, type FileMetadata } from './read';
import { normalFieldValue, sameValue, textsOf } from './values';
import { kindFacts } from './containers/kinds';

/** The fields to write; null removes one, a field not named stays as it is. */
export type FieldChanges = { [Id in FieldId]?: FieldValue | null };

export interface WriteOptions {
  /** When it is written, ISO 8601: the packet's MetadataDate. */
  now: string;
  /** Whether IIM is made where there was none. */
  iim?: 'always' | 'where present';
}

export interface WritePlan {
  /** The new file as pieces of the old. */
  pieces: Piece[];
  /** Nothing is to be written: the file says it all already. */
  nothing: boolean;
  /** Texts that IIM has to cut. */
  cuts: IimCut[];
}

const METADATA_DATE = xmpName('xmp:MetadataDate');

/** Whether descriptions can go into a file of this kind itself; else they go into a sidecar. */
export function isEmbeddable({ container, raw }: OpenFile): boolean {
  const [tiff] = raw.exif;
  return container?.writer !== undefined && (raw.kind === undefined || kindFacts(raw.kind).embeds) && !tiff?.big;
}

/**
 * Plans how a file comes to hold `changes` in XMP, IIM and EXIF. What only IIM said is carried into XMP with it, for from
 * now on XMP is what other programs read first. Throws an Error that says why when the file can't be written safely.
 */
export function planWrite(source: ByteSource, changes: FieldChanges, options: WriteOptions): WritePlan {
  return planOpenFile(openFile(source), changes, options);
}

/** The same for a file that is open already; `before` is what it says, where that is known. */
export function planOpenFile(
  file: OpenFile,
  changes: FieldChanges,
  { now, iim = 'always' }: WriteOptions,
  before = metadataOf(file),
): WritePlan {
  const writer = writerOf(file);
  if (file.xmpProblem !== undefined)
    throw new Error(`the XMP in the file can’t be read (${file.xmpProblem}), so it is left as it is`);
  const wanted = changeList(changes);
  const packet = file.xmp?.packet ?? emptyXmp();
  const writesIim = writer.holdsIim && (iim === 'always' || file.iim !== undefined);
  let changed = false;
  for (const [id, value] of [...carriedOver(file, before), ...wanted])
    changed = setXmpField(packet, id, value) || changed;

  const block = file.iim?.block ?? { datasets: [], rest: new Uint8Array() };
  const iimChanges = file.iim ? wanted : [...presentFields(before.fields), ...wanted];
  const kept = file.iim ? presentFields(before.fields).filter(([id, value]) => differsInIim(file, id, value)) : [];
  const set = setIimFields(block, [...kept, ...iimChanges]);
  const iimChanged = writesIim && set.block !== block;

  const [tiff] = file.raw.exif;
  const writesExif = writer.holdsExif && !tiff?.broken;
  const edits = writesExif ? exifEdits(file.exif?.fields ?? {}, wanted, tiff?.littleEndian ?? false) : [];
  const cuts = writer.holdsIim ? wanted.flatMap(([id, value]) => iimCuts(fieldOf(id), value)) : [];
  if (!changed && !iimChanged && edits.every(({ data }) => !data) && !removesAny(edits, file))
    return { pieces: [{ start: 0, end: file.source.size }], nothing: true, cuts };
  setProperty(packet, METADATA_DATE, textValue(now));
  const pieces = writer.write(file.source, {
    xmp: packet,
    exif: edits,
    iim: iimChanged || (file.digest() === 'differs' && writesIim) ? serializeIim(set.block) : undefined,
  });
  return { pieces, nothing: changesNothing(pieces, file.source.size), cuts };
}

/**
 * The sidecar with `changes` made; a new one when there was none. Throws an Error when the old one can't be read, so that
 * it is never overwritten blindly.
 */
export function planSidecar(
  old: Uint8Array | undefined,
  changes: FieldChanges,
  { now }: Pick<WriteOptions, 'now'>,
): Uint8Array {
  const packet = old ? parseXmp(old) : emptyXmp();
  let changed = old === undefined;
  for (const [id, value] of changeList(changes)) changed = setXmpField(packet, id, value) || changed;
  if (!changed && old) return old;
  setProperty(packet, METADATA_DATE, textValue(now));
  return serializeXmp(packet, 0);
}

/** The fields that do not read as they should after a write: the changed ones as meant, all others as before. */
export function wrongFields(before: FileMetadata, after: FileMetadata, changes: FieldChanges): FieldId[] {
  return FIELDS.filter((field) => {
    const change = changes[field.id];
    const now = after.fields[field.id];
    if (change === undefined) return !sameValue(now, before.fields[field.id]);
    const wanted = normalFieldValue(field, change);
    if (field.type === 'langAlt' && typeof wanted === 'string') return textsOf(now)[0] !== wanted;
    return !sameValue(now, wanted);
  }).map(({ id }) => id);
}

/** The ranges of a file that are its coded picture; none for kinds that are never written. */
export function pictureRanges(source: ByteSource): Range[] {
  const buffering = buffered(source);
  return containerOf(buffering.read(0, 16))?.writer?.pictureRanges(buffering) ?? [];
}

type NamedChange = readonly [FieldId, FieldValue | undefined];

function changeList(changes: FieldChanges): NamedChange[] {
  return FIELDS.filter(({ id }) => changes[id] !== undefined).map(
    (field) => [field.id, normalFieldValue(field, changes[field.id])] as const,
  );
}

function presentFields(fields: FieldValues): NamedChange[] {
  return FIELDS.filter(({ id }) => fields[id] !== undefined).map(({ id }) => [id, fields[id]] as const);
}

/** What IIM holds, as it was reconciled: XMP is to say it too. */
function carriedOver(file: OpenFile, before: FileMetadata): NamedChange[] {
  return presentFields(before.fields).filter(([id, value]) => {
    const fromIim = file.iim?.fields[id];
    if (fromIim === undefined) return false;
    // A text that IIM had to cut stays whole in XMP, and a date as precise.
    return file.xmp?.fields[id] === undefined || (file.digest() === 'differs' && sameValue(value, fromIim));
  });
}

/** Whether IIM holds a field and says something else than the file as a whole. */
function differsInIim(file: OpenFile, id: FieldId, value: FieldValue | undefined): boolean {
  const said = file.iim?.fields[id];
  return said !== undefined && !sameValue(said, value);
}

function removesAny(edits: ReturnType<typeof exifEdits>, file: OpenFile): boolean {
  const [tiff] = file.raw.exif;
  if (!tiff) return false;
  const ifds = { main: tiff.pages[0], exif: tiff.exif, gps: tiff.gps };
  return edits.some(({ ifd, tag, data }) => !data && ifds[ifd]?.entries.has(tag));
}

function writerOf(file: OpenFile): ContainerWriter {
  const writer = file.container?.writer;
  if (!writer || !isEmbeddable(file))
    throw new Error('files of this kind are not written to; their description goes into a sidecar');
  if (file.raw.damaged) throw new Error(`${file.issues.join('; ')}, so it is left as it is`);
  return writer;
}
