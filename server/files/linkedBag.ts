// A bag (BagIt, RFC 8493) that holds nothing but its manifests: its payload is a folder elsewhere, to which data/ leads.

import { mkdir, open, rename, rm, symlink } from 'node:fs/promises';
import { basename, dirname, join } from 'node:path';
import { manifestText } from '@stellin/core/bagit/manifest';
import { BAG_MANIFEST, writeBagTags } from './bagTags';
import { flushFolder } from './flush';
import { isTaken } from './relocate';

/** Writes the bag into a folder that is not there yet; returns how many files it names. `files` are paths below the payload with their SHA-256. */
export async function writeLinkedBag(
  folder: string,
  payload: string | null,
  files: AsyncIterable<readonly { path: string; sha256: string }[]>,
  info: Readonly<Record<string, string>>,
): Promise<number> {
  if (await isTaken(folder)) throw new Error(`${folder} is there already. Nothing was changed.`);
  const part = join(dirname(folder), `.${basename(folder)}.part`);
  await rm(part, { recursive: true, force: true });
  await mkdir(part, { recursive: true });
  try {
    const manifest = await open(join(part, BAG_MANIFEST), 'wx');
    let count = 0;
    try {
      for await (const some of files) {
        count += some.length;
        await manifest.appendFile(manifestText(new Map(some.map(({ path, sha256 }) => [`data/${path}`, sha256]))));
      }
      await manifest.sync();
    } finally {
      await manifest.close();
    }
    await writeBagTags(part, info);
    if (payload !== null) await symlink(payload, join(part, 'data'));
    await rename(part, folder);
    await flushFolder(dirname(folder));
    return count;
  } catch (error) {
    await rm(part, { recursive: true, force: true });
    throw error;
  }
}
