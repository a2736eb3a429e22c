// Makes the archive's files, one drive after the other: each a folder on the shelf with its marker, and in the manifest what
// is true of each of its photos, for the demo's description and for measuring.

import { mkdir, open, readFile, rename, rm, writeFile } from 'node:fs/promises';
import { createHash } from 'node:crypto';
import { dirname, join } from 'node:path';
import { z } from 'zod';
import { places } from '@stellin/server/config';
import { shelfName } from '@stellin/server/drives/bay';
import { MARKER_NAME } from '@stellin/server/drives/marker';
import { messageOf, systemCode } from '@stellin/server/errors';
import { ROOT } from '@stellin/server/root';
import { threadPool, type ThreadPool } from '@stellin/server/threads/pool';
import type { MakeRequest } from './makePhoto.worker';
import type { PaintedFace } from './paint';
import { makeRecordings } from './recordings';
import { DRIVES, planArchive, type ArchivePlan, type DriveLabel, type PlannedPhoto } from './plan';

const manifestSchema = z.object({
  /** The drives that have been made. */
  drives: z.array(z.string()),
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

/** What is true of every photo of the drives that have been made. */
export type Manifest = z.infer<typeof manifestSchema>;

export interface Making {
  progress(done: number, total: number, note?: string): void;
  isStopped(): boolean;
}

const WORKERS = 2;
/** Photos under way in one worker: while one waits for sharp, another is painted. */
const AT_ONCE = 2;
/** The drive with films, sounds and programmes. */
const RECORDED: DriveLabel = 'Vault 2';
/** After this time without a task a thread ends. */
const IDLE_MS = 1000;

function manifestPath(home: string): string {
  return join(home, 'demo-archive.json');
}

/** Where a drive is until it is whole. */
function easel(home: string, label: DriveLabel): string {
  return join(home, 'painting', shelfName(label));
}

/** The manifest of the archive in a data folder, empty when nothing has been made yet. */
export async function readManifest(home: string): Promise<Manifest> {
  try {
    return manifestSchema.parse(JSON.parse(await readFile(manifestPath(home), 'utf8')));
  } catch (error) {
    // Only where there is none: anything else must not have the archive painted anew over what is there.
    if (systemCode(error) === 'ENOENT') return { drives: [], photos: [] };
    throw new Error(`${manifestPath(home)} can’t be read: ${messageOf(error)}`, { cause: error });
  }
}

/** Makes all drives of the archive on the shelf, or of each folder of them the share given. */
export async function makeArchive(home: string, share: number, making: Making): Promise<Manifest> {
  const plan = planArchive(share);
  for (const label of DRIVES) await makeDrive(home, plan, label, making);
  return readManifest(home);
}

/** Makes a drive unless it has been made: on the shelf at once as a whole, and then in the manifest. */
export async function makeDrive(home: string, plan: ArchivePlan, label: DriveLabel, making: Making): Promise<void> {
  const manifest = await readManifest(home);
  if (manifest.drives.includes(label)) return;
  const folder = easel(home, label);
  await rm(folder, { recursive: true, force: true });
  const photos = plan.photos.filter(({ drive }) => drive === label);
  const faces = await paintAll(plan, label, photos, folder, making);
  await addBroken(plan, label, folder);
  if (label === RECORDED)
    await makeRecordings(folder, photos, (path) => making.progress(photos.length, photos.length, path));
  const marker = { id: uuidOf(label), label };
  await writeFile(join(folder, MARKER_NAME), `${JSON.stringify(marker, null, 2)}\n`);
  await mkdir(places.mounts(home), { recursive: true });
  await mkdir(places.shelf(home), { recursive: true });
  const onShelf = join(places.shelf(home), shelfName(label));
  // There is one already if a run was cut off just below.
  await rm(onShelf, { recursive: true, force: true });
  await rename(folder, onShelf);
  const made = photos.map(({ drive, path, terms, people, look }, i) => ({
    drive,
    path,
    terms,
    people,
    look,
    faces: faces[i] ?? [],
  }));
  await writeManifest(home, { drives: [...manifest.drives, label], photos: [...manifest.photos, ...made] });
}

async function writeManifest(home: string, manifest: Manifest): Promise<void> {
  await writeFile(`${manifestPath(home)}.part`, JSON.stringify(manifest));
  await rename(`${manifestPath(home)}.part`, manifestPath(home));
}

/** Paints the photos of a drive, and again those of which it has copies under other names. */
async function paintAll(
  plan: ArchivePlan,
  label: DriveLabel,
  photos: readonly PlannedPhoto[],
  folder: string,
  { progress, isStopped }: Making,
): Promise<PaintedFace[][]> {
  const pool = threadPool(join(ROOT, 'demo', 'archive', 'makePhoto.worker.ts'), {
    maxThreads: WORKERS,
    idleTimeout: IDLE_MS,
    concurrentTasksPerWorker: AT_ONCE,
  });
  const copies = plan.copies.filter(({ drive }) => drive === label);
  const total = photos.length + copies.length;
  let done = 0;
  const paint = async (pictures: ThreadPool, request: MakeRequest): Promise<PaintedFace[]> => {
    const faces = await pictures.run<PaintedFace[]>('makePhoto', request);
    if (isStopped()) throw new Error('stopped');
    progress(++done, total, request.path);
    return faces;
  };
  try {
    const [faces] = await Promise.all([
      Promise.all(photos.map((photo) => paint(pool, { photo, folder, path: photo.path }))),
      Promise.all(copies.map(({ of, path }) => paint(pool, { photo: of, folder, path }))),
    ]);
    return faces;
  } finally {
    await pool.close();
  }
}

/** A file that was cut off, and one that is empty. */
async function addBroken(plan: ArchivePlan, label: DriveLabel, folder: string): Promise<void> {
  for (const { drive, path, of } of plan.broken) {
    if (drive !== label) continue;
    const bytes = of === undefined ? Buffer.alloc(0) : await readFile(join(folder, of));
    await mkdir(dirname(join(folder, path)), { recursive: true });
    const handle = await open(join(folder, path), 'w');
    await handle.write(bytes.subarray(0, Math.floor(bytes.length * 0.4)));
    await handle.close();
  }
}

/** A UUID that follows from a name (RFC 9562, version 8). */
function uuidOf(name: string): string {
  const hex = createHash('sha256').update(`saltmarsh ${name}`).digest('hex');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-8${hex.slice(13, 16)}-9${hex.slice(17, 20)}-${hex.slice(20, 32)}`;
}
