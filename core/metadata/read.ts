// Reading a file's metadata: the blocks of its container, each read on its own, reconciled by the rules of the MWG.

import { bytesEqual, withCachedHead, type ByteSource } from './bytes';
import { exifFacts, exifFields, readTiff, type ExifFacts } from './blocks/exif';
import { iimFields, parseIim } from './blocks/iim';
import { parseXmp, xmpFields } from './blocks/xmp';
import { containerOf, type FileKind, type RawBlocks } from './containers';
import { FIELDS, sameValue, type FieldId, type FieldValues } from './fields';
import { md5 } from './md5';

export interface BlockValues {
  exif?: FieldValues;
  iim?: FieldValues;
  xmp?: FieldValues;
  sidecar?: FieldValues;
}

export interface FileMetadata {
  /** Undefined when the bytes are of no kind we know. */
  kind: FileKind | undefined;
  /** Pixels as stored, before orientation. */
  width?: number;
  height?: number;
  facts: ExifFacts;
  /** The reconciled values. */
  fields: FieldValues;
  /** What each block said. */
  blocks: BlockValues;
  /** Fields on which blocks disagree. */
  disagreements: FieldId[];
  /** What could not be read, in words a person understands. */
  issues: string[];
  /** The container itself is broken: the picture can't be trusted to be whole. */
  damaged: boolean;
}

/** Reads the metadata of a file and its sidecar. Never throws on content: what could not be read stands in `issues`. Errors of the source itself (a lost drive) pass through. */
export async function readMetadata(file: ByteSource, sidecar?: Uint8Array): Promise<FileMetadata> {
  const source = withCachedHead(file);
  const container = containerOf(await source.read(0, 16));
  const issues: string[] = [];
  if (!container) {
    issues.push(file.size === 0 ? 'the file is empty' : 'the file is of no kind that can be read');
    return { kind: undefined, facts: {}, fields: {}, blocks: {}, disagreements: [], issues, damaged: true };
  }
  const read = await containerBlocks(() => container.readBlocks(source));
  const { raw } = read;
  issues.push(...raw.issues);
  const blocks: BlockValues = {};
  let facts: ExifFacts = {};
  if (raw.exif) {
    const tiff = await readTiff(raw.exif);
    facts = exifFacts(tiff);
    blocks.exif = exifFields(tiff);
    issues.push(...tiff.issues);
  }
  if (raw.iim) blocks.iim = iimFields(parseIim(raw.iim));
  blocks.xmp = tryXmp(raw.xmp, 'the XMP', issues);
  blocks.sidecar = tryXmp(sidecar, 'the sidecar', issues);
  return {
    kind: container.kind,
    width: raw.width,
    height: raw.height,
    facts,
    ...reconcile(blocks, digestState(raw)),
    blocks,
    issues: [...new Set(issues)],
    damaged: read.damaged || !raw.width || !raw.height,
  };
}

type DigestState = 'equal' | 'differs' | 'none';

/**
 * One value per field out of the blocks (MWG 2.0, section 5, as our docs/metadata.md states it): a sidecar first, then
 * XMP, then IIM, then EXIF; but IIM before XMP where the digest tells that IIM was changed later.
 */
export function reconcile(blocks: BlockValues, digest: DigestState): { fields: FieldValues; disagreements: FieldId[] } {
  const fields: FieldValues = {};
  const disagreements: FieldId[] = [];
  const embedded = digest === 'differs' ? [blocks.iim, blocks.xmp] : [blocks.xmp, blocks.iim];
  for (const { id } of FIELDS) {
    const said = [blocks.sidecar, ...embedded, blocks.exif]
      .map((block) => block?.[id])
      .filter((value) => value !== undefined);
    if (said.length === 0) continue;
    fields[id] = said[0];
    if (said.some((value) => !sameValue(value, said[0]))) disagreements.push(id);
  }
  return { fields, disagreements };
}

function digestState(raw: RawBlocks): DigestState {
  if (!raw.xmp || !raw.iim || raw.iimDigest?.length !== 16) return 'none';
  return bytesEqual(md5(raw.iim), raw.iimDigest) ? 'equal' : 'differs';
}

async function containerBlocks(read: () => Promise<RawBlocks>): Promise<{ raw: RawBlocks; damaged: boolean }> {
  try {
    return { raw: await read(), damaged: false };
  } catch (error) {
    // Errors of the file system carry a code and are no word on the content.
    if (typeof error === 'object' && error !== null && 'code' in error) throw error;
    return { raw: { issues: [messageOf(error)] }, damaged: true };
  }
}

function tryXmp(bytes: Uint8Array | undefined, name: string, issues: string[]): FieldValues | undefined {
  if (!bytes) return undefined;
  try {
    return xmpFields(parseXmp(bytes));
  } catch (error) {
    issues.push(`${name} could not be read: ${messageOf(error)}`);
    return undefined;
  }
}

function messageOf(error: unknown): string {
  return error instanceof Error ? error.message : String(error);
}
