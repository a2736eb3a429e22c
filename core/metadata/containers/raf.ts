// Raw files of one maker that begin with a header of their own: a whole JPEG inside holds the EXIF and is the preview.

import { hasAscii, partOf, viewOf, type ByteSource } from '../bytes';
import type { Container, RawBlocks } from './container';
import { jpeg } from './jpeg';

const MAGIC = 'FUJIFILMCCD-RAW ';
const JPEG_AT = 84;

function readBlocks(source: ByteSource): RawBlocks {
  const place = source.read(JPEG_AT, 8);
  const start = place.length === 8 ? viewOf(place).getUint32(0) : 0;
  const length = place.length === 8 ? viewOf(place).getUint32(4) : 0;
  if (start === 0 || start + length > source.size)
    return { exif: [], issues: ['the preview lies outside the file'], damaged: true };
  return { ...jpeg.readBlocks(partOf(source, start, length)), preview: { start, end: start + length } };
}

export const raf: Container = {
  kinds: [{ kind: 'raw', extensions: ['raf'] }],
  canHandle: (head) => hasAscii(head, 0, MAGIC),
  readBlocks,
};
