// Worker thread: reads the metadata of a batch of files, so that parsing does not hold up the server.

import { statSync } from 'node:fs';
import { readMetadata, type FileMetadata } from '@stellin/core/metadata/read';
import { systemCode } from '../errors';
import { problemOf } from './problem';
import { readSidecar, withSource } from './source';

export interface RecordRequest {
  path: string;
  sidecarPath: string | undefined;
}

export type RecordResult =
  | { ok: true; sizeBytes: number; mtimeMs: number; sidecarMtimeMs: number | null; metadata: FileMetadata }
  | { ok: false; code: string | undefined; message: string };

/** One result for each request, in the same order. */
export default function readRecords(requests: RecordRequest[]): RecordResult[] {
  return requests.map(readRecord);
}

function readRecord({ path, sidecarPath }: RecordRequest): RecordResult {
  try {
    const sidecar =
      sidecarPath === undefined ? undefined : { bytes: readSidecar(sidecarPath), ...statSync(sidecarPath) };
    const { size, mtimeMs } = statSync(path);
    const metadata = withSource(path, (source) => readMetadata(source, sidecar?.bytes));
    return { ok: true, sizeBytes: size, mtimeMs, sidecarMtimeMs: sidecar?.mtimeMs ?? null, metadata };
  } catch (error) {
    return { ok: false, code: systemCode(error), message: problemOf(error) };
  }
}
