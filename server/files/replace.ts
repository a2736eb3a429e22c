// Replacing a file without ever leaving it half-written: new bytes beside it, flushed, verified, renamed over it, the
// folder flushed. Whatever happens in between, the old file or the new one is there whole.

import { createHash } from 'node:crypto';
import { open, rename, stat, unlink, type FileHandle } from 'node:fs/promises';
import { dirname } from 'node:path';
import type { ByteSource } from '@stellin/core/metadata/bytes';
import { messageOf, systemCode } from '../errors';
import { faultPoint } from './fault';
import { fileSource } from './source';

/** What a file looked like when it was read: another size or time means that somebody changed it. */
export interface Fingerprint {
  sizeBytes: number;
  mtimeMs: number;
}

/** The file is not the one that was read. Nothing was written. */
export class ChangedFileError extends Error {
  constructor(path: string) {
    super(`${path} was changed by another program since it was read`);
  }
}

const CHUNK = 4 * 1024 * 1024;

/** The size and time of a file, undefined when there is none. */
export async function fingerprintOf(path: string): Promise<Fingerprint | undefined> {
  try {
    const { size, mtimeMs } = await stat(path);
    return { sizeBytes: size, mtimeMs };
  } catch (error) {
    if (systemCode(error) === 'ENOENT') return undefined;
    throw error;
  }
}

/** Opens a file for the time of some work. */
export async function withFile<Result>(
  path: string,
  work: (source: ByteSource, handle: FileHandle) => Promise<Result>,
): Promise<Result> {
  const handle = await open(path, 'r');
  try {
    const { size } = await handle.stat();
    return await work(fileSource(handle, size), handle);
  } finally {
    await handle.close();
  }
}

/** The SHA-256 of ranges of a file, one after the other. */
export async function hashRanges(
  source: ByteSource,
  ranges: readonly { start: number; end: number }[],
): Promise<string> {
  const hash = createHash('sha256');
  for (const { start, end } of ranges) {
    for (let at = start; at < end; at += CHUNK) hash.update(await source.read(at, Math.min(CHUNK, end - at)));
  }
  return hash.digest('hex');
}

export interface Replacement {
  path: string;
  /** A name in the same folder; anything left there by an earlier try is overwritten. */
  temporary: string;
  /** Undefined when the file must not exist yet. */
  expected: Fingerprint | undefined;
  /** The new beginning. */
  head: Uint8Array;
  /** Where the old file goes on after it; undefined when the head is all. */
  tailStart: number | undefined;
  /** Throws when the new file is not what it should be. */
  verify: (source: ByteSource) => Promise<void>;
}

/** Replaces (or creates) a file. On any error the old file stands as it was and the temporary one is gone. Returns what it looks like now. */
export async function replaceFile(replacement: Replacement): Promise<Fingerprint> {
  const { path, temporary, expected, verify } = replacement;
  try {
    await requireUnchanged(path, expected);
    await writeBeside(replacement);
    faultPoint('write:copied');
    await withFile(temporary, (source) => verify(source));
    faultPoint('write:verified');
    await requireUnchanged(path, expected);
    await rename(temporary, path);
    faultPoint('write:renamed');
    await flushFolder(dirname(path));
  } catch (error) {
    await removeLeftover(temporary);
    throw error;
  }
  const written = await fingerprintOf(path);
  if (!written) throw new Error(`${path} is gone right after it was written`);
  return written;
}

/** Removes a temporary file that a killed process left. */
export async function removeLeftover(path: string): Promise<void> {
  try {
    await unlink(path);
  } catch (error) {
    if (systemCode(error) !== 'ENOENT' && systemCode(error) !== 'ENOTDIR')
      throw new Error(`${path} could not be removed: ${messageOf(error)}`, { cause: error });
  }
}

async function requireUnchanged(path: string, expected: Fingerprint | undefined): Promise<void> {
  const now = await fingerprintOf(path);
  if (now?.sizeBytes !== expected?.sizeBytes || now?.mtimeMs !== expected?.mtimeMs) throw new ChangedFileError(path);
}

async function writeBeside({ path, temporary, expected, head, tailStart }: Replacement): Promise<void> {
  const handle = await open(temporary, 'w');
  try {
    if (expected) {
      const { mode, uid, gid } = await stat(path);
      await handle.chmod(mode & 0o7777);
      if (process.getuid?.() === 0) await handle.chown(uid, gid);
    }
    await writeAll(handle, head, 0);
    if (tailStart !== undefined) await copyTail(path, tailStart, handle, head.length);
    await handle.sync();
  } finally {
    await handle.close();
  }
}

async function copyTail(path: string, from: number, target: FileHandle, at: number): Promise<void> {
  await withFile(path, async (source) => {
    for (let offset = from; offset < source.size; offset += CHUNK) {
      await writeAll(target, await source.read(offset, CHUNK), at + offset - from);
    }
  });
}

async function writeAll(handle: FileHandle, bytes: Uint8Array, position: number): Promise<void> {
  let written = 0;
  while (written < bytes.length) {
    written += (await handle.write(bytes, written, bytes.length - written, position + written)).bytesWritten;
  }
}

async function flushFolder(path: string): Promise<void> {
  const handle = await open(path, 'r');
  try {
    await handle.sync();
  } finally {
    await handle.close();
  }
}
