// New names from a pattern, for photos in the order of capture. Files that share a base name keep sharing it.

import { nameParts, nameProblem } from '@stellin/core/filing/names';
import { parseRenamePattern } from '@stellin/core/filing/renamePlaceholders';
import { replacer, type Replacement } from '@stellin/core/describing/replacing';
import type { Renaming } from '@stellin/contract/filing';
import type { Selection } from '@stellin/contract/photos';
import type { Database, Transaction } from '../database/database';
import { StellinError } from '../errors';
import * as store from './store';

const PHOTOS_PER_PAGE = 1000;

/** The numbers of photos of one key follow one another. */
const RESTART_KEYS: Record<Renaming['restart'], (photo: store.NamedPhoto) => string> = {
  never: () => '',
  folder: ({ folderId }) => String(folderId),
  day: ({ takenAt }) => takenAt?.slice(0, 10) ?? '',
};

/** Replaces in texts, with a limit to its time. */
export type ReplaceTexts = (request: { texts: string[]; replacing: Replacement }) => Promise<string[]>;

/** The photos of a selection with their new names, page by page. Throws a StellinError when the pattern or a name can't be used. */
export async function* newNames(
  database: Database,
  { selection, pattern, start, step, restart, replacing }: Renaming & { selection: Selection },
  replaceTexts: ReplaceTexts,
  tx: Transaction,
): AsyncGenerator<{ photo: store.NamedPhoto; name: string }[]> {
  const parsed = parseRenamePattern(pattern);
  if (!parsed.ok) throw new StellinError('nameRefused', { name: pattern, why: parsed.problem });
  const checked = replacing && replacer(replacing);
  if (checked && !checked.ok) throw new StellinError('describingRefused', { why: checked.problem });
  await store.openRenaming(database, selection, tx);
  /** The number given last, by key. */
  const numbers = new Map<string, number>();
  let number = start;
  let group = '';
  for (;;) {
    const photos = await store.nextToRename(database, PHOTOS_PER_PAGE, tx);
    if (photos.length === 0) return;
    const bases = photos.map(({ name }) => nameParts(name).base);
    const changed = replacing ? await replaceTexts({ texts: bases, replacing }) : bases;
    yield photos.map((photo, i) => {
      const key = store.sharerKey(photo.folderId, photo.base);
      if (key !== group) {
        const last = numbers.get(RESTART_KEYS[restart](photo));
        number = last === undefined ? start : last + step;
        numbers.set(RESTART_KEYS[restart](photo), number);
      }
      group = key;
      const { base: before, extension } = nameParts(photo.name);
      const base = changed[i] ?? before;
      const folder = photo.folder.slice(photo.folder.lastIndexOf('/') + 1);
      const name = parsed.fill({ ...photo, name: base, folder, number }) + extension;
      const why = nameProblem(name);
      if (why) throw new StellinError('nameRefused', { name, why });
      return { photo, name };
    });
  }
}
