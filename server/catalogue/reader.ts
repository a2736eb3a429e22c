// Reading files in worker threads.

import { join } from 'node:path';
import type { HashResult, RecordRequest, RecordResult, StatRequest, StatResult } from '../files/readRecord';
import type { Proof, ProofRequest } from '../files/proveCopy';
import { ROOT } from '../root';
import { threadPool } from '../threads/pool';
import type { FolderRequest, KnownHash, RecordText } from './reader.worker';

export interface FileReader {
  /** What files and their sidecars say. */
  read(requests: readonly RecordRequest[]): Promise<RecordResult[]>;
  /** The catalogue records of files of a folder. */
  records(request: FolderRequest): Promise<RecordText[]>;
  /** What the files of a folder look like. */
  stats(request: StatRequest): Promise<StatResult>;
  /** What files hold, as the system reads them. */
  hashes(paths: readonly string[]): Promise<HashResult[]>;
  /** What the drive holds of files now. */
  hashesOnDrive(files: readonly KnownHash[]): Promise<HashResult[]>;
  /** Null when another file holds all that a source holds, else why not. */
  proof(request: ProofRequest): Promise<Proof>;
  close(): Promise<void>;
}

/** Reads in two threads. */
export function fileReader(): FileReader {
  const pool = threadPool(join(ROOT, 'server', 'catalogue', 'reader.worker.ts'), {
    maxThreads: 2,
    idleTimeout: 10_000,
  });
  const part = ({ path, sidecarPath }: RecordRequest) => ({ path, sidecarPath });
  return {
    read: (requests) => pool.run('read', requests.map(part)),
    records: ({ folderId, files }) =>
      pool.run('records', { folderId, files: files.map((file) => ({ name: file.name, ...part(file) })) }),
    stats: (request) => pool.run('stats', request),
    hashes: (paths) => pool.run('hashes', paths),
    hashesOnDrive: (files) =>
      pool.run(
        'hashesOnDrive',
        files.map(({ path, known }) => ({ path, known })),
      ),
    proof: ({ source, other }) => pool.run('proof', { source: part(source), other: part(other) }),
    close: () => pool.close(),
  };
}
