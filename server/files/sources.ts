// The files of the program itself, for telling one version from another.

import { readdir, readFile } from 'node:fs/promises';
import { join } from 'node:path';

/** The files below a folder whose names match, by their names. */
export async function filesBelow(folder: string, matching: RegExp): Promise<{ name: string; bytes: Uint8Array }[]> {
  const names = (await readdir(folder, { recursive: true })).filter((name) => matching.test(name)).sort();
  return Promise.all(names.map(async (name) => ({ name, bytes: await readFile(join(folder, name)) })));
}
