// Opening a file: its blocks found and parsed, each on its own. What can't be read becomes an issue.

import { buffered, bytesEqual, type ByteSource } from './bytes';
import { exifFacts, exifFields, type ExifFacts } from './blocks/exif';
import { iimFields, parseIim, type IimBlock } from './blocks/iim';
import type { TiffStructure } from './blocks/tiff';
import { joinExtension } from './blocks/xmp/extended';
import { xmpFields } from './blocks/xmp/fields';
import { parseXmp, type XmpPacket } from './blocks/xmp/packet';
import { containerOf, type RawBlocks } from './containers';
import type { Container } from './containers/container';
import type { FieldValues } from './fields';
import { md5 } from '@noble/hashes/legacy.js';

export interface OpenFile {
  source: ByteSource;
  /** Undefined when the bytes are of no kind we know. */
  container: Container | undefined;
  raw: RawBlocks;
  exif: { structures: TiffStructure[]; facts: ExifFacts; fields: FieldValues } | undefined;
  xmp: { packet: XmpPacket; fields: FieldValues } | undefined;
  /** XMP is there and can't be read. */
  xmpProblem: string | undefined;
  iim: { block: IimBlock; fields: FieldValues } | undefined;
  /** Whether IIM is as it was when XMP was last brought in line with it. */
  digest(): 'equal' | 'differs' | 'none';
  issues: string[];
}

/** Opens a file. Never throws on content; errors of the source itself (a lost drive) pass through. Valid until the source is closed. */
export function openFile(file: ByteSource): OpenFile {
  const source = buffered(file);
  const container = containerOf(source.read(0, 16));
  if (!container) {
    const issue = file.size === 0 ? 'the file is empty' : 'the file is of no kind that can be read';
    return closed(source, { exif: [], issues: [issue], damaged: true });
  }
  const raw = rawBlocks(container, source);
  const issues = [...raw.issues, ...raw.exif.flatMap((tiff) => tiff.issues)];
  const xmp = raw.xmp && readXmp(raw.xmp, raw.extendedXmp);
  let digest: ReturnType<OpenFile['digest']> | undefined;
  if (xmp && 'problem' in xmp) issues.push(`the XMP could not be read: ${xmp.problem}`);
  return {
    source,
    container,
    raw,
    exif: raw.exif.length > 0 ? readExif(raw.exif) : undefined,
    xmp: xmp && 'packet' in xmp ? xmp : undefined,
    xmpProblem: xmp && 'problem' in xmp ? xmp.problem : undefined,
    iim: raw.iim && readIim(raw.iim),
    digest: () => (digest ??= digestOf(raw)),
    issues: [...new Set(issues)],
  };
}

/** A packet and what it says, or why it can't be read. */
export function readXmp(
  bytes: Uint8Array,
  extension?: Uint8Array,
): { packet: XmpPacket; fields: FieldValues } | { problem: string } {
  try {
    const packet = parseXmp(bytes);
    if (extension) joinExtension(packet, extension);
    return { packet, fields: xmpFields(packet) };
  } catch (error) {
    return { problem: messageOf(error) };
  }
}

function closed(source: ByteSource, raw: RawBlocks): OpenFile {
  const nothing = { exif: undefined, xmp: undefined, xmpProblem: undefined, iim: undefined };
  return { source, container: undefined, raw, ...nothing, digest: () => 'none', issues: raw.issues };
}

function rawBlocks(container: Container, source: ByteSource): RawBlocks {
  try {
    return container.readBlocks(source);
  } catch (error) {
    // Errors of the file system carry a code and are no word on the content.
    if (typeof error === 'object' && error !== null && 'code' in error) throw error;
    return { exif: [], issues: [`the file could not be read: ${messageOf(error)}`], damaged: true };
  }
}

/** What several structures say, the first one first: some makers keep parts of EXIF apart. */
function readExif(structures: TiffStructure[]): NonNullable<OpenFile['exif']> {
  const facts = structures.map(exifFacts).reduceRight((later, first) => ({ ...later, ...first }));
  return {
    structures,
    facts,
    fields: structures.reduceRight((later, tiff) => ({ ...later, ...exifFields(tiff, facts) }), {}),
  };
}

function readIim(bytes: Uint8Array): NonNullable<OpenFile['iim']> {
  const block = parseIim(bytes);
  return { block, fields: iimFields(block) };
}

function digestOf({ xmp, iim, iimDigest }: RawBlocks): ReturnType<OpenFile['digest']> {
  if (!xmp || !iim || iimDigest?.length !== 16) return 'none';
  return bytesEqual(md5(iim), iimDigest) ? 'equal' : 'differs';
}

export function messageOf(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}
