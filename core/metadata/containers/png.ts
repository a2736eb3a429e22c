// PNG (ISO/IEC 15948, third edition): EXIF in `eXIf`, XMP in an `iTXt` chunk named XML:com.adobe.xmp.

import { asciiText, hasAscii, memorySource, viewOf, type ByteSource } from '../bytes';
import type { Container, RawBlocks } from './container';

const SIGNATURE = '\x89PNG\r\n\x1a\n';
const XMP_KEYWORD = 'XML:com.adobe.xmp\0';
const MAX_CHUNKS = 10_000;
const MAX_BLOCK_BYTES = 32 * 1024 * 1024;

/** Takes what it needs from one chunk. Adding a chunk means adding an entry. */
const CHUNKS: Readonly<Record<string, (data: Uint8Array, blocks: RawBlocks) => void>> = {
  IHDR(data, blocks) {
    if (data.length < 8) return;
    blocks.width = viewOf(data).getUint32(0);
    blocks.height = viewOf(data).getUint32(4);
  },
  eXIf(data, blocks) {
    blocks.exif = memorySource(data);
  },
  iTXt(data, blocks) {
    if (!hasAscii(data, 0, XMP_KEYWORD)) return;
    const compressed = data[XMP_KEYWORD.length] === 1;
    const language = data.indexOf(0, XMP_KEYWORD.length + 2);
    const text = data.indexOf(0, language + 1) + 1;
    if (compressed) blocks.issues.push('the XMP of this PNG is compressed and was not read');
    else if (language > 0 && text > 0) blocks.xmp = data.subarray(text);
  },
};

async function readBlocks(source: ByteSource): Promise<RawBlocks> {
  const blocks: RawBlocks = { issues: [] };
  let at = SIGNATURE.length;
  for (let i = 0; i < MAX_CHUNKS; i++) {
    const head = await source.read(at, 8);
    if (head.length < 8) {
      blocks.issues.push('the PNG ends before its last chunk');
      break;
    }
    const length = viewOf(head).getUint32(0);
    const name = asciiText(head.subarray(4, 8));
    if (name === 'IEND') break;
    const take = CHUNKS[name];
    if (take && length <= MAX_BLOCK_BYTES) take(await source.read(at + 8, length), blocks);
    at += 12 + length;
  }
  return blocks;
}

export const png: Container = {
  kind: 'png',
  label: 'PNG',
  extensions: ['png'],
  canHandle: (head) => hasAscii(head, 0, SIGNATURE),
  readBlocks,
};
