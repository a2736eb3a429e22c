// Writing spreadsheets in a thread of their own.

import { join } from 'node:path';
import { ROOT } from '../root';
import { threadPool } from '../threads/pool';
import type { Spreadsheet } from './spreadsheet.worker';

export interface SpreadsheetWriter {
  /** The file (XLSX) of a table. */
  write(sheet: Spreadsheet): Promise<Uint8Array>;
  close(): Promise<void>;
}

export function spreadsheetWriter(): SpreadsheetWriter {
  const pool = threadPool(join(ROOT, 'server', 'delivering', 'spreadsheet.worker.ts'), {
    maxThreads: 1,
    idleTimeout: 10_000,
  });
  return { write: (sheet) => pool.run('write', sheet), close: () => pool.close() };
}
