// Putting a file under a name, for copies that leave the archive: there whole, flushed, read back past the cache and compared; or not
// there at all. Nothing is written over that the caller did not mean.

import { createHash, randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import { open, rename, stat, utimes } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { Readable } from 'node:stream';
import { systemCode } from '../errors';
import { sha256OnDrive } from './fileHashes';
import { flushFolder } from './flush';
import { eachChunk } from './pastCache';
import { removeFile, TakenError } from './relocate';

/** Where the bytes come from: memory, or another file. */
export type FileContent = { bytes: Uint8Array } | { from: string };

export interface PlacedFile {
  bytes: number;
  /** Hexadecimal. */
  sha256: string;
}

/** What leftovers of killed processes are called; nobody finishes them. */
export const PLACING = /^\.stellin-[0-9a-f-]{36}\.part$/;

/**
 * Puts a file at a path; its folder is there.
 * @param mayReplace what stands there goes; else TakenError is thrown, unless it is empty: a reservation that a killed process left
 */
export async function placeFile(path: string, content: FileContent, mayReplace: boolean): Promise<PlacedFile> {
  const folder = dirname(path);
  const part = join(folder, `.stellin-${randomUUID()}.part`);
  try {
    const placed = await writePart(part, content);
    if ((await sha256OnDrive(part)) !== placed.sha256)
      throw new Error('what stands on the drive is not what was written');
    if (!mayReplace) await reserve(path);
    await rename(part, path);
    await flushFolder(folder);
    return placed;
  } catch (error) {
    await removeFile(part);
    throw error;
  }
}

async function writePart(part: string, content: FileContent): Promise<PlacedFile> {
  const hash = createHash('sha256');
  let bytes = 0;
  const file = await open(part, 'wx');
  try {
    const write = async (chunk: Uint8Array) => {
      hash.update(chunk);
      bytes += chunk.length;
      await file.writeFile(chunk);
    };
    if ('bytes' in content) await write(content.bytes);
    else await copyInto(content.from, write);
    await file.sync();
  } finally {
    await file.close();
  }
  if ('from' in content) {
    const { atime, mtime } = await stat(content.from);
    await utimes(part, atime, mtime);
  }
  return { bytes, sha256: hash.digest('hex') };
}

async function copyInto(from: string, write: (chunk: Uint8Array) => Promise<void>): Promise<void> {
  const file = await open(from, 'r');
  const chunk = Buffer.allocUnsafeSlow(CHUNK_BYTES);
  try {
    for (;;) {
      const { bytesRead } = await file.read(chunk, 0, chunk.length, null);
      if (bytesRead === 0) return;
      await write(chunk.subarray(0, bytesRead));
    }
  } finally {
    await file.close();
  }
}

const CHUNK_BYTES = 1024 * 1024;

/** Takes the name, so that nothing else can. */
async function reserve(path: string): Promise<void> {
  try {
    await (await open(path, 'wx')).close();
  } catch (error) {
    if (systemCode(error) !== 'EEXIST') throw error;
    if ((await stat(path)).size > 0) throw new TakenError(path);
  }
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
  return stat(path).catch(() => undefined);
}

/** The bytes as a stream. */
export function streamOf(content: FileContent): Readable {
  return 'bytes' in content ? Readable.from([Buffer.from(content.bytes)]) : createReadStream(content.from);
}
