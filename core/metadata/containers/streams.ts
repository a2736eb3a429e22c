// Files that are told by their first bytes, and of which only XMP is read here (XMP specification part 3): what else films and sounds hold is
// read by programs that know their many kinds, pictures without a container are a stream of code. Descriptions go into sidecars.

import { asciiText, hasAscii, type ByteSource } from '../bytes';
import { chunksOf, xmpIn } from './chunks';
import type { Container } from './container';
import { xmpOfId3 } from './id3';
import type { FileKind } from './kinds';

/** A kind that its first bytes tell. `at` stands behind those of `begins`: RIFF and IFF say there what they hold. */
interface Signature {
  kind: FileKind;
  extensions: readonly string[];
  isKind(head: Uint8Array): boolean;
  /** The XMP inside, where kinds like this have a place for it. */
  xmpOf?(source: ByteSource): Uint8Array | undefined;
}

const begins =
  (...bytes: readonly number[]) =>
  (head: Uint8Array): boolean =>
    bytes.every((byte, i) => head[i] === byte);
const holds =
  (outer: readonly string[], inner: readonly string[]) =>
  (head: Uint8Array): boolean =>
    outer.some((text) => hasAscii(head, 0, text)) && inner.some((text) => hasAscii(head, 8, text));

const EBML = begins(0x1a, 0x45, 0xdf, 0xa3);

const SIGNATURES: readonly Signature[] = [
  { kind: 'avi', extensions: ['avi'], isKind: holds(['RIFF'], ['AVI ']), xmpOf: xmpOfAvi },
  { kind: 'aiff', extensions: ['aif', 'aiff', 'aifc'], isKind: holds(['FORM'], ['AIFF', 'AIFC']), xmpOf: xmpOfAiff },
  { kind: 'flac', extensions: ['flac'], isKind: (head) => hasAscii(head, 0, 'fLaC') },
  { kind: 'ogg', extensions: ['ogg', 'oga', 'opus', 'ogv'], isKind: (head) => hasAscii(head, 0, 'OggS') },
  { kind: 'mxf', extensions: ['mxf'], isKind: begins(0x06, 0x0e, 0x2b, 0x34) },
  { kind: 'mpeg', extensions: ['mpg', 'mpeg', 'vob'], isKind: begins(0, 0, 1, 0xba) },
  // Bare code (ISO/IEC 18181-1; ISO/IEC 15444-1, annex A).
  { kind: 'jxl', extensions: [], isKind: begins(0xff, 0x0a) },
  { kind: 'jp2', extensions: ['j2k', 'j2c', 'jpc'], isKind: begins(0xff, 0x4f, 0xff, 0x51) },
  // Frames of 11 set bits (ISO/IEC 11172-3), of layer 3, or of ADTS (ISO/IEC 13818-7) with layer 0.
  {
    kind: 'mp3',
    extensions: ['mp3'],
    isKind: (head) => hasAscii(head, 0, 'ID3') || (head[0] === 0xff && ((head[1] ?? 0) & 0xe6) === 0xe2),
    xmpOf: xmpOfId3,
  },
  { kind: 'aac', extensions: ['aac'], isKind: (head) => head[0] === 0xff && ((head[1] ?? 0) & 0xf6) === 0xf0 },
  // Packets of 188 bytes, or of 192 with a time in front (ISO/IEC 13818-1).
  { kind: 'mts', extensions: ['mts', 'm2ts', 'm2t'], isKind: (head) => head[0] === 0x47 || head[4] === 0x47 },
];

/** A container for each: the kind is told by the container. */
const told: readonly Container[] = SIGNATURES.map(({ kind, extensions, isKind, xmpOf }) => ({
  kinds: [{ kind, extensions }],
  canHandle: isKind,
  readBlocks(source) {
    const xmp = xmpOf?.(source);
    return { exif: [], issues: [], ...(xmp ? { xmp } : {}) };
  },
}));

function xmpOfAvi(source: ByteSource): Uint8Array | undefined {
  return xmpIn(
    source,
    chunksOf(source, { littleEndian: true }).find(({ id }) => id === '_PMX'),
  );
}

/** A chunk of an application, which says first whose it is. */
function xmpOfAiff(source: ByteSource): Uint8Array | undefined {
  const ours = chunksOf(source, { littleEndian: false }).find(
    ({ id, start }) => id === 'APPL' && hasAscii(source.read(start, 4), 0, 'XMP '),
  );
  return xmpIn(source, ours, 4);
}

/** Matroska and WebM say which they are a little further on (RFC 9559, 27.1). */
const matroska: Container = {
  kinds: [
    { kind: 'mkv', extensions: ['mkv', 'mka'] },
    { kind: 'webm', extensions: ['webm'] },
  ],
  canHandle: EBML,
  readBlocks: (source: ByteSource) => ({
    exif: [],
    issues: [],
    kind: asciiText(source.read(0, 64)).includes('webm') ? 'webm' : 'mkv',
  }),
};

export const streams: readonly Container[] = [matroska, ...told];
