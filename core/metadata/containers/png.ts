// PNG (ISO/IEC 15948, third edition): EXIF in `eXIf`, XMP in an `iTXt` chunk named XML:com.adobe.xmp.

import { asciiText, hasAscii, memorySource, viewOf, type ByteSource } from '../bytes';
import { inflate } from '../inflate';
import type { Container, RawBlocks } from './container';

const SIGNATURE = '\x89PNG\r\n\x1a\n';
const XMP_KEYWORD = 'XML:com.adobe.xmp\0';
const MAX_CHUNKS = 10_000;
const MAX_BLOCK_BYTES = 32 * 1024 * 1024;

/** Takes what it needs from one chunk. Adding a chunk means adding an entry. */
const CHUNKS: Readonly<Record<string, (data: Uint8Array, blocks: RawBlocks) => void | Promise<void>>> = {
  IHDR(data, blocks) {
    if (data.length < 8) return;
    blocks.width = viewOf(data).getUint32(0);
    blocks.height = viewOf(data).getUint32(4);
  },
  eXIf(data, blocks) {
    blocks.exif = memorySource(data);
  },
  async iTXt(data, blocks) {
    if (!hasAscii(data, 0, XMP_KEYWORD)) return;
    const compressed = data[XMP_KEYWORD.length] === 1;
    const language = data.indexOf(0, XMP_KEYWORD.length + 2);
    const text = data.indexOf(0, language + 1) + 1;
    if (language < 0 || text <= 0) return;
    if (compressed) await takeInflated(data.subarray(text), blocks);
    else blocks.xmp = data.subarray(text);
  },
  // No place of the standard for XMP, but some writers put it there.
  async zTXt(data, blocks) {
    if (hasAscii(data, 0, XMP_KEYWORD)) await takeInflated(data.subarray(XMP_KEYWORD.length + 1), blocks);
  },
};

async function takeInflated(bytes: Uint8Array, blocks: RawBlocks): Promise<void> {
  try {
    blocks.xmp = await inflate(bytes, MAX_BLOCK_BYTES);
  } catch (error) {
    blocks.issues.push(`the XMP could not be read: ${error instanceof Error ? error.message : String(error)}`);
  }
}

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
    if (take && length <= MAX_BLOCK_BYTES) await take(await source.read(at + 8, length), blocks);
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
