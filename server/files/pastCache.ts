// Reading what a drive holds, not what memory still remembers of what was written: with O_DIRECT, where the file system takes
// it (open(2)). It reads whole blocks into memory at whole blocks only.

import type { Patch } from '@stellin/core/metadata/pieces';
import { open, type FileHandle } from 'node:fs/promises';
import { closeSync, constants, openSync, readSync } from 'node:fs';
import { systemCode } from '../errors';

const BLOCK = 4096;
/** Memory of Node.js begins anywhere; of the places 16 bytes apart one is at a whole block. */
const STEP = 16;

/** Bytes of the file from an offset on, fewer at its end. */
type Read = (offset: number, length: number) => Buffer;

/** What the system says where it does not take O_DIRECT, or memory that begins elsewhere; anything else is an error of the drive. */
function unlessRefused(error: unknown): undefined {
  if (systemCode(error) !== 'EINVAL') throw error;
}

/** The most bytes that are taken at a time. */
export const CHUNK_BYTES = 1024 * 1024;
/** Chunks of memory at whole blocks that nobody reads into just now: finding a place for one takes many tries. */
const free: Buffer[] = [];

/** The bytes of a file, a chunk at a time, as the system reads them. A chunk is used again for the next. */
export async function eachChunk(path: string, take: (chunk: Uint8Array) => void): Promise<void> {
  const file = await open(path, 'r');
  const chunk = Buffer.allocUnsafeSlow(CHUNK_BYTES);
  try {
    await readOn(file, chunk, 0, take);
  } finally {
    await file.close();
  }
}

/** The same past the cache; where that can’t be had, as the system reads them. */
export async function eachChunkOnDrive(path: string, take: (chunk: Uint8Array) => void): Promise<void> {
  const file = await open(path, constants.O_RDONLY | constants.O_DIRECT).catch(unlessRefused);
  if (!file) return eachChunk(path, take);
  try {
    for (const chunk of chunks()) {
      const first = await file.read(chunk, 0, CHUNK_BYTES, 0).catch(unlessRefused);
      // Not at a whole block: the next place may be.
      if (!first) continue;
      if (first.bytesRead > 0) take(chunk.subarray(0, first.bytesRead));
      if (first.bytesRead === CHUNK_BYTES) await readOn(file, chunk, CHUNK_BYTES, take);
      free.push(chunk);
      return;
    }
  } finally {
    await file.close();
  }
  return eachChunk(path, take);
}

/** The same at once, for threads that do nothing else. */
export function eachChunkOnDriveNow(path: string, take: (chunk: Uint8Array) => void): void {
  const direct = openDirect(path);
  if (direct !== undefined && readChunks(direct, take)) return;
  readChunks(openSync(path, 'r'), take);
}

/** Reads a file to its end and closes it; false where the system refuses to. */
function readChunks(descriptor: number, take: (chunk: Uint8Array) => void): boolean {
  try {
    for (const chunk of chunks()) {
      let bytesRead = readUnlessRefused(descriptor, chunk, 0);
      // Not at a whole block: the next place may be.
      if (bytesRead === undefined) continue;
      for (let at = 0; bytesRead > 0;) {
        take(chunk.subarray(0, bytesRead));
        at += bytesRead;
        bytesRead = bytesRead < chunk.length ? 0 : readSync(descriptor, chunk, 0, chunk.length, at);
      }
      free.push(chunk);
      return true;
    }
    return false;
  } finally {
    closeSync(descriptor);
  }
}

function openDirect(path: string): number | undefined {
  try {
    return openSync(path, constants.O_RDONLY | constants.O_DIRECT);
  } catch (error) {
    return unlessRefused(error);
  }
}

function readUnlessRefused(descriptor: number, into: Buffer, at: number): number | undefined {
  try {
    return readSync(descriptor, into, 0, into.length, at);
  } catch (error) {
    return unlessRefused(error);
  }
}

/** A chunk that stood at a whole block before, or new ones of which one does. */
function* chunks(): Generator<Buffer> {
  const known = free.pop();
  if (known) return yield known;
  const memory = Buffer.allocUnsafeSlow(CHUNK_BYTES + BLOCK);
  for (let at = 0; at < BLOCK; at += STEP) yield memory.subarray(at, at + CHUNK_BYTES);
}

async function readOn(file: FileHandle, chunk: Buffer, from: number, take: (chunk: Uint8Array) => void): Promise<void> {
  for (let at = from; ;) {
    const { bytesRead } = await file.read(chunk, 0, chunk.length, at);
    if (bytesRead === 0) return;
    take(chunk.subarray(0, bytesRead));
    at += bytesRead;
    // What is read past the cache begins at whole blocks, and only at the end it is no whole one.
    if (bytesRead % BLOCK !== 0 && bytesRead < chunk.length) return;
  }
}

/** Whether patches stand in a file as they were (`before`) or as they are to be (`after`), as the drive says. */
export function patchesStand(
  path: string,
  descriptor: number,
  patches: readonly Patch[],
  which: 'before' | 'after',
): boolean {
  return readingPastCache(path, descriptor, (read) =>
    patches.every((patch) => Buffer.compare(read(patch.offset, patch[which].length), patch[which]) === 0),
  );
}

/** Works with reads of a file past the cache; where that can’t be had, with plain reads of the descriptor. */
function readingPastCache<Result>(path: string, descriptor: number, work: (read: Read) => Result): Result {
  const plain: Read = (offset, length) => {
    const bytes = Buffer.allocUnsafe(length);
    return bytes.subarray(0, readSync(descriptor, bytes, 0, length, offset));
  };
  const direct = openDirect(path);
  if (direct === undefined) return work(plain);
  try {
    return work((offset, length) => readBlocks(direct, offset, length) ?? plain(offset, length));
  } finally {
    closeSync(direct);
  }
}

/** Undefined where the system refuses it. */
function readBlocks(direct: number, offset: number, length: number): Buffer | undefined {
  const start = Math.floor(offset / BLOCK) * BLOCK;
  const size = Math.ceil((offset + length - start) / BLOCK) * BLOCK;
  const memory = Buffer.allocUnsafeSlow(size + BLOCK);
  for (let at = 0; at < BLOCK; at += STEP) {
    try {
      const read = readSync(direct, memory, at, size, start);
      const from = at + offset - start;
      return memory.subarray(from, Math.max(from, Math.min(from + length, at + read)));
    } catch (error) {
      // Not at a whole block: the next place may be.
      unlessRefused(error);
    }
  }
  return undefined;
}
