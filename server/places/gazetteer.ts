// The gazetteer as the server asks it: in a thread of its own, which starts with the first question and ends when nobody asks.

import { join } from 'node:path';
import type { FoundPlace, Town, Whereabouts } from '@stellin/core/timeplace/gazetteer';
import type { GeoBox, Point } from '@stellin/core/timeplace/areas';
import type { Outline, OutlineDetail } from '@stellin/contract/places';
import { ROOT } from '../root';
import { threadPool } from '../threads/pool';
import type { called, find, outline, towns, whereabouts } from './gazetteer.worker';

export interface GazetteerClient {
  /** Places that a typed text begins; those near some points before others. */
  find(text: string, limit: number, near: readonly Point[]): Promise<FoundPlace[]>;
  /** Of each name the towns that have exactly it, in a country if one is given. */
  called(names: readonly { name: string; country: string }[]): Promise<FoundPlace[][]>;
  whereabouts(points: readonly Point[]): Promise<Whereabouts[]>;
  /** The largest towns in a box. */
  towns(box: GeoBox, limit: number): Promise<Town[]>;
  /** Coasts and borders of a square of the world. */
  outline(square: { detail: OutlineDetail; column: number; row: number }): Promise<Outline>;
  close(): Promise<void>;
}

/** So long the thread keeps what it has read, in milliseconds. */
const KEPT_MS = 30 * 60_000;

export function gazetteerClient(): GazetteerClient {
  const pool = threadPool(join(ROOT, 'server', 'places', 'gazetteer.worker.ts'), {
    maxThreads: 1,
    idleTimeout: KEPT_MS,
  });
  const run = <Task extends typeof find | typeof called | typeof whereabouts | typeof towns | typeof outline>(
    name: string,
    given: Parameters<Task>[0],
  ) => pool.run<ReturnType<Task>>(name, given);
  return {
    find: (text, limit, near) => run<typeof find>('find', { text, limit, near }),
    called: (names) => run<typeof called>('called', names),
    whereabouts: (points) => run<typeof whereabouts>('whereabouts', points),
    towns: (box, limit) => run<typeof towns>('towns', { box, limit }),
    outline: (square) => run<typeof outline>('outline', square),
    close: () => pool.close(),
  };
}
