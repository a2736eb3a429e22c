// New names from a pattern, for photos in the order of capture. Files that share a base name keep sharing it.

import { parseNamePattern } from '@stellin/core/filing/namePattern';
import { nameParts, nameProblem } from '@stellin/core/filing/names';
import type { Selection } from '@stellin/contract/photos';
import type { Database, Transaction } from '../database/database';
import { StellinError } from '../errors';
import * as store from './store';

const PAGE = 1000;

export interface Renaming {
  selection: Selection;
  pattern: string;
  /** The first {number}. */
  start: number;
}

/** The photos of a selection with their new names, page by page. Throws a StellinError when the pattern or a name can't be used. */
export async function* newNames(
  database: Database,
  { selection, pattern, start }: Renaming,
  tx: Transaction,
): AsyncGenerator<{ photo: store.NamedPhoto; name: string }[]> {
  const parsed = parseNamePattern(pattern);
  if (!parsed.ok) throw new StellinError('nameRefused', { name: pattern, why: parsed.problem });
  await store.openRenaming(database, selection, tx);
  let number = start - 1;
  let group = '';
  for (;;) {
    const photos = await store.nextToRename(database, PAGE, tx);
    if (photos.length === 0) return;
    yield photos.map((photo) => {
      const key = store.sharerKey(photo.folderId, photo.base);
      if (key !== group) number += 1;
      group = key;
      const { base, extension } = nameParts(photo.name);
      const folder = photo.folder.slice(photo.folder.lastIndexOf('/') + 1);
      const name =
        parsed.fill({ name: base, takenAt: photo.takenAt, camera: photo.camera, folder, number }) + extension;
      const why = nameProblem(name);
      if (why) throw new StellinError('nameRefused', { name, why });
      return { photo, name };
    });
  }
}
