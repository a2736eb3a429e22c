// Layered pictures (8BPS, versions 1 and 2): a header, then sections with their lengths in front; the image resources
// hold EXIF, XMP, IIM and its digest.

import { concatBytes, hasAscii, memorySource, uint32, viewOf, type ByteSource } from '../bytes';
import { iimOfResources } from '../blocks/iimResources';
import { parseResources, RESOURCE, resourceData, serializeResources, setResource } from '../blocks/resources';
import { readTiff } from '../blocks/tiff';
import { editedExif } from '../blocks/tiffEdit';
import { packetBody, PADDING_BYTES, wrapBody, WRAPPER_BYTES } from '../blocks/xmp/packet';
import { md5 } from '@noble/hashes/legacy.js';
import { joinPieces } from '../pieces';
import type { Container, ContainerWriter, RawBlocks, Colour } from './container';

const HEADER_BYTES = 26;
const MAX_RESOURCES = 256 * 1024 * 1024;

/** Where the image resources lie, their length not included; undefined when the file ends before. */
function resourceRange(source: ByteSource): { start: number; end: number } | undefined {
  const colours = source.read(HEADER_BYTES, 4);
  if (colours.length < 4) return undefined;
  const at = HEADER_BYTES + 4 + viewOf(colours).getUint32(0);
  const length = source.read(at, 4);
  if (length.length < 4) return undefined;
  const end = at + 4 + viewOf(length).getUint32(0);
  return end <= source.size && end - at <= MAX_RESOURCES ? { start: at + 4, end } : undefined;
}

/** By the colour mode in the header. */
const COLOURS: Readonly<Record<number, Colour>> = {
  0: 'grey',
  1: 'grey',
  2: 'indexed',
  3: 'rgb',
  4: 'cmyk',
  8: 'grey',
  9: 'lab',
};

function readBlocks(source: ByteSource): RawBlocks {
  const header = source.read(0, HEADER_BYTES);
  const view = viewOf(header);
  const range = resourceRange(source);
  const whole = header.length === HEADER_BYTES;
  const blocks: RawBlocks = {
    height: whole ? view.getUint32(14) : undefined,
    width: whole ? view.getUint32(18) : undefined,
    bitDepth: whole ? view.getUint16(22) : undefined,
    colour: whole ? COLOURS[view.getUint16(24)] : undefined,
    exif: [],
    issues: [],
  };
  if (!range) return { ...blocks, issues: ['the file ends before its image resources'], damaged: true };
  const { resources } = parseResources(source.read(range.start, range.end - range.start));
  const exif = resourceData(resources, RESOURCE.exif);
  const { issues, ...iim } = iimOfResources(resources);
  return {
    ...blocks,
    exif: exif ? [readTiff(memorySource(exif))] : [],
    xmp: resourceData(resources, RESOURCE.xmp),
    ...iim,
    issues,
  };
}

const writer: ContainerWriter = {
  holdsIim: true,
  holdsExif: true,
  write(source, blocks) {
    const range = resourceRange(source);
    if (!range) throw new Error('the file ends before its image resources');
    const { resources, rest } = parseResources(source.read(range.start, range.end - range.start));
    if (rest.some((byte) => byte !== 0)) throw new Error('its image resources can’t be read, so it is left as it is');
    const old = resourceData(resources, RESOURCE.exif);
    const exif = blocks.exif.length > 0 ? editedExif(old && readTiff(memorySource(old)), blocks.exif) : undefined;
    let changed = exif ? setResource(resources, RESOURCE.exif, exif) : resources;
    if (blocks.iim)
      changed = setResource(setResource(changed, RESOURCE.iim, blocks.iim), RESOURCE.iimDigest, md5(blocks.iim));
    const body = packetBody(blocks.xmp);
    const section = (padding: number) =>
      serializeResources(setResource(changed, RESOURCE.xmp, wrapBody(body, padding)));
    // The padding takes up what the other resources gain or lose. Resources have even lengths.
    const tight = section(0);
    const room = range.end - range.start - tight.length + ((body.length + WRAPPER_BYTES) & 1);
    const fits = room >= 0 && resourceData(resources, RESOURCE.xmp) !== undefined;
    const bytes = section(fits ? room : PADDING_BYTES);
    return joinPieces([
      { start: 0, end: range.start - 4 },
      concatBytes([uint32(bytes.length), bytes]),
      { start: range.end, end: source.size },
    ]);
  },
  pictureRanges(source) {
    const range = resourceRange(source);
    return range
      ? [
          { start: 0, end: range.start - 4 },
          { start: range.end, end: source.size },
        ]
      : [];
  },
};

export const psd: Container = {
  kinds: [{ kind: 'psd', extensions: ['psd', 'psb'] }],
  canHandle: (head) => hasAscii(head, 0, '8BPS'),
  readBlocks,
  writer,
};
