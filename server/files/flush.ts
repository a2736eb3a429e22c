// Forcing onto the drive which names a folder has: until then a file that was made, renamed or deleted may be as it was before.

import { closeSync, fsyncSync, openSync } from 'node:fs';
import { open } from 'node:fs/promises';

export async function flushFolder(path: string): Promise<void> {
  const folder = await open(path, 'r');
  try {
    await folder.sync();
  } finally {
    await folder.close();
  }
}

/** The same at once, for threads and processes that do nothing else. */
export function flushFolderNow(path: string): void {
  const descriptor = openSync(path, 'r');
  try {
    fsyncSync(descriptor);
  } finally {
    closeSync(descriptor);
  }
}
