// An XMP sidecar as a file of its own (ISO 16684-3, 3.3).

import { utf8Text, type ByteSource } from '../bytes';
import { serializeXmp } from '../blocks/xmp/packet';
import type { Container, RawBlocks } from './container';

const MAX_BYTES = 64 * 1024 * 1024;

function readBlocks(source: ByteSource): RawBlocks {
  return { exif: [], xmp: source.read(0, Math.min(source.size, MAX_BYTES)), issues: [] };
}

export const xmp: Container = {
  // No extension: beside a photo it is a part of it, and it is catalogued with it.
  kinds: [{ kind: 'xmp', extensions: [] }],
  canHandle: (head) => /^\ufeff?\s*<(?:\?xpacket|\?xml|x:xmpmeta|x:xapmeta|rdf:RDF|!--)/.test(utf8Text(head) ?? ''),
  readBlocks,
  writer: {
    holdsIim: false,
    holdsExif: false,
    write: (_source, blocks) => [serializeXmp(blocks.xmp, 0)],
    pictureRanges: () => [],
  },
};
