// TIFF 6.0, DNG, BigTIFF and the raw files that are built like one: XMP in tag 700, IIM in tag 33723 or among the image
// resources of tag 34377.

import { concatBytes, viewOf, type ByteSource } from '../bytes';
import { iimOfResources } from '../blocks/iimResources';
import { parseResources, RESOURCE, resourceData, serializeResources, setResource } from '../blocks/resources';
import {
  allIfds,
  codedRanges,
  dataOf,
  looksLikeTiff,
  numberOf,
  numbersOf,
  readTiff,
  TAG,
  type Ifd,
  type TiffStructure,
} from '../blocks/tiff';
import { editTiff } from '../blocks/tiffEdit';
import type { TagEdit } from '../blocks/exif';
import { packetBody, PADDING_BYTES, wrapBody, WRAPPER_BYTES } from '../blocks/xmp/packet';
import { md5 } from '@noble/hashes/legacy.js';
import type { Container, ContainerWriter, NewBlocks, Range, RawBlocks, Colour } from './container';
import type { FileKind } from './kinds';
import { parseJpegHead } from './jpeg';

/** Photometric interpretations of sensor data: CFA and linear raw (DNG 1.7, chapter 4). */
const RAW_PHOTOMETRICS = [32803, 34892];
/** A tag of some makers with a whole JPEG in it. */
const JPEG_FROM_RAW = 0x2e;
const COMPRESSED_AS_JPEG = [6, 7];

/** By PhotometricInterpretation (TIFF 6.0, sections 8, 16, 21, 23). */
const COLOURS: Readonly<Record<number, Colour>> = {
  0: 'grey',
  1: 'grey',
  2: 'rgb',
  3: 'indexed',
  5: 'cmyk',
  6: 'rgb',
  8: 'lab',
};

function readBlocks(source: ByteSource): RawBlocks {
  const tiff = readTiff(source);
  const [main] = tiff.pages;
  const kind = kindOf(tiff);
  const { resources } = parseResources(dataOf(tiff, main?.entries.get(TAG.resources)) ?? new Uint8Array());
  const copies = iimOfResources(resources);
  const own = iimOf(tiff, main);
  const picture = largestIfd(tiff) ?? main;
  const blocks: RawBlocks = {
    kind,
    width: numberOf(tiff, picture, TAG.width),
    height: numberOf(tiff, picture, TAG.height),
    bitDepth: numberOf(tiff, picture, TAG.bitsPerSample),
    colour: COLOURS[numberOf(tiff, picture, TAG.photometric) ?? -1],
    exif: [tiff],
    xmp: dataOf(tiff, main?.entries.get(TAG.xmp)),
    iim: own ?? copies.iim,
    iimDigest: copies.iimDigest,
    issues: [...(main ? [] : ['the TIFF holds no picture']), ...(own ? [] : copies.issues)],
    damaged: !main || tiff.broken,
  };
  if (kind !== 'tiff') {
    blocks.preview = largestJpeg(tiff);
    if (blocks.preview && !blocks.width) Object.assign(blocks, sizeOfJpeg(source, blocks.preview));
  }
  return blocks;
}

function kindOf(tiff: TiffStructure): FileKind {
  const [main] = tiff.pages;
  if (main?.entries.has(TAG.dngVersion)) return 'dng';
  const magic = viewOf(tiff.source.read(0, 4)).getUint16(2, tiff.littleEndian);
  const isRaw = allIfds(tiff).some((ifd) => RAW_PHOTOMETRICS.includes(numberOf(tiff, ifd, TAG.photometric) ?? 0));
  // Behind the header some raw files have a mark of their maker where others have a directory.
  const marked = tiff.source.read(8, 2)[0] === 0x43 && tiff.source.read(9, 1)[0] === 0x52;
  return isRaw || marked || (magic !== 42 && magic !== 43) ? 'raw' : 'tiff';
}

/** The directory of the full picture: the first that is no reduced copy, else the widest. */
function largestIfd(tiff: TiffStructure): Ifd | undefined {
  const sized = [...tiff.pages, ...tiff.subIfds].filter((ifd) => numberOf(tiff, ifd, TAG.width));
  const isReduced = (ifd: Ifd) => ((numberOf(tiff, ifd, TAG.subfileType) ?? 0) & 1) === 1;
  const [first] = sized.filter((ifd) => !isReduced(ifd));
  return first ?? sized.sort((a, b) => (numberOf(tiff, b, TAG.width) ?? 0) - (numberOf(tiff, a, TAG.width) ?? 0))[0];
}

/** IIM, in bytes or in numbers of four bytes; the latter may stand in the file's byte order, which is then undone. */
function iimOf(tiff: TiffStructure, main: Ifd | undefined): Uint8Array | undefined {
  const data = dataOf(tiff, main?.entries.get(TAG.iim));
  return data && isSwapped(data) ? swapped(data) : data;
}

function isSwapped(data: Uint8Array): boolean {
  return data.length % 4 === 0 && data[0] !== 0x1c && data[3] === 0x1c;
}

function swapped(data: Uint8Array): Uint8Array {
  const bytes = new Uint8Array(data.length);
  for (let at = 0; at < data.length; at += 4) viewOf(bytes).setUint32(at, viewOf(data).getUint32(at), true);
  return bytes;
}

/** The largest whole JPEG inside: a strip, a JPEG stream, or the value of a tag. */
function largestJpeg(tiff: TiffStructure): Range | undefined {
  const { source } = tiff;
  const candidates = allIfds(tiff).flatMap((ifd): Range[] => {
    const from = numberOf(tiff, ifd, TAG.jpegOffset);
    const length = numberOf(tiff, ifd, TAG.jpegLength);
    const strips = numbersOf(tiff, ifd, TAG.stripOffsets);
    const [stripLength = 0] = numbersOf(tiff, ifd, TAG.stripByteCounts);
    const inTag = ifd.entries.get(JPEG_FROM_RAW);
    return [
      ...(from && length ? [{ start: from, end: from + length }] : []),
      ...(strips.length === 1 && strips[0] && COMPRESSED_AS_JPEG.includes(numberOf(tiff, ifd, TAG.compression) ?? 0)
        ? [{ start: strips[0], end: strips[0] + stripLength }]
        : []),
      ...(inTag && inTag.length > 1000 ? [{ start: inTag.dataAt, end: inTag.dataAt + inTag.length }] : []),
    ];
  });
  return candidates
    .filter(({ start, end }) => end <= source.size && isBaselineJpeg(source, start))
    .sort((a, b) => b.end - b.start - (a.end - a.start))[0];
}

/** Whether a JPEG that common decoders can show begins here: not one coded without loss, as sensor data is. */
function isBaselineJpeg(source: ByteSource, start: number): boolean {
  const head = source.read(start, 2);
  if (head[0] !== 0xff || head[1] !== 0xd8) return false;
  return parseJpegHead(within(source, start)).segments.some(({ marker }) => marker >= 0xc0 && marker <= 0xc2);
}

function sizeOfJpeg(source: ByteSource, { start }: Range): { width?: number; height?: number } {
  const { width, height } = parseJpegHead(within(source, start));
  return { width, height };
}

function within(source: ByteSource, start: number): ByteSource {
  return { size: source.size - start, read: (offset, length) => source.read(start + offset, length) };
}

const writer: ContainerWriter = {
  holdsIim: true,
  holdsExif: true,
  write(source, blocks) {
    const tiff = readTiff(source);
    const [main] = tiff.pages;
    return editTiff(tiff, [
      ...blocks.exif,
      xmpEdit(main, blocks),
      ...(blocks.iim ? iimEdits(tiff, main, blocks.iim) : []),
    ]);
  },
  pictureRanges: (source) => codedRanges(readTiff(source)),
};

function xmpEdit(main: Ifd | undefined, { xmp }: NewBlocks): TagEdit {
  const body = packetBody(xmp);
  const room = (main?.entries.get(TAG.xmp)?.length ?? 0) - WRAPPER_BYTES - body.length;
  const data = wrapBody(body, room >= 0 ? room : PADDING_BYTES);
  return { ifd: 'main', tag: TAG.xmp, type: 1, count: data.length, data };
}

/** Room that IIM is given to grow in. */
const IIM_ROOM = 512;

/** IIM in its tag as it was typed, and its digest among the image resources, where a copy of IIM is renewed too. */
function iimEdits(tiff: TiffStructure, main: Ifd | undefined, iim: Uint8Array): TagEdit[] {
  const old = main?.entries.get(TAG.iim);
  const asLongs = old?.type === 4;
  const room = old && old.length >= iim.length ? old.length : (iim.length + IIM_ROOM) & ~3;
  const padded = concatBytes([iim, new Uint8Array(room - iim.length)]);
  const wasSwapped = isSwapped(dataOf(tiff, old) ?? new Uint8Array());
  const data = wasSwapped && asLongs ? swapped(padded) : padded;
  const { resources, rest } = parseResources(dataOf(tiff, main?.entries.get(TAG.resources)) ?? new Uint8Array());
  const hasCopy = resourceData(resources, RESOURCE.iim) !== undefined;
  const withCopy = hasCopy ? setResource(resources, RESOURCE.iim, padded) : resources;
  const all = concatBytes([serializeResources(setResource(withCopy, RESOURCE.iimDigest, md5(padded))), rest]);
  return [
    { ifd: 'main', tag: TAG.iim, type: asLongs ? 4 : 7, count: asLongs ? data.length / 4 : data.length, data },
    { ifd: 'main', tag: TAG.resources, type: 1, count: all.length, data: all },
  ];
}

const RAW_EXTENSIONS = [
  'nef',
  'nrw',
  'cr2',
  'arw',
  'sr2',
  'pef',
  'srw',
  'orf',
  'rw2',
  'raw',
  '3fr',
  'iiq',
  'erf',
  'mos',
];

export const tiff: Container = {
  kinds: [
    { kind: 'tiff', extensions: ['tif', 'tiff'] },
    { kind: 'dng', extensions: ['dng'] },
    { kind: 'raw', extensions: RAW_EXTENSIONS },
  ],
  canHandle: (head) => looksLikeTiff(head),
  readBlocks,
  writer,
};
