// Writing fields into a file: which bytes replace its head, or what its sidecar becomes. The picture data is never
// touched; the caller copies it and proves it unchanged.

import { asciiBytes, concatBytes, viewOf, type ByteSource } from './bytes';
import { parseIim, serializeIim, setIimFields, iimFields, type Dataset, type IimCut } from './blocks/iim';
import {
  APP13_PREFIX,
  parseResources,
  RESOURCE,
  resourceData,
  serializeResources,
  setResource,
  type ImageResource,
} from './blocks/resources';
import { emptyXmp, parseXmp, serializeXmp, setXmpField, xmpFields, type XmpPacket } from './blocks/xmp';
import {
  app13Resources,
  isApp13Segment,
  isExifSegment,
  isXmpSegment,
  MARKER,
  MAX_PAYLOAD,
  parseJpegHead,
  XMP_PREFIX,
  type JpegHead,
  type JpegSegment,
} from './containers/jpeg';
import { FIELDS, fieldOf, type FieldId, type FieldValues } from './fields';
import { md5 } from './md5';
import { reconcile } from './read';

/** The fields to write; null removes one, a field not named stays as it is. */
export type FieldChanges = { [Id in FieldId]?: FieldValues[Id] | null };

/** A JPEG's new head; the old file goes on from `tailStart` unchanged. */
export interface JpegPlan {
  head: Uint8Array;
  tailStart: number;
  cuts: IimCut[];
}

/**
 * Plans how a JPEG comes to hold `changes` in XMP and IIM. Values that only IIM held are carried into XMP with it, for
 * from now on XMP is what other programs read first. Throws an Error that says why when the file can't be written safely.
 */
export async function planJpegWrite(source: ByteSource, changes: FieldChanges): Promise<JpegPlan> {
  const head = await parseJpegHead(source);
  const parsed = parseResources(app13Resources(head.segments));
  const iim = resourceData(parsed.resources, RESOURCE.iim);
  const datasets = iim ? parseIim(iim) : [];
  const { packet } = xmpOf(head);
  const named = withCarriedOver(changes, packet, datasets, iim, resourceData(parsed.resources, RESOURCE.iimDigest));
  for (const [id, value] of named) setXmpField(packet, id, value);
  const written = setIimFields(datasets, named);
  return {
    head: await assembleHead(source, head, xmpPayload(packet), app13Payloads(parsed, written.datasets)),
    tailStart: head.scanStart,
    cuts: written.cuts,
  };
}

/** The sidecar with `changes` made; a new one when there was none. Throws an Error when the old one can't be read, so that it is never overwritten blindly. */
export function planSidecarWrite(old: Uint8Array | undefined, changes: FieldChanges): Uint8Array {
  const packet = old ? parseXmp(old) : emptyXmp();
  for (const [id, value] of changeList(changes)) setXmpField(packet, id, value);
  return serializeXmp(packet, 0);
}

/** The ranges of a JPEG that are its coded picture: every segment that is neither application data nor a comment, and all from the first scan to the end of the file. */
export async function jpegPictureRanges(source: ByteSource): Promise<{ start: number; end: number }[]> {
  const head = await parseJpegHead(source);
  const tables = head.segments.filter(({ marker }) => !(marker >= 0xe0 && marker <= 0xef) && marker !== 0xfe);
  return [...tables.map(({ start, end }) => ({ start, end })), { start: head.scanStart, end: source.size }];
}

type NamedChange = readonly [FieldId, FieldValues[FieldId] | undefined];

function changeList(changes: FieldChanges): NamedChange[] {
  return FIELDS.filter(({ id }) => changes[id] !== undefined).map(({ id }) => [id, changes[id] ?? undefined] as const);
}

function withCarriedOver(
  changes: FieldChanges,
  packet: XmpPacket,
  datasets: Dataset[],
  iim: Uint8Array | undefined,
  digest: Uint8Array | undefined,
): NamedChange[] {
  const blocks = { xmp: xmpFields(packet), iim: iimFields(datasets) };
  const iimNewer = iim !== undefined && digest?.length === 16 && md5(iim).some((byte, i) => byte !== digest[i]);
  const { fields } = reconcile(blocks, iimNewer ? 'differs' : 'none');
  const carried: FieldChanges = {};
  for (const id of Object.keys(blocks.iim) as FieldId[]) if (fieldOf(id).iim) carried[id] = fields[id];
  // Date and time created are two datasets that stay as they are; XMP learns the date when it has none.
  if (blocks.iim.dateCreated && !blocks.xmp.dateCreated) carried.dateCreated = blocks.iim.dateCreated;
  return changeList({ ...carried, ...changes });
}

function xmpOf(head: JpegHead): { packet: XmpPacket } {
  const segment = head.segments.find(isXmpSegment);
  if (!segment) return { packet: emptyXmp() };
  try {
    return { packet: parseXmp(segment.payload.subarray(XMP_PREFIX.length)) };
  } catch (error) {
    const why = error instanceof Error ? error.message : String(error);
    throw new Error(`the XMP in the file can’t be read (${why}), so it is left as it is`, { cause: error });
  }
}

function xmpPayload(packet: XmpPacket): Uint8Array {
  const prefix = asciiBytes(XMP_PREFIX);
  const padded = concatBytes([prefix, serializeXmp(packet)]);
  const payload = padded.length <= MAX_PAYLOAD ? padded : concatBytes([prefix, serializeXmp(packet, 0)]);
  if (payload.length > MAX_PAYLOAD) throw new Error('the description is too large for the XMP segment of a JPEG');
  return payload;
}

function app13Payloads(old: { resources: ImageResource[]; rest: Uint8Array }, datasets: Dataset[]): Uint8Array[] {
  const iim = serializeIim(datasets);
  const resources = setResource(setResource(old.resources, RESOURCE.iim, iim), RESOURCE.iimDigest, md5(iim));
  const bytes = concatBytes([serializeResources(resources), old.rest]);
  const prefix = asciiBytes(APP13_PREFIX);
  const room = MAX_PAYLOAD - prefix.length;
  return Array.from({ length: Math.ceil(bytes.length / room) }, (_, i) =>
    concatBytes([prefix, bytes.subarray(i * room, (i + 1) * room)]),
  );
}

/** All segments at their places, XMP and APP13 replaced where they stood, or put in after EXIF and JFIF. */
async function assembleHead(
  source: ByteSource,
  head: JpegHead,
  xmp: Uint8Array,
  app13: Uint8Array[],
): Promise<Uint8Array> {
  const firstXmp = head.segments.find(isXmpSegment);
  const firstApp13 = head.segments.find(isApp13Segment);
  const xmpSegment = segmentBytes(MARKER.app1, xmp);
  const app13Segments = app13.map((payload) => segmentBytes(MARKER.app13, payload));
  const opening = head.segments.filter((segment) => segment.marker === 0xe0 || isExifSegment(segment)).at(-1);

  const parts: Uint8Array[] = [await source.read(0, 2)];
  const insertMissing = () => {
    if (!firstXmp) parts.push(xmpSegment);
    if (!firstApp13) parts.push(...app13Segments);
  };
  if (!opening) insertMissing();
  for (const segment of head.segments) {
    if (segment === firstXmp) parts.push(xmpSegment);
    else if (segment === firstApp13) parts.push(...app13Segments);
    else if (!isApp13Segment(segment)) parts.push(await bytesOf(source, segment));
    if (segment === opening) insertMissing();
  }
  return concatBytes(parts);
}

async function bytesOf(source: ByteSource, segment: JpegSegment): Promise<Uint8Array> {
  return source.read(segment.start, segment.end - segment.start);
}

function segmentBytes(marker: number, payload: Uint8Array): Uint8Array {
  const head = new Uint8Array(4);
  head.set([0xff, marker]);
  viewOf(head).setUint16(2, payload.length + 2);
  return concatBytes([head, payload]);
}
