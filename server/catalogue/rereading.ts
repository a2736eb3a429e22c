// Reading files again into the catalogue: what those who write, move or link files ask for.

import type { Transaction } from '../database/database';
import type { ReadingMode } from './merging';

/** A file that could not be read again. */
export interface Unread {
  path: string;
  name: string;
  message: string;
}

/** Reads files again into the catalogue; returns what could not be read. */
export type Reread = (
  files: readonly { driveId: string; folderId: number; name: string; path: string; sidecarPath: string | undefined }[],
  tx: Transaction,
  mode?: ReadingMode,
) => Promise<Unread[]>;
