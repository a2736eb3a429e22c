// Reading a file's metadata: what its blocks and its sidecar say, reconciled.

import type { ByteSource } from './bytes';
import type { ExifFacts } from './blocks/exif';
import type { FileKind, Range } from './containers';
import type { Colour, Recording } from './containers/container';
import type { FieldId, FieldValues } from './fields';
import { openFile, readXmp, type OpenFile } from './open';
import { reconcile, type BlockValues } from './reconcile';
import { positionOf, sameValue } from './values';
import { kindFacts } from './containers/kinds';
import type { LookedMedia, MediaFacts } from './probed';

export interface FileMetadata {
  /** Undefined when the bytes are of no kind we know. */
  kind: FileKind | undefined;
  /** Pixels as stored, before orientation. */
  width?: number;
  height?: number;
  /** What the camera says, and what films and sounds are. */
  facts: FileFacts;
  /** The reconciled values. */
  fields: FieldValues;
  /** What each block said. */
  blocks: BlockValues;
  /** Fields on which blocks disagree. */
  disagreements: FieldId[];
  /** What could not be read, in words a person understands. */
  issues: string[];
  /** The largest JPEG inside, for kinds that aren't shown as they are. */
  preview?: Range;
  /** The container itself is broken: the picture can't be trusted to be whole. */
  damaged: boolean;
}

export interface FileFacts extends ExifFacts, MediaFacts, Recording {
  /** Bits a channel, and how colours are stored. */
  bitDepth?: number;
  colour?: Colour;
  /** Text that was seen in the picture: no file says it, the catalogue does (core/pictureText). */
  lettering?: string;
}

/** Reads the metadata of a file and its sidecar. Never throws on content: what could not be read stands in `issues`. Errors of the source itself (a lost drive) pass through. */
export function readMetadata(source: ByteSource, sidecar?: Uint8Array, looked?: LookedMedia): FileMetadata {
  return metadataOf(openFile(source), sidecar, looked);
}

/** The same of a file that is open already. */
export function metadataOf(file: OpenFile, sidecar?: Uint8Array, looked?: LookedMedia): FileMetadata {
  const { raw } = file;
  const media = looked && 'facts' in looked ? looked : undefined;
  const beside = sidecar && readXmp(sidecar);
  const issues =
    beside && 'problem' in beside ? [...file.issues, `the sidecar could not be read: ${beside.problem}`] : file.issues;
  const blocks: BlockValues = {};
  if (file.exif) blocks.exif = file.exif.fields;
  if (file.iim) blocks.iim = file.iim.fields;
  if (file.xmp) blocks.xmp = file.xmp.fields;
  if (beside && 'fields' in beside) blocks.sidecar = beside.fields;
  const tags: FieldValues = { ...media?.fields, ...(raw.stretches ? { stretches: raw.stretches } : {}) };
  if (Object.keys(tags).length > 0) blocks.tags = tags;
  const reconciled = reconcile(blocks, sayOtherwise(blocks) && file.digest() === 'differs');
  const kind = file.container && (raw.kind ?? file.container.kinds[0]?.kind);
  const { duration, codec, bitDepth, colour } = raw;
  return {
    kind,
    width: media?.width ?? raw.width,
    height: media?.height ?? raw.height,
    facts: {
      ...file.exif?.facts,
      ...positionOf(reconciled.fields.position),
      ...(raw.createdAt && !file.exif?.facts.takenAt ? { takenAt: raw.createdAt.slice(0, 19) } : {}),
      ...(duration === undefined ? {} : { duration }),
      ...(codec === undefined ? {} : { codec }),
      ...(bitDepth === undefined ? {} : { bitDepth }),
      ...(colour === undefined ? {} : { colour }),
      ...pagesOf(file),
      ...raw.recording,
      ...media?.facts,
    },
    ...reconciled,
    blocks,
    issues: looked && 'problem' in looked ? [...issues, looked.problem] : issues,
    preview: raw.preview,
    damaged:
      raw.damaged === true ||
      (looked && 'problem' in looked && looked.damaged) === true ||
      (tellsSize(kind) && !(raw.width && raw.height)),
  };
}

/** How many pages a TIFF has, or pictures an animation; of others, and of one alone, nothing. */
function pagesOf({ raw, exif, container }: OpenFile): { pages?: number } {
  const isTiff = (raw.kind ?? container?.kinds[0]?.kind) === 'tiff';
  const pages = raw.pages ?? (isTiff ? exif?.structures[0]?.pages.length : undefined);
  return pages !== undefined && pages > 1 ? { pages } : {};
}

/** Whether XMP and IIM differ in a field that stands in both: only then it matters which of them was changed later. */
function sayOtherwise({ xmp, iim }: BlockValues): boolean {
  if (!xmp || !iim) return false;
  return Object.entries(iim).some(([id, value]) => {
    const other = xmp[id as FieldId];
    return other !== undefined && !sameValue(other, value);
  });
}

/** Whether a file without the size of its picture is damaged; what is no kind at all should have been one. */
function tellsSize(kind: FileKind | undefined): boolean {
  return kind === undefined || kindFacts(kind).tellsSize;
}
