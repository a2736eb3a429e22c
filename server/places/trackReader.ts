// Reading files of tracks in a thread of their own.

import { join } from 'node:path';
import { ROOT } from '../root';
import { threadPool } from '../threads/pool';
import type { ReadTrack } from './tracks.worker';

export interface TrackReader {
  /** Rejects with a sentence when the file can’t be read. */
  read(text: string): Promise<ReadTrack>;
  close(): Promise<void>;
}

export function trackReader(): TrackReader {
  const pool = threadPool(join(ROOT, 'server', 'places', 'tracks.worker.ts'), { maxThreads: 1, idleTimeout: 10_000 });
  return { read: (text) => pool.run<ReadTrack>('read', text), close: () => pool.close() };
}
