// Which of the photos that were handed over a file belongs to that came back: the one it is called after.

/** A file that was handed over: its path below the folder. */
export interface Handed {
  path: string;
}

/**
 * Finds the file that one is called after. `kite.jpg` is the original of `kite.tif`, `kite-edited.jpg` and `Kite (2).jpg`, in the
 * same folder or, where no other file of that name was handed over, in any.
 * @returns a function that gives the file for a path; undefined where the name does not tell
 */
export function originalFinder<File extends Handed>(handed: readonly File[]): (path: string) => File | undefined {
  const byPlace = new Map<string, File>();
  const byName = new Map<string, File | 'several'>();
  for (const file of handed) {
    const { folder, base } = partsOf(file.path);
    // Of files that share a name, as raw and JPEG do, the first stands for all.
    const place = `${folder}/${base}`;
    if (byPlace.has(place)) continue;
    byPlace.set(place, file);
    byName.set(base, byName.has(base) ? 'several' : file);
  }
  return (path) => {
    const { folder, base } = partsOf(path);
    for (const name of namesWithin(base)) {
      const found = byPlace.get(`${folder}/${name}`) ?? byName.get(name);
      if (found !== undefined) return found === 'several' ? undefined : found;
    }
    return undefined;
  };
}

function partsOf(path: string): { folder: string; base: string } {
  const slash = path.lastIndexOf('/');
  const name = path.slice(slash + 1).toLowerCase();
  const dot = name.lastIndexOf('.');
  return { folder: path.slice(0, Math.max(0, slash)).toLowerCase(), base: dot > 0 ? name.slice(0, dot) : name };
}

/** What a name may be called after: itself, and each of its beginnings that ends before a mark. The longest comes first. */
function namesWithin(base: string): string[] {
  const ends = [...base.matchAll(/[^\p{L}\p{N}]+/gu)].map(({ index }) => index).filter((index) => index > 0);
  return [base, ...ends.toReversed().map((end) => base.slice(0, end))];
}
