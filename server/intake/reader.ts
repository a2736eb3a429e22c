// Reading files in worker threads.

import { join } from 'node:path';
import Piscina from 'piscina';
import type { HashResult, RecordRequest, RecordResult, StatRequest, StatResult } from '../files/readRecord';
import { WORKER_ARGS } from '../files/workers';
import type { FolderRequest, RecordText } from './reader.worker';

export interface FileReader {
  /** What files and their sidecars say. */
  read(requests: readonly RecordRequest[]): Promise<RecordResult[]>;
  /** The catalogue records of files of a folder. */
  records(request: FolderRequest): Promise<RecordText[]>;
  /** What the files of a folder look like. */
  stats(request: StatRequest): Promise<StatResult>;
  /** The hashes of the pictures in files. */
  hashes(paths: readonly string[]): Promise<HashResult[]>;
  close(): Promise<void>;
}

/** Reads in two threads. */
export function fileReader(): FileReader {
  const filename = join(__dirname, 'reader.worker.ts');
  const pool = new Piscina({ maxThreads: 2, minThreads: 0, idleTimeout: 10_000, execArgv: WORKER_ARGS });
  const part = ({ path, sidecarPath }: RecordRequest) => ({ path, sidecarPath });
  return {
    read: (requests) => pool.run(requests.map(part), { filename, name: 'read' }),
    records: ({ folderId, files }) =>
      pool.run(
        { folderId, files: files.map((file) => ({ name: file.name, ...part(file) })) },
        { filename, name: 'records' },
      ),
    stats: (request) => pool.run(request, { filename, name: 'stats' }),
    hashes: (paths) => pool.run(paths, { filename, name: 'hashes' }),
    close: () => pool.destroy(),
  };
}
