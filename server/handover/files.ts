// The files of handovers: putting one beside its original, showing one, and clearing a folder.

import { mkdir, rmdir, unlink } from 'node:fs/promises';
import { dirname, join } from 'node:path';
import sharp from 'sharp';
import { numberedName, nameParts } from '@stellin/core/filing/names';
import { kindByName, kindFacts } from '@stellin/core/metadata/containers/index';
import { messageOf, systemCode } from '../errors';
import { resolveInside } from '../files/drivePath';
import { flushFolder } from '../files/flush';
import { holdsAlready, lookAt } from '../files/fileContent';
import type { FilePlacer } from '../files/placing';
import { pixelsForLooking } from '../files/preview';
import { problemOf } from '../files/problem';
import { isTaken } from '../files/relocate';

const MAX_NUMBER = 10_000;
const SHOWN_PIXELS = 480;
const CHECKED_PIXELS = 64;

/** Makes a folder in the system, with those above it. */
export async function makeFolder(path: string): Promise<string> {
  await mkdir(path, { recursive: true });
  return path;
}

/** A name under which neither a photo nor a sidecar stands in a folder; `given`: base names that are given to others, as `folder/base`. */
export async function freeName(
  folder: { id: number; path: string },
  wanted: string,
  given: ReadonlySet<string>,
): Promise<string> {
  for (let number = 1; number <= MAX_NUMBER; number++) {
    const name = numberedName(wanted, number);
    const { base } = nameParts(name);
    if (given.has(`${folder.id}/${base.toLowerCase()}`)) continue;
    if (!(await isTaken(join(folder.path, name))) && !(await isTaken(join(folder.path, `${base}.xmp`)))) return name;
  }
  throw new Error(`there are too many files called ${wanted}`);
}

/** Puts a file and its sidecar into a folder under a name, each whole or not at all. What a run that was cut off has put there stays. */
export async function putBeside(
  placer: FilePlacer,
  root: string,
  { id, path, sidecar }: { id: number; path: string; sidecar: string | null },
  folder: string,
  name: string,
): Promise<void> {
  const put = async (from: string, to: string, part: string) => {
    const content = { from: await resolveInside(root, from) };
    const full = join(folder, to);
    const there = await lookAt(full);
    if (there && there.size > 0 && (await holdsAlready(full, content))) return;
    await placer.place(full, content, { work: `returned-${id}-${part}`, mayReplace: false });
  };
  await put(path, name, 'picture');
  if (sidecar !== null) await put(sidecar, `${nameParts(name).base}.xmp`, 'words');
  await flushFolder(folder);
}

/** A small JPEG of a file of a handover. Throws an Error that says why there is none. */
export async function smallPicture(root: string, path: string): Promise<Buffer> {
  const { data, width, height } = await pixelsForLooking(
    await resolveInside(root, path),
    kindByName(path),
    SHOWN_PIXELS,
  );
  return sharp(data, { raw: { width, height, channels: 3 } })
    .jpeg({ quality: 80 })
    .toBuffer();
}

/** Why there is no picture in a file that should hold one; undefined where there is, or where none is to be expected. */
export async function pictureProblem(root: string, path: string): Promise<string | undefined> {
  const kind = kindByName(path);
  if (kind === undefined || kindFacts(kind).media !== 'still') return undefined;
  try {
    await pixelsForLooking(await resolveInside(root, path), kind, CHECKED_PIXELS);
    return undefined;
  } catch (error) {
    return `there is no picture in it that can be shown: ${systemCode(error) === undefined ? messageOf(error) : problemOf(error)}`;
  }
}

/** Deletes files below a folder, then the folders that are empty, the folder itself last. What is not there any more is passed over. */
export async function clear(root: string, paths: readonly string[]): Promise<void> {
  const folders = new Set<string>(['']);
  for (const path of paths) {
    await ignoring(['ENOENT'], unlink(await insideOr(root, path)));
    for (let above = dirname(path); above !== '.'; above = dirname(above)) folders.add(above);
  }
  const deepest = [...folders].sort(
    (one, other) => other.split('/').length - one.split('/').length || other.length - one.length,
  );
  for (const folder of deepest) await ignoring(['ENOENT', 'ENOTEMPTY', 'EEXIST'], rmdir(join(root, folder)));
}

/** The path in the system; of a file that is gone the one that it had. */
async function insideOr(root: string, path: string): Promise<string> {
  try {
    return await resolveInside(root, path);
  } catch (error) {
    if (systemCode(error) === 'ENOENT') return join(root, path);
    throw error;
  }
}

async function ignoring(codes: readonly string[], work: Promise<unknown>): Promise<void> {
  await work.catch((error: unknown) => {
    if (!codes.includes(systemCode(error) ?? '')) throw error;
  });
}
