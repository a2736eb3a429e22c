// Keeping files of the data folder within a size: those used longest ago go first.

import { mkdir, readdir, readFile, rename, rm, stat, unlink, utimes, writeFile } from 'node:fs/promises';
import { randomUUID } from 'node:crypto';
import { dirname, join } from 'node:path';
import { systemCode } from '../errors';

export interface KeptFile {
  folder: string;
  name: string;
  path: string;
  sizeBytes: number;
  usedMs: number;
}

/** What a folder holds, by name; nothing where there is no such folder. */
export async function namesIn(folder: string): Promise<string[]> {
  return readdir(folder).catch((error: unknown) => {
    if (systemCode(error) === 'ENOENT') return [];
    throw error;
  });
}

/** Deletes a folder with all that is kept in it. */
export async function removeTree(folder: string): Promise<void> {
  await rm(folder, { recursive: true, force: true });
}

/** Gives a kept file another path; nothing where it is not there. */
export async function renameKept(from: string, to: string): Promise<void> {
  await rename(from, to).catch((error: unknown) => {
    if (systemCode(error) !== 'ENOENT') throw error;
  });
}

/** Notes that a file was used just now. */
export async function markUsed(path: string): Promise<void> {
  const now = new Date();
  await utimes(path, now, now);
}

/**
 * Deletes files of some folders, the one used longest ago first, while all together are larger than `limitBytes`. Those
 * that `spares` names (their paths) stay, and don't count.
 */
export async function keepNewest(
  folders: readonly string[],
  limitBytes: number,
  spares: (files: readonly KeptFile[]) => Promise<ReadonlySet<string>>,
): Promise<void> {
  const files = (await Promise.all(folders.map(keptFiles))).flat();
  if (sizeOf(files) <= limitBytes) return;
  const spared = await spares(files);
  const free = files.filter(({ path }) => !spared.has(path)).sort((a, b) => a.usedMs - b.usedMs);
  let size = sizeOf(free);
  for (const { path, sizeBytes } of free) {
    if (size <= limitBytes) return;
    await unlink(path).catch((error: unknown) => {
      if (systemCode(error) !== 'ENOENT') throw error;
    });
    size -= sizeBytes;
  }
}

function sizeOf(files: readonly KeptFile[]): number {
  return files.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0);
}

/** The files of a folder, without those of its folders; none where there is no such folder. */
export async function keptFiles(folder: string): Promise<KeptFile[]> {
  const names = await namesIn(folder);
  const found = await Promise.all(
    names.map(async (name): Promise<KeptFile[]> => {
      const path = join(folder, name);
      const stats = await stat(path).catch(() => undefined);
      return stats?.isFile() ? [{ folder, name, path, sizeBytes: stats.size, usedMs: stats.mtimeMs }] : [];
    }),
  );
  return found.flat();
}

/** A kept file, whole. */
export const readKept = (path: string): Promise<Buffer> => readFile(path);

/** Keeps a file; it has its name when it is there whole. */
export async function keepFile(path: string, content: Uint8Array): Promise<void> {
  await mkdir(dirname(path), { recursive: true });
  const part = `${path}.${randomUUID()}.part`;
  try {
    await writeFile(part, content);
    await rename(part, path);
  } finally {
    await rm(part, { force: true });
  }
}

/** Keeps a folder that is made as a whole: it has its name when all in it is there. `make` is given where to make it. */
export async function keptFolder(path: string, make: (target: string) => Promise<void>): Promise<string> {
  await mkdir(dirname(path), { recursive: true });
  const part = `${path}.${randomUUID()}.part`;
  try {
    await make(part);
    await rename(part, path);
  } finally {
    await rm(part, { recursive: true, force: true });
  }
  return path;
}
