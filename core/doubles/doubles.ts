// Doubles: which photos of pairs belong to one group, and which of a group is best kept.

/** Joins pairs that share a photo into groups; groups and their photos in the order of their numbers. */
export function groupPairs(pairs: readonly (readonly [number, number])[]): number[][] {
  const parent = new Map<number, number>();
  const rootOf = (id: number): number => {
    let root = id;
    for (let above = parent.get(root); above !== undefined && above !== root; above = parent.get(root)) root = above;
    parent.set(id, root);
    return root;
  };
  for (const [a, b] of pairs) {
    const [first, second] = [rootOf(a), rootOf(b)];
    parent.set(Math.max(first, second), Math.min(first, second));
  }
  const groups = new Map<number, number[]>();
  for (const id of [...parent.keys()].sort((a, b) => a - b)) {
    const root = rootOf(id);
    groups.set(root, [...(groups.get(root) ?? []), id]);
  }
  return [...groups.values()];
}

/** What tells which of several doubles is best kept. */
export interface Keepable {
  id: number;
  missing: boolean;
  away: boolean;
  parts: Readonly<Record<string, boolean>>;
  rating: number;
  sizeBytes: number;
  width: number | null;
}

/** The photo that is best kept: one that is there, the largest picture, the best described, the one taken in first. */
export function bestToKeep<Photo extends Keepable>(photos: readonly Photo[]): Photo | undefined {
  const ranks = (photo: Photo) => [
    photo.missing ? 0 : 1,
    photo.width ?? 0,
    Object.values(photo.parts).filter(Boolean).length,
    photo.rating === 0 ? 0 : 1,
    photo.away ? 0 : 1,
    photo.sizeBytes,
    -photo.id,
  ];
  return [...photos].sort((a, b) => {
    const [left, right] = [ranks(a), ranks(b)];
    const at = left.findIndex((rank, i) => rank !== right[i]);
    return at < 0 ? 0 : (right[at] ?? 0) - (left[at] ?? 0);
  })[0];
}
