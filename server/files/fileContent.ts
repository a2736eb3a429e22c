// What a file is to hold, and whether one holds it.

import { createHash } from 'node:crypto';
import { closeSync, createReadStream, fstatSync, openSync, readSync } from 'node:fs';
import { stat } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { systemCode } from '../errors';
import { CHUNK_BYTES, eachChunk } from './pastCache';

/** Where the bytes come from: memory, or another file. */
export type FileContent = { bytes: Uint8Array } | { from: string };

/** What stands in the source just where the chunk that is compared does: no chunk is longer. */
const beside = Buffer.allocUnsafeSlow(CHUNK_BYTES);

/** Whether a file holds what is to be written, byte for byte. */
export async function holdsAlready(path: string, content: FileContent): Promise<boolean> {
  if ((await stat(path)).size !== (await sizeOf(content))) return false;
  const comparison = compareWith(content);
  try {
    await eachChunk(path, comparison.take);
    return comparison.isSame();
  } finally {
    comparison.close();
  }
}

/** Takes the bytes of a file, chunk by chunk, and says in the end whether they are what is to be written. */
export interface Comparison {
  take: (chunk: Uint8Array) => void;
  isSame: () => boolean;
  close: () => void;
}

export function compareWith(content: FileContent): Comparison {
  let at = 0;
  let same = true;
  const takeBeside = (chunk: Uint8Array, wanted: Uint8Array) => {
    same &&= Buffer.compare(chunk, wanted) === 0;
    at += chunk.length;
  };
  if ('bytes' in content)
    return {
      take: (chunk) => takeBeside(chunk, content.bytes.subarray(at, at + chunk.length)),
      isSame: () => same && at === content.bytes.length,
      close: () => undefined,
    };
  const descriptor = openSync(content.from, 'r');
  return {
    // At once: a chunk is used again for the next. The source was read a moment ago, it comes from memory.
    take: (chunk) => takeBeside(chunk, beside.subarray(0, readSync(descriptor, beside, 0, chunk.length, at))),
    isSame: () => same && at === fstatSync(descriptor).size,
    close: () => closeSync(descriptor),
  };
}

/** SHA-256 of a file as the system reads it, hexadecimal; undefined where there is none. */
export async function sha256Of(path: string): Promise<string | undefined> {
  const hash = createHash('sha256');
  try {
    await eachChunk(path, (chunk) => void hash.update(chunk));
  } catch (error) {
    if (systemCode(error) === 'ENOENT') return undefined;
    throw error;
  }
  return hash.digest('hex');
}

/** What stands at a path; undefined for nothing. */
export async function lookAt(path: string): Promise<{ size: number; mtimeMs: number } | undefined> {
  return stat(path).catch((error: unknown) => {
    if (systemCode(error) !== 'ENOENT') throw error;
    return undefined;
  });
}

/** How many bytes there are. */
export async function sizeOf(content: FileContent): Promise<number> {
  return 'bytes' in content ? content.bytes.length : (await stat(content.from)).size;
}

/** The bytes as a stream. */
export function streamOf(content: FileContent): Readable {
  return 'bytes' in content
    ? Readable.from([Buffer.from(content.bytes)])
    : createReadStream(content.from, { highWaterMark: CHUNK_BYTES });
}
