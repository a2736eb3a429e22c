// Drawings that call themselves photos: SVG is a program of sorts, which can name other files, and is rendered for nobody.

import { open } from 'node:fs/promises';

/** As far as decoders look for one. */
const HEAD_BYTES = 1024;

/** Whether bytes begin as a drawing does: as text that comes to `<svg`, or packed (gzip, RFC 1952) as drawings may be. */
function isDrawing(head: Uint8Array): boolean {
  if (head[0] === 0x1f && head[1] === 0x8b) return true;
  const text = Buffer.from(head.subarray(0, HEAD_BYTES)).toString('latin1');
  // In UTF-16 there is a zero between the letters.
  return /<\0?s\0?v\0?g/i.test(text) && !hasPictureSignature(head);
}

/** JPEG, PNG, GIF, WebP and TIFF begin with bytes that no text begins with. */
function hasPictureSignature(head: Uint8Array): boolean {
  const begins = (...bytes: number[]) => bytes.every((byte, i) => head[i] === byte);
  return (
    begins(0xff, 0xd8) ||
    begins(0x89, 0x50, 0x4e, 0x47) ||
    begins(0x47, 0x49, 0x46, 0x38) ||
    begins(0x52, 0x49, 0x46, 0x46) ||
    begins(0x49, 0x49, 0x2a, 0) ||
    begins(0x4d, 0x4d, 0, 0x2a)
  );
}

/** Refuses bytes, or a file by its path, that hold a drawing. */
export async function requireNoDrawing(source: string | Uint8Array): Promise<void> {
  if (isDrawing(typeof source === 'string' ? await headOf(source) : source))
    throw new Error('it is a drawing (SVG), whatever its name says; drawings are not shown');
}

async function headOf(path: string): Promise<Uint8Array> {
  const file = await open(path, 'r');
  try {
    const { buffer, bytesRead } = await file.read(Buffer.alloc(HEAD_BYTES), 0, HEAD_BYTES, 0);
    return buffer.subarray(0, bytesRead);
  } finally {
    await file.close();
  }
}
