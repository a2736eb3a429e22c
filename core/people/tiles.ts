// Where in a picture faces are looked for: the detector sees 256 × 256 pixels at a time, so small faces need a closer look.
// A pyramid of square tiles: the whole picture, then closer ones that overlap.

export interface Tile {
  /** Pixels of the picture; a tile may reach over its edge. */
  left: number;
  top: number;
  side: number;
}

/** A face is found when it is at least this part of the side of a tile (measured, see docs/people.md). */
const SEEN_PART = 0.05;
/** Tiles overlap by this part of their side: what is not larger is seen whole in one of them. */
const OVERLAP = 1 / 3;

/** The tiles in which every face is found whose height is at least `smallest` of the picture's height: the whole picture first, then closer. */
export function tilesOf(width: number, height: number, smallest: number): Tile[] {
  const longest = Math.max(width, height);
  const tiles: Tile[] = [{ left: (width - longest) / 2, top: (height - longest) / 2, side: longest }];
  const closest = (smallest * height) / SEEN_PART;
  for (let seen = longest; seen > closest;) {
    // The next level sees whole what is just too small for this one.
    const side = Math.max(closest, (seen * SEEN_PART) / OVERLAP);
    for (const top of starts(height, side)) for (const left of starts(width, side)) tiles.push({ left, top, side });
    seen = side;
  }
  return tiles;
}

/** Where tiles begin along one side: evenly, overlapping far enough. */
function starts(length: number, side: number): number[] {
  if (side >= length) return [(length - side) / 2];
  const count = Math.ceil((length - side) / (side * (1 - OVERLAP))) + 1;
  return Array.from({ length: count }, (_, i) => (i * (length - side)) / (count - 1));
}
