// Inflating zlib data (RFC 1950) with a limit, so that a small block can't become a huge one.

/** The inflated bytes. Throws an Error when the data is damaged or becomes larger than `maxBytes`. */
import { concatBytes } from './bytes';

export async function inflate(bytes: Uint8Array, maxBytes: number): Promise<Uint8Array> {
  const reader = new Blob([bytes.slice()]).stream().pipeThrough(new DecompressionStream('deflate')).getReader();
  const parts: Uint8Array[] = [];
  let size = 0;
  for (let read = await reader.read(); !read.done; read = await reader.read()) {
    size += read.value.length;
    if (size > maxBytes) {
      await reader.cancel();
      throw new Error(`becomes larger than ${maxBytes} bytes when inflated`);
    }
    parts.push(read.value);
  }
  return concatBytes(parts);
}
