// Worker thread: reads files and makes catalogue records of them, so that none of it holds up the server.

import {
  readHashes,
  readHashesOnDrive,
  readRecord,
  statFolder,
  type FileProblem,
  type HashResult,
  type RecordRequest,
  type RecordResult,
  type StatRequest,
  type StatResult,
} from '../files/readRecord';
import { proveCopy, type Proof, type ProofRequest } from '../files/proveCopy';
import { recordOf } from './record';

/** A record as JSON, so that it passes between threads and into the database as it is; or why there is none. */
export type RecordText = { ok: true; json: string } | FileProblem;

export interface FolderRequest {
  folderId: number;
  files: readonly (RecordRequest & { name: string })[];
}

/** A file, and the SHA-256 it should have; null: none is known. */
export interface KnownHash {
  path: string;
  known: string | null;
}

/** The records of files of a folder, in the same order. */
export function records({ folderId, files }: FolderRequest): RecordText[] {
  return files.map((file) => {
    const result = readRecord(file);
    return result.ok ? { ok: true, json: JSON.stringify(recordOf(folderId, file.name, result)) } : result;
  });
}

/** What files say, in the same order. */
export function read(requests: readonly RecordRequest[]): RecordResult[] {
  return requests.map(readRecord);
}

/** What files hold, in the same order. */
export function hashes(paths: readonly string[]): HashResult[] {
  return paths.map(readHashes);
}

/** While one file is hashed, the next is read. */
const HANDS = 2;

/** The same as the drive holds them now. */
export async function hashesOnDrive(files: readonly KnownHash[]): Promise<HashResult[]> {
  const results: HashResult[] = [];
  const queue = files.entries();
  const hands = Array.from({ length: HANDS }, async () => {
    for (const [i, { path, known }] of queue) results[i] = await readHashesOnDrive(path, known);
  });
  await Promise.all(hands);
  return results;
}

/** Whether another file holds all that a source holds. */
export function proof(request: ProofRequest): Proof {
  return proveCopy(request);
}

/** What the files of a folder look like. */
export function stats(request: StatRequest): StatResult {
  return statFolder(request);
}
