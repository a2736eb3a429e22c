// Deliveries as bags (BagIt, RFC 8493): their tag files, and that a bag has a folder of its own.

import { createHash } from 'node:crypto';
import { join } from 'node:path';
import { manifestText } from '@stellin/core/bagit/manifest';
import { StellinError } from '../errors';
import { bagInfoText, BAG_DECLARATION, BAG_MANIFEST } from '../files/bagTags';
import { isTaken } from '../files/relocate';
import type * as store from './store';

export const BAGIT_FILE = 'bagit.txt';
export const NOT_NEW = 'a bag needs a folder of its own, and there is one already. Name another folder.';

/** The tag files of a delivery by name. */
export function bagTags(
  { title, at }: Pick<store.DeliveryRow, 'title' | 'at'>,
  payload: ReadonlyMap<string, string>,
): Record<string, string> {
  const tags: Record<string, string> = {
    [BAGIT_FILE]: BAG_DECLARATION,
    'bag-info.txt': bagInfoText({ 'Bagging-Date': at.toISOString().slice(0, 10), 'External-Description': title }),
    [BAG_MANIFEST]: manifestText(payload),
  };
  const sums = new Map(
    Object.entries(tags).map(([name, text]) => [name, createHash('sha256').update(text).digest('hex')]),
  );
  return { ...tags, 'tagmanifest-sha256.txt': manifestText(sums) };
}

/** Refuses to make a bag in a folder of the system where files of one stand already: they would belong to it. */
export async function requireNewBag(root: string): Promise<void> {
  if ((await isTaken(join(root, 'data'))) || (await isTaken(join(root, BAGIT_FILE))))
    throw new StellinError('badRequest', { problem: NOT_NEW });
}
