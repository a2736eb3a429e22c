// Writing into pictures as another program would: nothing is journaled, and the time of change is a new one.

import { readdir } from 'node:fs/promises';
import { join, relative } from 'node:path';
import { kindByName } from '@stellin/core/metadata/containers/index';
import type { FieldChanges } from '@stellin/core/metadata/write';
import { carryOut } from './carryOut';
import { planFiles } from './planWrite';

/** Changes the first so many JPEGs below a folder, in the order of their paths. Returns their paths below it. */
export async function touchPictures(root: string, count: number, changes: FieldChanges): Promise<string[]> {
  const names = await readdir(root, { recursive: true, withFileTypes: true });
  const pictures = names
    .filter((entry) => entry.isFile() && !entry.name.startsWith('.') && kindByName(entry.name) === 'jpeg')
    .map((entry) => join(entry.parentPath, entry.name))
    .sort();
  const touched: string[] = [];
  for (const path of pictures) {
    if (touched.length >= count) break;
    try {
      const plan = planFiles({ path, changes, options: { now: new Date().toISOString() }, keepTimes: false });
      const [result] = await carryOut([plan]);
      if (result?.ok && plan.files.length > 0) touched.push(relative(root, path));
    } catch {
      // A damaged or read-only file: other programs leave those, too.
    }
  }
  return touched;
}
