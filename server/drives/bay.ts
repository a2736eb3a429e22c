// The drive bay of the demo: a stand-in that plugs drives in and out. A drive on the shelf is a folder below `shelf`;
// plugging it in renames it to a slot below `drives`, where the server looks for drives. Renaming is what makes it vanish
// from its path at once, as a drive does that is pulled out.

import { mkdir, readdir, rename } from 'node:fs/promises';
import { join } from 'node:path';
import { places } from '../config';
import { StellinError, systemCode } from '../errors';
import { readMarker } from './marker';

export interface BayDrive {
  /** The drive's folder on the shelf; kept while it is plugged in by its marker's label. */
  name: string;
  label: string;
  attachedAt: string | null;
}

export const SLOTS = ['bay-1', 'bay-2', 'bay-3', 'bay-4', 'bay-5', 'bay-6', 'bay-7'];

/** The bay's drives, plugged in or not. Empty when there is no bay in this data folder. */
export async function listBay(home: string): Promise<BayDrive[]> {
  const [mounted, shelved] = await Promise.all([folders(places.mounts(home)), folders(places.shelf(home))]);
  const drives = await Promise.all([
    ...mounted.map(async (slot) => ({ ...(await nameOf(join(places.mounts(home), slot), slot)), attachedAt: slot })),
    ...shelved.map(async (name) => ({ ...(await nameOf(join(places.shelf(home), name), name)), attachedAt: null })),
  ]);
  return drives.sort((a, b) => (a.label < b.label ? -1 : 1));
}

/** Plugs a drive in, at the slot given or the first free one. Throws when it is in already, or the slot is taken. */
export async function attach(home: string, name: string, slot?: string): Promise<BayDrive> {
  const drive = await requireDrive(home, name);
  if (drive.attachedAt)
    throw new StellinError('bayDrive', { why: `“${drive.label}” is plugged in already, at ${drive.attachedAt}.` });
  const taken = new Set(await folders(places.mounts(home)));
  const free = slot ?? SLOTS.find((candidate) => !taken.has(candidate));
  if (!free || !SLOTS.includes(free))
    throw new StellinError('bayDrive', { why: slot ? `There is no slot “${slot}”.` : 'All slots are taken.' });
  if (taken.has(free)) throw new StellinError('bayDrive', { why: `The slot ${free} is taken.` });
  await mkdir(places.mounts(home), { recursive: true });
  await rename(join(places.shelf(home), drive.name), join(places.mounts(home), free));
  return { ...drive, attachedAt: free };
}

/** Unplugs a drive. */
export async function detach(home: string, name: string): Promise<BayDrive> {
  const drive = await requireDrive(home, name);
  if (!drive.attachedAt) throw new StellinError('bayDrive', { why: `“${drive.label}” is not plugged in.` });
  await mkdir(places.shelf(home), { recursive: true });
  await rename(join(places.mounts(home), drive.attachedAt), join(places.shelf(home), drive.name));
  return { ...drive, attachedAt: null };
}

async function requireDrive(home: string, name: string): Promise<BayDrive> {
  const drives = await listBay(home);
  if (drives.length === 0) throw new StellinError('bayMissing');
  const wanted = shelfName(name);
  const drive = drives.find((candidate) => candidate.name === wanted);
  if (!drive)
    throw new StellinError('bayDrive', {
      why: `There is no drive “${name}” in the bay; there are ${drives.map(({ label }) => label).join(', ')}.`,
    });
  return drive;
}

/** The name of a drive's folder on the shelf. */
export function shelfName(label: string): string {
  return label
    .trim()
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, '-');
}

async function nameOf(path: string, folder: string): Promise<{ name: string; label: string }> {
  const label = (await readMarker(path))?.label ?? folder;
  return { name: shelfName(label), label };
}

async function folders(path: string): Promise<string[]> {
  try {
    return (await readdir(path, { withFileTypes: true }))
      .filter((entry) => entry.isDirectory())
      .map(({ name }) => name);
  } catch (error) {
    if (systemCode(error) === 'ENOENT') return [];
    throw error;
  }
}
