// The pictures of a folder of the data folder, for what is put aside of them: faces, previews.

import { readdir } from 'node:fs/promises';
import { join, relative } from 'node:path';
import { systemCode } from '../errors';

/** Hands over every picture in order of its name below the folder. One that goes while people work belongs to nothing any more and is left out. */
export async function eachPicture(folder: string, take: (name: string, path: string) => Promise<void>): Promise<void> {
  for await (const path of filesBelow(folder))
    await take(relative(folder, path), path).catch((error: unknown) => {
      if (systemCode(error) !== 'ENOENT') throw error;
    });
}

async function* filesBelow(folder: string): AsyncGenerator<string> {
  const entries = await readdir(folder, { withFileTypes: true }).catch((error: unknown) => {
    if (systemCode(error) === 'ENOENT') return [];
    throw error;
  });
  for (const entry of entries.sort((a, b) => (a.name < b.name ? -1 : 1))) {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) yield* filesBelow(path);
    else if (entry.isFile() && !entry.name.startsWith('.') && !entry.name.endsWith('.part')) yield path;
  }
}
