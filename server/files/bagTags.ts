// The tag files of a bag (BagIt, RFC 8493, 2.1 and 2.2): what it is, and the checksums of what says so.

import { createHash } from 'node:crypto';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { manifestText } from '@stellin/core/bagit/manifest';

export const BAG_DECLARATION = 'BagIt-Version: 1.0\nTag-File-Character-Encoding: UTF-8\n';
export const BAG_MANIFEST = 'manifest-sha256.txt';

/** What says of a bag what it is, as text (RFC 8493, 2.2.2). */
export function bagInfoText(info: Readonly<Record<string, string>>): string {
  return Object.entries(info)
    .map(([name, value]) => `${name}: ${value}\n`)
    .join('');
}

/** Writes the tag files of a bag whose manifest stands in its folder already. */
export async function writeBagTags(folder: string, info: Readonly<Record<string, string>>): Promise<void> {
  const tags = { 'bagit.txt': BAG_DECLARATION, 'bag-info.txt': bagInfoText(info) };
  for (const [name, text] of Object.entries(tags)) await writeFile(join(folder, name), text, { flush: true });
  const hashes = new Map<string, string>();
  for (const name of [...Object.keys(tags), BAG_MANIFEST])
    hashes.set(
      name,
      createHash('sha256')
        .update(await readFile(join(folder, name)))
        .digest('hex'),
    );
  await writeFile(join(folder, 'tagmanifest-sha256.txt'), manifestText(hashes), { flush: true });
}
