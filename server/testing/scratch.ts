// Where the files of tests stand: in memory where the machine has room for them. Programs under test force each write onto
// the disk, and a disk that others use as well makes them wait for most of their time.

import { chmodSync, mkdtempSync, rmSync, statfsSync } from 'node:fs';
import { mkdir, mkdtemp } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { TEST_HOME } from './cluster';

const MEMORY = '/dev/shm';
const NEEDED_BYTES = 2 * 1024 ** 3;

/** Lets the folder for temporary files, of this process and those it starts, be one in memory. Returns what removes it. */
export function scratchInMemory(): () => void {
  if (process.env['TMPDIR'] || freeBytes(MEMORY) < NEEDED_BYTES) return () => undefined;
  const folder = mkdtempSync(join(MEMORY, 'stellin-'));
  // PostgreSQL has a user of its own, who passes through.
  chmodSync(folder, 0o755);
  process.env['TMPDIR'] = folder;
  return () => {
    delete process.env['TMPDIR'];
    rmSync(folder, { recursive: true, force: true });
  };
}

/** A new folder on another file system than the one of temporary files: what is moved there has to be copied. */
export async function folderElsewhere(): Promise<string> {
  const below = tmpdir().startsWith(MEMORY) ? TEST_HOME : MEMORY;
  await mkdir(below, { recursive: true });
  return mkdtemp(join(below, 'elsewhere-'));
}

function freeBytes(folder: string): number {
  try {
    const { bavail, bsize } = statfsSync(folder);
    return bavail * bsize;
  } catch {
    return 0;
  }
}
