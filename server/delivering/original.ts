// The file of one photo as it is, read while it is downloaded.

import { open } from 'node:fs/promises';
import type { Readable } from 'node:stream';
import { joinPath, resolveInside } from '../files/drivePath';

interface Place {
  mountPoint: string;
  /** Below the drive. */
  folder: string;
  name: string;
}

/** Opens a file and gives what it holds, with its size. Rejects where it can’t be read; it is closed when all was read. */
export async function readOriginal({ mountPoint, folder, name }: Place): Promise<{ stream: Readable; bytes: number }> {
  const file = await open(await resolveInside(mountPoint, joinPath(folder, name)));
  try {
    const { size } = await file.stat();
    return { stream: file.createReadStream(), bytes: size };
  } catch (error) {
    await file.close();
    throw error;
  }
}
