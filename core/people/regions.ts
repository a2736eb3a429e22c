// Regions that files bring along: where they are in the picture as it is seen.

import type { FieldValue } from '../metadata/fields';

/** A named part of a picture; places are parts of its width and height as it is seen. */
export interface RegionBox {
  name: string;
  left: number;
  top: number;
  width: number;
  height: number;
  /** The region was drawn on a picture of another shape. */
  doubtful: boolean;
}

interface SeenPicture {
  /** EXIF orientation, 1 to 8. */
  orientation: number;
  /** As seen, after orientation; null when it is not known. */
  width: number | null;
  height: number | null;
}

/** Of two shapes that are the same but for rounding. */
const SAME_SHAPE = 0.02;

/** Where a point of the stored picture is seen, by EXIF orientation (EXIF 2.32, 4.6.4, tag 0112). */
const SEEN: readonly ((x: number, y: number) => readonly [number, number])[] = [
  (x, y) => [x, y],
  (x, y) => [1 - x, y],
  (x, y) => [1 - x, 1 - y],
  (x, y) => [x, 1 - y],
  (x, y) => [y, x],
  (x, y) => [1 - y, x],
  (x, y) => [1 - y, 1 - x],
  (x, y) => [y, 1 - x],
];

/**
 * The boxes of MWG regions (MWG guidelines 2.0, section 5.9: normalised to the stored pixels, x and y are the centre). What
 * is no rectangle within the picture is left out.
 */
export function regionBoxes(regions: FieldValue | undefined, { orientation, width, height }: SeenPicture): RegionBox[] {
  const list = memberOf(regions, 'RegionList');
  if (!Array.isArray(list)) return [];
  const isTurned = orientation > 4;
  const stored = isTurned ? { width: height, height: width } : { width, height };
  const doubtful = !hasShape(memberOf(regions, 'AppliedToDimensions'), stored);
  const seen = SEEN[orientation - 1] ?? ((x, y) => [x, y] as const);
  return list.flatMap((region): RegionBox[] => {
    const area = memberOf(region, 'Area');
    const [x, y, w, h] = (['x', 'y', 'w', 'h'] as const).map((name) => memberOf(area, name));
    if (!isPart(x) || !isPart(y) || !isPart(w) || !isPart(h) || w === 0 || h === 0) return [];
    const [centreX, centreY] = seen(x, y);
    const [boxWidth, boxHeight] = isTurned ? [h, w] : [w, h];
    const name = memberOf(region, 'Name');
    return [
      {
        name: typeof name === 'string' ? name : '',
        left: centreX - boxWidth / 2,
        top: centreY - boxHeight / 2,
        width: boxWidth,
        height: boxHeight,
        doubtful,
      },
    ];
  });
}

function hasShape(
  dimensions: FieldValue | undefined,
  stored: { width: number | null; height: number | null },
): boolean {
  const [w, h] = [memberOf(dimensions, 'w'), memberOf(dimensions, 'h')];
  if (typeof w !== 'number' || typeof h !== 'number' || !w || !h || !stored.width || !stored.height) return true;
  return Math.abs((w * stored.height) / (h * stored.width) - 1) < SAME_SHAPE;
}

function memberOf(value: FieldValue | undefined, name: string): FieldValue | undefined {
  if (typeof value !== 'object' || value === null || Array.isArray(value) || !Object.hasOwn(value, name))
    return undefined;
  return value[name];
}

function isPart(value: FieldValue | undefined): value is number {
  return typeof value === 'number' && value >= 0 && value <= 1;
}
