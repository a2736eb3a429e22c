// Moving and copying files, never over another file. The target's name is reserved first by an empty file, so that
// nothing else can take it; within a file system the file is renamed onto it, from one to another it is copied, flushed,
// read back and compared before the source goes. A process killed anywhere leaves the whole file at one end at least, and
// the same call goes on from there.

import { createHash } from 'node:crypto';
import { chmod, lstat, open, rename, unlink, utimes } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { systemCode } from '../errors';
import { copyAttributesOf } from './attributes';
import { faultPoint } from './fault';
import { sha256OnDrive } from './fileHashes';
import { ChangedFileError, identityOf, requireUntouched, type FileIdentity } from './fingerprint';
import { flushFolder } from './flush';
import { hasHoles, isZero } from './holes';
import { eachChunk, eachChunkOnDrive } from './pastCache';

/** A file and where it is to be, as paths in the system. */
export interface Relocation {
  from: string;
  to: string;
  /** The source stays. */
  copies: boolean;
  /** What stands at the target already may be this very file: a process was killed on the way, or another copied it. */
  mayStand: boolean;
  /** The size of the source as it is known, and its SHA-256; undefined where they are not. */
  sizeBytes?: number;
  sha256?: string | undefined;
}

/** Another file has the name already. */
export class TakenError extends Error {
  constructor(path: string) {
    super(`${path} is there already`);
  }
}

const CHUNK_BYTES = 1024 * 1024;

/** Whether anything stands at a path. */
export async function isTaken(path: string): Promise<boolean> {
  return (await statOf(path)) !== undefined;
}

/** Moves or copies files that belong together: all, or none. Throws TakenError, or the file system's error. */
export async function relocate(files: readonly Relocation[]): Promise<void> {
  const done: Relocation[] = [];
  try {
    for (const file of files) {
      await relocateOne(file);
      done.push(file);
    }
  } catch (error) {
    for (const { from, to, copies, mayStand } of done.reverse())
      if (!mayStand) await (copies ? unlink(to) : relocateOne({ from: to, to: from, copies, mayStand }));
    throw error;
  }
  for (const folder of new Set(files.flatMap(({ from, to }) => [dirname(from), dirname(to)])))
    await flushFolder(folder);
}

/** Copies a file to a name that is free; returns the BLAKE2b hash of its bytes, which were read back and compared. Throws TakenError. */
export async function copyFileProven(from: string, to: string): Promise<string> {
  if (await isTaken(to)) throw new TakenError(to);
  const hash = await copyOver(from, to, true);
  await flushFolder(dirname(to));
  return hash;
}

/** Deletes a file for good; one that is not there will do. */
export async function removeFile(path: string): Promise<void> {
  await unlink(path).catch((error: unknown) => {
    if (systemCode(error) !== 'ENOENT') throw error;
  });
}

/** BLAKE2b of all bytes of a file, hexadecimal; as the system reads them, or as `each` does. */
export async function hashOfFile(path: string, each = eachChunk): Promise<string> {
  const hash = createHash('blake2b512');
  await each(path, (chunk) => void hash.update(chunk));
  return hash.digest('hex');
}

async function relocateOne({ from, to, copies, mayStand, sizeBytes, sha256 }: Relocation): Promise<void> {
  const [source, target] = await Promise.all([statOf(from), statOf(to)]);
  // An empty file at the target is only the reservation of its name, unless the source was empty, too.
  if (!source && target && mayStand && (target.size > 0 || sizeBytes === 0)) {
    // Of the size of the one that was moved, but another file: somebody has put it there.
    if (sha256 && target.size === sizeBytes && (await sha256OnDrive(to)) !== sha256) throw new TakenError(to);
    return;
  }
  if (!source) throw Object.assign(new Error(`${from} is not there`), { code: 'ENOENT' });
  const isReserved = mayStand && target?.size === 0 && source.size > 0;
  const identity = identityOf(from);
  if (target && !isReserved) {
    if (!mayStand || target.size !== source.size || (await hashOfFile(from)) !== (await hashOfFile(to)))
      throw new TakenError(to);
    if (!copies) await removeMoved(from, to, identity);
    return;
  }
  if (!target) await reserve(to);
  faultPoint('file:reserved');
  try {
    if (copies || !(await renamed(from, to))) {
      await copyOver(from, to, false);
      if (!copies) await removeMoved(from, to, identity);
    }
  } catch (error) {
    // Of a source that was changed meanwhile the copy is an old one.
    if (error instanceof ChangedFileError || (await statOf(to))?.size === 0) await removeFile(to);
    throw error;
  }
  faultPoint('file:moved');
}

/** Deletes the source of a move once its copy, whose bytes were flushed and proven, stands under its name for good. */
async function removeMoved(from: string, to: string, identity: FileIdentity | undefined): Promise<void> {
  await flushFolder(dirname(to));
  faultPoint('file:flushed');
  if (identity) requireUntouched(from, identity);
  await unlink(from);
}

/** Makes an empty file that no other program can take the name of. */
async function reserve(path: string): Promise<void> {
  try {
    await (await open(path, 'wx')).close();
  } catch (error) {
    throw systemCode(error) === 'EEXIST' ? new TakenError(path) : error;
  }
}

/** Renames onto the reserved name; false when the two are on different file systems. */
async function renamed(from: string, to: string): Promise<boolean> {
  try {
    await rename(from, to);
    return true;
  } catch (error) {
    if (systemCode(error) === 'EXDEV') return false;
    throw error;
  }
}

/** Copies beside the target, proves the copy and renames it to its name, which is reserved or (with `reserves`) gets reserved. */
async function copyOver(from: string, to: string, reserves: boolean): Promise<string> {
  const temporary = join(dirname(to), `.${basename(to)}.stellin-part`);
  const hash = createHash('blake2b512');
  const source = await open(from, 'r');
  const identity = identityOf(from);
  try {
    const stats = await source.stat();
    const { atime, mtime, mode } = stats;
    const isSparse = hasHoles(stats);
    const target = await open(temporary, 'w');
    try {
      const chunk = Buffer.allocUnsafe(CHUNK_BYTES);
      for (let at = 0; ;) {
        const { bytesRead } = await source.read(chunk, 0, chunk.length, at);
        if (bytesRead === 0) break;
        hash.update(chunk.subarray(0, bytesRead));
        const bytes = chunk.subarray(0, bytesRead);
        if (!isSparse || !isZero(bytes)) await writeAll(target, bytes, at);
        at += bytesRead;
      }
      // What ends in a hole has its length nevertheless.
      if (isSparse) await target.truncate(stats.size);
      await target.sync();
    } finally {
      await target.close();
    }
    const digest = hash.digest('hex');
    if ((await hashOfFile(temporary, eachChunkOnDrive)) !== digest)
      throw new Error('the drive did not keep what was written; the copy was given up');
    await copyAttributesOf(from, temporary);
    // Where the file system knows them; a copy without them is whole all the same.
    await chmod(temporary, mode & 0o7777).catch(() => undefined);
    await utimes(temporary, atime, mtime);
    faultPoint('file:copied');
    if (identity) requireUntouched(from, identity);
    if (reserves) await reserve(to);
    await rename(temporary, to);
    return digest;
  } catch (error) {
    await unlink(temporary).catch(() => undefined);
    throw error;
  } finally {
    await source.close();
  }
}

async function writeAll(target: Awaited<ReturnType<typeof open>>, bytes: Uint8Array, position: number): Promise<void> {
  for (let written = 0; written < bytes.length;)
    written += (await target.write(bytes, written, bytes.length - written, position + written)).bytesWritten;
}

async function statOf(path: string): Promise<{ size: number } | undefined> {
  try {
    return await lstat(path);
  } catch (error) {
    if (systemCode(error) === 'ENOENT' || systemCode(error) === 'ENOTDIR') return undefined;
    throw error;
  }
}
