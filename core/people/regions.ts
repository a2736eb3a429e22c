// Regions of files (MWG guidelines 2.0, section 5.9): where they are in the picture as it is seen, and how faces become them.

import type { FieldValue } from '../metadata/fields';
import { reverseOf, seenAt, swapsSides } from '../metadata/orientation';
import type { Box } from './boxes';

/** A named part of a picture as it is seen. */
export interface RegionBox extends Box {
  name: string;
  /** The region was drawn on a picture of another shape. */
  doubtful: boolean;
}

export interface SeenPicture {
  /** EXIF orientation, 1 to 8. */
  orientation: number;
  /** As seen, after orientation; null when it is not known. */
  width: number | null;
  height: number | null;
}

/** Of two shapes that are the same but for rounding. */
const SAME_SHAPE = 0.02;

/**
 * The boxes of MWG regions (normalised to the stored pixels, x and y are the centre). What is no rectangle within the
 * picture is left out.
 */
export function regionBoxes(regions: FieldValue | undefined, picture: SeenPicture): RegionBox[] {
  return regionsOf(regions).flatMap((region) => boxOf(region, regions, picture) ?? []);
}

/** The entries of the list. */
export function regionsOf(regions: FieldValue | undefined): Region[] {
  const list = memberOf(regions, 'RegionList');
  return Array.isArray(list) ? list.filter(isRegion) : [];
}

/** An entry of the list, by the names of its members. */
export type Region = Record<string, FieldValue>;

function isRegion(value: FieldValue): value is Region {
  return typeof value === 'object' && !Array.isArray(value);
}

/** Where an entry of the list is seen; undefined for what is no rectangle. */
export function boxOf(region: Region, regions: FieldValue | undefined, picture: SeenPicture): RegionBox | undefined {
  const area = memberOf(region, 'Area');
  const [x, y, w, h] = (['x', 'y', 'w', 'h'] as const).map((name) => memberOf(area, name));
  if (!isPart(x) || !isPart(y) || !isPart(w) || !isPart(h) || w === 0 || h === 0) return undefined;
  const { orientation } = picture;
  const [centreX, centreY] = seenAt(orientation)(x, y);
  const [width, height] = swapsSides(orientation) ? [h, w] : [w, h];
  const name = memberOf(region, 'Name');
  return {
    name: typeof name === 'string' ? name : '',
    left: centreX - width / 2,
    top: centreY - height / 2,
    width,
    height,
    doubtful: !hasShape(memberOf(regions, 'AppliedToDimensions'), storedSize(picture)),
  };
}

/** A face as an entry of the list, in parts of the stored picture. */
export function regionOf(
  name: string,
  { left, top, width, height }: Box,
  { orientation }: SeenPicture,
): Region & { Area: FieldValue } {
  const [x, y] = seenAt(reverseOf(orientation))(left + width / 2, top + height / 2);
  const [w, h] = swapsSides(orientation) ? [height, width] : [width, height];
  return {
    Name: name,
    Type: 'Face',
    Area: { x: rounded(x), y: rounded(y), w: rounded(w), h: rounded(h), unit: 'normalized' },
  };
}

/** A list of regions with the size of the stored picture; undefined for none. */
export function regionsField(list: readonly Region[], picture: SeenPicture): FieldValue | undefined {
  if (list.length === 0) return undefined;
  const { width, height } = storedSize(picture);
  const field: Region = width && height ? { AppliedToDimensions: { w: width, h: height, unit: 'pixel' } } : {};
  return { ...field, RegionList: [...list] };
}

/** A hundred-thousandth of a picture is less than a pixel. */
function rounded(part: number): number {
  return Math.round(part * 1e5) / 1e5;
}

function storedSize({ orientation, width, height }: SeenPicture) {
  return swapsSides(orientation) ? { width: height, height: width } : { width, height };
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
