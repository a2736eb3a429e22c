// The marker file by which a drive is recognised wherever it is mounted: a UUID and a label at its root.

import { randomUUID } from 'node:crypto';
import { open, readFile, rename } from 'node:fs/promises';
import { join } from 'node:path';
import { z } from 'zod';
import { messageOf, systemCode } from '../errors';

export const MARKER_NAME = '.stellin-drive.json';

const marker = z.object({ id: z.uuid(), label: z.string().trim().min(1).max(100) });
export type Marker = z.infer<typeof marker>;

/** The marker of the drive mounted here; undefined when it has none. Throws an Error naming the file when it can't be understood. */
export async function readMarker(mountPoint: string): Promise<Marker | undefined> {
  const path = join(mountPoint, MARKER_NAME);
  try {
    return marker.parse(JSON.parse(await readFile(path, 'utf8')));
  } catch (error) {
    if (systemCode(error) === 'ENOENT' || systemCode(error) === 'ENOTDIR') return undefined;
    throw new Error(`${path} can't be read: ${messageOf(error)}`, { cause: error });
  }
}

/** Marks a drive that has no marker yet. The only file that taking in adds to a drive. */
export async function writeMarker(mountPoint: string, label: string): Promise<Marker> {
  const made = { id: randomUUID(), label };
  await put(join(mountPoint, MARKER_NAME), made, 'wx');
  return made;
}

/** Marks a drive anew that carries the marker of the one it is a copy of. */
export async function replaceMarker(mountPoint: string, label: string): Promise<Marker> {
  const made = { id: randomUUID(), label };
  await relabelMarker(mountPoint, made);
  return made;
}

/** Replaces the marker, whole or not at all. */
export async function relabelMarker(mountPoint: string, marker: Marker): Promise<void> {
  const path = join(mountPoint, MARKER_NAME);
  await put(`${path}.part`, marker, 'w');
  await rename(`${path}.part`, path);
}

async function put(path: string, made: Marker, flags: 'w' | 'wx'): Promise<void> {
  const handle = await open(path, flags);
  try {
    await handle.writeFile(`${JSON.stringify(made, null, 2)}\n`);
    await handle.sync();
  } finally {
    await handle.close();
  }
}
