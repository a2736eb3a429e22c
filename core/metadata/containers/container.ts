// What every container gives: the blocks of a file as bytes, and what its own structure says of the picture.

import type { ByteSource } from '../bytes';

export interface RawBlocks {
  /** Pixels as stored, before orientation. */
  width?: number;
  height?: number;
  /** A TIFF structure to read EXIF from. */
  exif?: ByteSource;
  xmp?: Uint8Array;
  iim?: Uint8Array;
  /** Resource 0x0425: the MD5 that the IIM block had when XMP was last brought in line with it. */
  iimDigest?: Uint8Array;
  issues: string[];
}

export type FileKind = 'jpeg' | 'tiff' | 'png';

/** An entry of the container table. */
export interface Container {
  kind: FileKind;
  label: string;
  extensions: readonly string[];
  /** Whether the first bytes of a file are of this kind. */
  canHandle(head: Uint8Array): boolean;
  readBlocks(source: ByteSource): Promise<RawBlocks>;
}
