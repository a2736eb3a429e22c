// Worker thread: reads the metadata of a batch of files, so that parsing does not hold up the server.

import { open, readFile, stat } from 'node:fs/promises';
import { readMetadata, type FileMetadata } from '@stellin/core/metadata/read';
import { messageOf, systemCode } from '../errors';
import { fileSource } from './source';

export interface RecordRequest {
  path: string;
  sidecarPath: string | undefined;
}

export type RecordResult =
  | { ok: true; sizeBytes: number; mtimeMs: number; sidecarMtimeMs: number | null; metadata: FileMetadata }
  | { ok: false; code: string | undefined; message: string };

const MAX_SIDECAR_BYTES = 16 * 1024 * 1024;

/** One result for each request, in the same order. */
export default function readRecords(requests: RecordRequest[]): Promise<RecordResult[]> {
  return Promise.all(requests.map(readRecord));
}

async function readRecord(request: RecordRequest): Promise<RecordResult> {
  try {
    const sidecar = request.sidecarPath === undefined ? undefined : await readSidecar(request.sidecarPath);
    const handle = await open(request.path, 'r');
    try {
      const { size, mtimeMs } = await handle.stat();
      const metadata = await readMetadata(fileSource(handle, size), sidecar?.bytes);
      return { ok: true, sizeBytes: size, mtimeMs, sidecarMtimeMs: sidecar?.mtimeMs ?? null, metadata };
    } finally {
      await handle.close();
    }
  } catch (error) {
    return { ok: false, code: systemCode(error), message: messageOf(error) };
  }
}

async function readSidecar(path: string): Promise<{ bytes: Uint8Array; mtimeMs: number }> {
  const { size, mtimeMs } = await stat(path);
  if (size > MAX_SIDECAR_BYTES) throw new Error(`the sidecar is larger than ${MAX_SIDECAR_BYTES} bytes`);
  return { bytes: await readFile(path), mtimeMs };
}
