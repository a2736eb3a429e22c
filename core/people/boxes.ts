// Boxes: parts of a picture as it is seen, upright. Left, top, width and height are parts of its width and height, 0 to 1.

export interface Box {
  left: number;
  top: number;
  width: number;
  height: number;
}

/** How far two boxes cover the same: the area of both divided by the area of either, 0 to 1 (intersection over union). */
export function overlap(a: Box, b: Box): number {
  const width = Math.min(a.left + a.width, b.left + b.width) - Math.max(a.left, b.left);
  const height = Math.min(a.top + a.height, b.top + b.height) - Math.max(a.top, b.top);
  if (width <= 0 || height <= 0) return 0;
  const both = width * height;
  return both / (a.width * a.height + b.width * b.height - both);
}

/** Boxes of two programs around one face differ: hairline or forehead, ears or cheeks. */
const SAME_FACE = 0.25;

/** Pairs boxes of one list with those of another, the best fitting first; each is in one pair at most. Gives their places in the lists. */
export function matchBoxes(ours: readonly Box[], theirs: readonly Box[]): [our: number, their: number][] {
  const pairs = ours.flatMap((a, our) =>
    theirs.map((b, their) => ({ our, their, fit: overlap(a, b) })).filter(({ fit }) => fit >= SAME_FACE),
  );
  pairs.sort((a, b) => b.fit - a.fit || a.our - b.our || a.their - b.their);
  const taken = { our: new Set<number>(), their: new Set<number>() };
  return pairs.flatMap(({ our, their }): [number, number][] => {
    if (taken.our.has(our) || taken.their.has(their)) return [];
    taken.our.add(our);
    taken.their.add(their);
    return [[our, their]];
  });
}

/** Of boxes around the same face the one that is surest; a small one inside a larger one is taken for the same face. */
export function withoutDoubles<Found extends Box & { score: number }>(found: readonly Found[]): Found[] {
  const kept: Found[] = [];
  for (const box of [...found].sort((a, b) => b.score - a.score))
    if (!kept.some((other) => overlap(box, other) > DOUBLE || isInside(box, other))) kept.push(box);
  return kept;
}

const DOUBLE = 0.3;
const INSIDE = 0.65;

function isInside(a: Box, b: Box): boolean {
  const width = Math.min(a.left + a.width, b.left + b.width) - Math.max(a.left, b.left);
  const height = Math.min(a.top + a.height, b.top + b.height) - Math.max(a.top, b.top);
  return width > 0 && height > 0 && (width * height) / Math.min(a.width * a.height, b.width * b.height) > INSIDE;
}

/** A box that lies within the picture, whatever was drawn. */
export function withinPicture({ left, top, width, height }: Box): Box {
  const clamp = (value: number) => Math.min(1, Math.max(0, value));
  const [l, t, r, b] = [clamp(left), clamp(top), clamp(left + width), clamp(top + height)];
  return { left: l, top: t, width: r - l, height: b - t };
}
