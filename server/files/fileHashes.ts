// What a file holds, as hashes of its bytes: by SHA-256, which other programs know as well, and of its picture alone.

import { createHash } from 'node:crypto';
import { closeSync, openSync, readSync } from 'node:fs';
import type { FileHashes } from '@stellin/core/fixity/states';
import type { Range } from '@stellin/core/metadata/containers/index';
import { systemCode } from '../errors';
import { eachChunkOnDrive } from './pastCache';
import { hashingInOrder, pictureHash, rangesOf } from './pictureHash';
import { sidecarPath } from './sidecars';
import { withSource } from './source';

const CHUNK = Buffer.allocUnsafeSlow(1024 * 1024);

/** The hashes of a file and of the sidecar beside it, as the system reads them. Reads the file once. */
export function fileHashes(path: string): FileHashes {
  const picture = pictureOf(path);
  const sha256 = createHash('sha256');
  eachChunkOf(path, (chunk) => {
    sha256.update(chunk);
    picture?.take(chunk);
  });
  return { sha256: sha256.digest('hex'), picture: picture?.digest() ?? null, sidecar: hashOfSidecar(path) };
}

/** The SHA-256 of the sidecar beside a photo's file; null when there is none. */
export function hashOfSidecar(path: string): string | null {
  const beside = sidecarPath(path);
  if (beside === path) return null;
  const sha256 = createHash('sha256');
  try {
    eachChunkOf(beside, (chunk) => sha256.update(chunk));
  } catch (error) {
    if (systemCode(error) === 'ENOENT') return null;
    throw error;
  }
  return sha256.digest('hex');
}

/** The same as the drive holds it, past what memory remembers. The picture is only looked at when the rest is not as `known`. */
export async function fileHashesOnDrive(path: string, known: string | null): Promise<FileHashes> {
  const sidecar = hashOfSidecar(path);
  const sha256 = known === null ? undefined : await sha256OnDrive(path);
  if (sha256 !== undefined && sha256 === known) return { sha256, picture: null, sidecar };
  const picture = pictureOf(path);
  const hash = createHash('sha256');
  await eachChunkOnDrive(path, (chunk) => {
    hash.update(chunk);
    picture?.take(chunk);
  });
  return { sha256: hash.digest('hex'), picture: picture?.digest() ?? null, sidecar };
}

/** The SHA-256 of a file as the drive holds it. */
export async function sha256OnDrive(path: string): Promise<string> {
  const hash = createHash('sha256');
  await eachChunkOnDrive(path, (chunk) => void hash.update(chunk));
  return hash.digest('hex');
}

/** Hashes the picture of a file that is read from the beginning to the end; undefined when it can’t be told from the rest, or not be read. */
function pictureOf(path: string): { take(chunk: Uint8Array): void; digest(): string | null } | undefined {
  let ranges: readonly Range[];
  try {
    ranges = withSource(path, rangesOf);
  } catch (error) {
    // The file system’s errors say nothing of the picture.
    if (systemCode(error) !== undefined) throw error;
    return undefined;
  }
  const inOrder = hashingInOrder(ranges);
  return inOrder
    ? { take: (chunk) => inOrder.take(chunk), digest: () => inOrder.digest().toString('hex') }
    : { take: () => undefined, digest: () => pictureHash(path).toString('hex') };
}

function eachChunkOf(path: string, take: (chunk: Uint8Array) => void): void {
  const file = openSync(path, 'r');
  try {
    for (let at = 0; ;) {
      const read = readSync(file, CHUNK, 0, CHUNK.length, at);
      if (read === 0) return;
      take(CHUNK.subarray(0, read));
      at += read;
    }
  } finally {
    closeSync(file);
  }
}
