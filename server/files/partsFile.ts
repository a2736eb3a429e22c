// A file of the data folder that holds named parts of data, written whole or not at all: what can be made anew at any time, but
// is quicker to read.

import { mkdir, open, rename, rm, type FileHandle } from 'node:fs/promises';
import { dirname } from 'node:path';
import { deserialize, serialize } from 'node:v8';
import { systemCode } from '../errors';

/** The length of a part is written before it, in so many bytes. */
const LENGTH_BYTES = 8;
const END = 'end of parts';

/** Writes parts (of what a structured clone can hold) one after the other. */
export async function writeParts(path: string, parts: Iterable<readonly [name: string, part: unknown]>): Promise<void> {
  await mkdir(dirname(path), { recursive: true });
  const made = `${path}.new`;
  try {
    const file = await open(made, 'w', 0o600);
    try {
      for (const part of parts) await writePart(file, part);
      await writePart(file, [END, null]);
      await file.sync();
    } finally {
      await file.close();
    }
    await rename(made, path);
  } catch (error) {
    await rm(made, { force: true });
    throw error;
  }
}

async function writePart(file: FileHandle, part: readonly [string, unknown]): Promise<void> {
  const bytes = serialize(part);
  const length = Buffer.alloc(LENGTH_BYTES);
  length.writeBigUInt64LE(BigInt(bytes.length));
  // Writes all of it, unlike write, which may stop short.
  await file.writeFile(length);
  await file.writeFile(bytes);
}

/**
 * Reads the parts of a file in their order; `wanted` is told the first and says whether the others are worth reading. Undefined
 * where there is no file, or it is not wanted; throws an Error when the file is not whole.
 */
export async function readParts(
  path: string,
  wanted: (first: unknown) => boolean,
): Promise<Map<string, unknown> | undefined> {
  const file = await open(path, 'r').catch((error: unknown) => {
    if (systemCode(error) === 'ENOENT') return undefined;
    throw error;
  });
  if (!file) return undefined;
  try {
    let left = (await file.stat()).size;
    const parts = new Map<string, unknown>();
    for (;;) {
      const [name, part] = (await readPart(file, left)) as [string, unknown];
      left -= LENGTH_BYTES;
      if (parts.size === 0 && !wanted(part)) return undefined;
      if (name === END) return parts;
      parts.set(name, part);
    }
  } finally {
    await file.close();
  }
}

async function readPart(file: FileHandle, left: number): Promise<unknown> {
  const bytes = Number((await readBytes(file, LENGTH_BYTES)).readBigUInt64LE());
  if (bytes > left) throw new Error('the file ends too early');
  return deserialize(await readBytes(file, bytes));
}

async function readBytes(file: FileHandle, length: number): Promise<Buffer> {
  const buffer = Buffer.allocUnsafe(length);
  for (let at = 0; at < length;) {
    const { bytesRead } = await file.read(buffer, at, length - at);
    if (bytesRead === 0) throw new Error('the file ends too early');
    at += bytesRead;
  }
  return buffer;
}
