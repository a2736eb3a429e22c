// Putting a file under a name, for copies that leave the archive: there whole, flushed, read back past the cache and compared; or not
// there at all. Nothing is written over that the caller did not mean.

import { createHash } from 'node:crypto';
import { closeSync, createReadStream, openSync, readSync } from 'node:fs';
import { copyFile, open, rename, stat } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import { Readable } from 'node:stream';
import { systemCode } from '../errors';
import { eachChunk, eachChunkOnDrive } from './pastCache';
import { removeFile, TakenError } from './relocate';

/** Where the bytes come from: memory, or another file. */
export type FileContent = { bytes: Uint8Array } | { from: string };

/**
 * Puts a file at a path; its folder is there, and is to be flushed by the caller before anybody relies on the name.
 * @param work whose file it is: tried once more under the same name, what a process that was killed left of it is written over
 * @param mayReplace what stands there goes; else TakenError is thrown, unless it is empty: a reservation that a killed process left
 * @returns its size in bytes
 */
export async function placeFile(
  path: string,
  content: FileContent,
  { work, mayReplace }: { work: string; mayReplace: boolean },
): Promise<number> {
  const part = join(dirname(path), `.stellin-${work}.part`);
  try {
    await writePart(part, content);
    if (!(await holdsAlready(part, content, eachChunkOnDrive)))
      throw new Error('what stands on the drive is not what was written');
    if (!mayReplace) await reserve(path);
    await rename(part, path);
    return (await stat(path)).size;
  } catch (error) {
    await removeFile(part);
    throw error;
  }
}

async function writePart(part: string, content: FileContent): Promise<void> {
  // The system copies a file without its bytes coming through here.
  if ('from' in content) await copyFile(content.from, part);
  const file = await open(part, 'from' in content ? 'r+' : 'w');
  try {
    if ('bytes' in content) await file.writeFile(content.bytes);
    await file.sync();
    if ('from' in content) {
      const { atime, mtime } = await stat(content.from);
      await file.utimes(atime, mtime);
    }
  } finally {
    await file.close();
  }
}

/** Whether a file holds what is to be written, byte for byte; `each` reads it. */
export async function holdsAlready(path: string, content: FileContent, each = eachChunk): Promise<boolean> {
  if ('bytes' in content) {
    let at = 0;
    let same = true;
    await each(path, (chunk) => {
      same &&= Buffer.compare(chunk, content.bytes.subarray(at, at + chunk.length)) === 0;
      at += chunk.length;
    });
    return same && at === content.bytes.length;
  }
  const [there, source] = await Promise.all([stat(path), stat(content.from)]);
  if (there.size !== source.size) return false;
  const descriptor = openSync(content.from, 'r');
  try {
    const beside = Buffer.allocUnsafe(CHUNK_BYTES);
    let at = 0;
    let same = true;
    await each(path, (chunk) => {
      // At once: a chunk is used again for the next. The source was read a moment ago, it comes from memory.
      const length = readSync(descriptor, beside, 0, chunk.length, at);
      same &&= Buffer.compare(chunk, beside.subarray(0, length)) === 0;
      at += chunk.length;
    });
    return same && at === source.size;
  } finally {
    closeSync(descriptor);
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
  return 'bytes' in content ? Readable.from([Buffer.from(content.bytes)]) : createReadStream(content.from);
}
