// Worker thread: puts files under their names.

import { messageOf, systemCode } from '../errors';
import type { FileContent } from './fileContent';
import { placeFile, type HowPlaced } from './placeFile';
import { TakenError } from './relocate';

/** The size of the file in bytes; or the error, as it can pass between threads. */
export type Placed = { bytes: number } | { message: string; code: string | undefined; isTaken: boolean };

export function place({ path, content, how }: { path: string; content: FileContent; how: HowPlaced }): Placed {
  try {
    return { bytes: placeFile(path, content, how) };
  } catch (error) {
    return { message: messageOf(error), code: systemCode(error), isTaken: error instanceof TakenError };
  }
}
