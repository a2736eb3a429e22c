// Photos whose file has gone from where it was: found again under another name, in another folder or on another drive,
// they keep their record with all that was said of them.

import type { Database } from '../database/database';
import type { FileReader } from '../catalogue/reader';
import type { FileToRead } from './comparing';
import * as store from './movesStore';

/** FAT keeps times of files to two seconds. */
const COARSE_MS = 2001;

/**
 * Recognises missing photos among new files of a folder: by name, size and time at once, else by the hash of the picture.
 * Their records move there. With `thorough` every file of a missing photo's size is looked into, not only those of its
 * time or name. Returns the names that were recognised.
 */
export async function recogniseMoved(
  database: Database,
  reader: FileReader,
  place: { driveId: string; folderId: number },
  files: readonly FileToRead[],
  thorough: boolean,
): Promise<Set<string>> {
  const fresh = files.filter(({ isNew }) => isNew);
  const found = new Set<string>();
  if (fresh.length === 0) return found;
  const candidates = await store.candidatesFor(database, fresh, thorough ? null : COARSE_MS);
  if (candidates.length === 0) return found;
  const byName = new Map(fresh.map((file) => [file.name, file]));
  const moves: store.Move[] = [];
  const taken = new Set<number>();
  const take = ({ name, id }: store.Candidate) => {
    found.add(name);
    taken.add(id);
    moves.push({ id, name });
  };
  const isOpen = ({ name, id }: store.Candidate) => !found.has(name) && !taken.has(id);
  for (const candidate of candidates)
    if (candidate.sameName && candidate.sameTrace && isOpen(candidate)) take(candidate);

  const unsure = candidates.filter(isOpen);
  const names = [...new Set(unsure.map(({ name }) => name))];
  const hashes = await reader.hashes(names.map((name) => byName.get(name)?.path ?? ''));
  const hashOf = new Map(names.map((name, i) => [name, hashes[i]]));
  for (const candidate of unsure) {
    const result = hashOf.get(candidate.name);
    if (!result?.ok || !isOpen(candidate)) continue;
    const isSame = candidate.hash
      ? candidate.hash.toString('hex') === result.picture
      : candidate.sameName && candidate.sameSize;
    if (isSame) take(candidate);
  }
  await store.moveHere(database, place, moves);
  return found;
}
