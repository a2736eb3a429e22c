// Makes the archive's files: drives as folders on the shelf, each with its marker, and a manifest of what is true of each
// photo, for the demo's description and for measuring.

import { copyFile, mkdir, open, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { createHash } from 'node:crypto';
import { dirname, join } from 'node:path';
import { z } from 'zod';
import { places } from '@stellin/server/config';
import { shelfName } from '@stellin/server/drives/bay';
import { MARKER_NAME } from '@stellin/server/drives/marker';
import { messageOf, systemCode } from '@stellin/server/errors';
import { ROOT } from '@stellin/server/root';
import { threadPool } from '@stellin/server/threads/pool';
import type { MakeRequest } from './makePhoto.worker';
import type { PaintedFace } from './paint';
import { DRIVES, planArchive, type ArchivePlan } from './plan';

const manifestSchema = z.object({
  photos: z.array(
    z.object({
      drive: z.string(),
      path: z.string(),
      terms: z.array(z.string()),
      people: z.array(z.string()),
      look: z.string(),
      faces: z.array(z.object({ person: z.string(), x: z.number(), y: z.number(), w: z.number(), h: z.number() })),
    }),
  ),
});

/** What is true of every photo of the archive. */
export type Manifest = z.infer<typeof manifestSchema>;

export interface MakeProgress {
  progress(done: number, total: number, note?: string): void;
}

const WORKERS = 2;
/** Photos under way in one worker: while one waits for sharp, another is painted. */
const AT_ONCE = 2;
/** Threads without a task end after so long. */
const IDLE_MS = 1000;

/** Where the manifest is kept; it is written last, so where it is, the archive is whole. */
function manifestPath(home: string): string {
  return join(home, 'demo-archive.json');
}

/** The manifest of the archive in a data folder; undefined when there is none yet. */
export async function readManifest(home: string): Promise<Manifest | undefined> {
  try {
    return manifestSchema.parse(JSON.parse(await readFile(manifestPath(home), 'utf8')));
  } catch (error) {
    // Only where there is none: anything else must not have the archive painted anew over what is there.
    if (systemCode(error) === 'ENOENT') return undefined;
    throw new Error(`${manifestPath(home)} can’t be read: ${messageOf(error)}`, { cause: error });
  }
}

export async function forgetManifest(home: string): Promise<void> {
  await rm(manifestPath(home), { force: true });
}

/** Makes all drives of the archive on the shelf. Anything there from an interrupted try is made anew. */
export async function makeArchive(
  home: string,
  share: number,
  { progress }: MakeProgress,
  isStopped: () => boolean,
): Promise<Manifest> {
  const plan = planArchive(share);
  const folderOf = (drive: string) => join(places.shelf(home), shelfName(drive));
  for (const folder of [places.shelf(home), places.mounts(home)]) await rm(folder, { recursive: true, force: true });
  const faces = await paintAll(plan, folderOf, progress, isStopped);
  await addStrays(plan, folderOf);
  for (const { label } of DRIVES)
    await writeFile(join(folderOf(label), MARKER_NAME), `${JSON.stringify({ id: uuidOf(label), label }, null, 2)}\n`);
  await mkdir(places.mounts(home), { recursive: true });

  const manifest: Manifest = {
    photos: plan.photos.map(({ drive, path, terms, people, look }, i) => ({
      drive,
      path,
      terms,
      people,
      look,
      faces: faces[i] ?? [],
    })),
  };
  await writeFile(`${manifestPath(home)}.part`, JSON.stringify(manifest));
  await rename(`${manifestPath(home)}.part`, manifestPath(home));
  return manifest;
}

async function paintAll(
  plan: ArchivePlan,
  folderOf: (drive: string) => string,
  progress: MakeProgress['progress'],
  isStopped: () => boolean,
): Promise<PaintedFace[][]> {
  const pool = threadPool(join(ROOT, 'demo', 'archive', 'makePhoto.worker.ts'), {
    maxThreads: WORKERS,
    idleTimeout: IDLE_MS,
    concurrentTasksPerWorker: AT_ONCE,
  });
  const total = plan.photos.length;
  let done = 0;
  try {
    return await Promise.all(
      plan.photos.map(async (photo) => {
        const request: MakeRequest = { photo, folder: folderOf(photo.drive) };
        const faces = await pool.run<PaintedFace[]>('makePhoto', request);
        if (isStopped()) throw new Error('stopped');
        progress(++done, total, `${photo.drive}: ${photo.path}`);
        return faces;
      }),
    );
  } finally {
    await pool.close();
  }
}

/** Exact copies under other names, a file that was cut off, one that is empty. */
async function addStrays(plan: ArchivePlan, folderOf: (drive: string) => string): Promise<void> {
  for (const { drive, path, of } of plan.copies) {
    const target = join(folderOf(drive), path);
    await mkdir(dirname(target), { recursive: true });
    await copyFile(join(folderOf(of.drive), of.path), target);
  }
  for (const { drive, path, of } of plan.broken) {
    const bytes = of === undefined ? Buffer.alloc(0) : await readFile(join(folderOf(drive), of));
    await mkdir(dirname(join(folderOf(drive), path)), { recursive: true });
    const handle = await open(join(folderOf(drive), path), 'w');
    await handle.write(bytes.subarray(0, Math.floor(bytes.length * 0.4)));
    await handle.close();
  }
}

/** A UUID that follows from a name (RFC 9562, version 8). */
function uuidOf(name: string): string {
  const hex = createHash('sha256').update(`saltmarsh ${name}`).digest('hex');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-8${hex.slice(13, 16)}-9${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}
