// What every container gives: the blocks of a file as bytes, and what its own structure says of the picture.

import type { ByteSource } from '../bytes';
import type { TagEdit } from '../blocks/exif';
import type { TiffStructure } from '../blocks/tiff';
import type { XmpPacket } from '../blocks/xmp/packet';
import type { Piece } from '../pieces';
import type { FieldValue } from '../fields';
import type { FileKind } from './kinds';

/** A range of the file. */
export interface Range {
  start: number;
  end: number;
}

export type Colour = 'grey' | 'rgb' | 'cmyk' | 'indexed' | 'lab';

/** What a recorder of sound noted, by the elements of iXML. */
export interface Recording {
  project?: string;
  scene?: string;
  take?: string;
  tape?: string;
  note?: string;
}

export interface RawBlocks {
  /** Pixels as stored, before orientation. */
  width?: number;
  height?: number;
  /** Bits a channel, and how colours are stored. */
  bitDepth?: number;
  colour?: Colour;
  /** Where the container itself tells more than its first bytes did. */
  kind?: FileKind;
  /** EXIF, as the structure it stands in; several where a maker spread it out, the first coming first. */
  exif: TiffStructure[];
  xmp?: Uint8Array;
  /** The rest of a packet that was too large for one place, put together. */
  extendedXmp?: Uint8Array;
  iim?: Uint8Array;
  /** Resource 0x0425: the MD5 that the IIM block had when XMP was last brought in line with it. */
  iimDigest?: Uint8Array;
  /** The largest JPEG inside, for kinds that aren't shown as they are. */
  preview?: Range;
  /** Seconds, and what a film's pictures are coded in. */
  duration?: number;
  codec?: string;
  /** Pages, or pictures one after the other, where there are several. */
  pages?: number;
  /** Moments that are marked in a sound, as the field of stretches has them. */
  stretches?: FieldValue;
  /** What a recorder of sound noted. */
  recording?: Recording;
  /** When the container says it was made: ISO 8601. */
  createdAt?: string;
  issues: string[];
  /** Whether the structure is broken in a way that puts the picture in doubt. */
  damaged?: boolean;
}

/** The blocks as they are to be; undefined leaves one as it is. */
export interface NewBlocks {
  xmp: XmpPacket;
  /** What is to change in EXIF, in the byte order of its first structure; big-endian for a new one. */
  exif: readonly TagEdit[];
  /** IIM; containers without a place for it leave it. */
  iim: Uint8Array | undefined;
}

/** An entry of the container table. */
export interface Container {
  kinds: readonly { kind: FileKind; extensions: readonly string[] }[];
  /** Whether the first bytes of a file are of this kind. */
  canHandle(head: Uint8Array): boolean;
  readBlocks(source: ByteSource): RawBlocks;
  /** How to write; without it descriptions go into a sidecar. */
  writer?: ContainerWriter;
}

export interface ContainerWriter {
  /** Whether there is a place for IIM. */
  holdsIim: boolean;
  /** Whether there is a place for EXIF. */
  holdsExif: boolean;
  /** The new file as pieces of the old. Throws an Error that says why when it can't be written safely. */
  write(source: ByteSource, blocks: NewBlocks): Piece[];
  /** The ranges that are its coded picture: the same bytes before and after any write. */
  pictureRanges(source: ByteSource): Range[];
}
