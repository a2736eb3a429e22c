// The pins of a site plan: points, areas and views on a picture, in parts of its width and height from the upper left corner.

/** A spot of a plan: parts of its width and height, 0 to 1. */
export interface Spot {
  x: number;
  y: number;
}

/** A point; an area with its outline; or a place from which one looks somewhere. */
export const PIN_KINDS = ['point', 'area', 'view'] as const;
export type PinKind = (typeof PIN_KINDS)[number];
export const PIN_KIND_LABELS: Readonly<Record<PinKind, string>> = { point: 'Point', area: 'Area', view: 'View' };

/** How a pin looks besides its colour, so that colour alone tells nothing apart. */
export const PIN_SHAPES = ['disc', 'square', 'diamond', 'hexagon'] as const;
export type PinLook = (typeof PIN_SHAPES)[number];
export const PIN_SHAPE_LABELS: Readonly<Record<PinLook, string>> = {
  disc: 'Disc',
  square: 'Square',
  diamond: 'Diamond',
  hexagon: 'Hexagon',
};

/** The corners of a look, from -1 to 1 around its middle; a disc has none. */
export const PIN_SHAPE_CORNERS: Readonly<Record<PinLook, readonly (readonly [x: number, y: number])[]>> = {
  disc: [],
  square: [
    [-0.9, -0.9],
    [0.9, -0.9],
    [0.9, 0.9],
    [-0.9, 0.9],
  ],
  diamond: [
    [0, -1.2],
    [1.2, 0],
    [0, 1.2],
    [-1.2, 0],
  ],
  hexagon: [
    [-0.55, -1],
    [0.55, -1],
    [1.1, 0],
    [0.55, 1],
    [-0.55, 1],
    [-1.1, 0],
  ],
};

/** What is said of a pin. */
export interface PinShape extends Spot {
  kind: PinKind;
  /** Printed beside it, and told apart by it. */
  number: number;
  /** Of an area its outline, three spots or more; else null. Its x and y say where its number stands. */
  corners: readonly Spot[] | null;
  /** Of a view where it looks: degrees clockwise from the upper edge of the plan; else null. */
  direction: number | null;
  label: string;
  note: string;
  /** Which layer it lies on; empty: on none. */
  layer: string;
}

/** What a pin is called: by its label, or by its number where it has none. */
export function pinName({ label, number }: Pick<PinShape, 'label' | 'number'>): string {
  return label === '' ? String(number) : label;
}

/** How a query names a pin of a plan: `Hall/North wall`. */
export function pinPath(plan: string, pin: Pick<PinShape, 'label' | 'number'>): string {
  return `${plan}/${pinName(pin)}`;
}

/** Why a pin can't be kept so, as the end of a sentence; undefined when it can. */
export function pinProblem({ kind, corners, direction }: PinShape): string | undefined {
  if (kind === 'area' && (corners === null || corners.length < 3))
    return 'an area has an outline of three spots or more';
  if (kind !== 'area' && corners !== null) return 'only an area has an outline';
  if (kind === 'view' && direction === null) return 'a view looks somewhere';
  if (kind !== 'view' && direction !== null) return 'only a view looks somewhere';
  return undefined;
}

/** Whether a spot lies within an outline: it is crossed an odd number of times on the way out. */
export function isWithin(corners: readonly Spot[], { x, y }: Spot): boolean {
  let inside = false;
  for (const [i, corner] of corners.entries()) {
    const before = corners.at(i - 1) ?? corner;
    const isCrossed = corner.y > y !== before.y > y;
    if (isCrossed && x < corner.x + ((y - corner.y) * (before.x - corner.x)) / (before.y - corner.y)) inside = !inside;
  }
  return inside;
}

/** How large an outline is, as a part of the plan (the shoelace formula). */
export function sizeOf(corners: readonly Spot[]): number {
  const twice = corners.reduce((sum, corner, i) => {
    const before = corners.at(i - 1) ?? corner;
    return sum + (before.x * corner.y - corner.x * before.y);
  }, 0);
  return Math.abs(twice) / 2;
}

/** A spot where the number of an area can stand: its middle, or the middle of its corners where that lies outside. */
export function middleOf(corners: readonly Spot[]): Spot {
  let [area, x, y] = [0, 0, 0];
  for (const [i, corner] of corners.entries()) {
    const before = corners.at(i - 1) ?? corner;
    const cross = before.x * corner.y - corner.x * before.y;
    area += cross;
    x += (before.x + corner.x) * cross;
    y += (before.y + corner.y) * cross;
  }
  const middle = { x: x / (3 * area), y: y / (3 * area) };
  if (area !== 0 && isWithin(corners, middle)) return middle;
  const mean = (of: (corner: Spot) => number) => corners.reduce((sum, corner) => sum + of(corner), 0) / corners.length;
  return { x: mean((corner) => corner.x), y: mean((corner) => corner.y) };
}

/** How a plan is shown: pixels of its picture for its width and height. */
export interface PlanSize {
  width: number;
  height: number;
}

/**
 * The pin that is meant at a spot: the nearest point or view within `reach` pixels of the picture, else the smallest area that
 * holds it; undefined where there is none.
 */
export function pinAt<Pin extends PinShape>(
  pins: readonly Pin[],
  spot: Spot,
  { width, height }: PlanSize,
  reach: number,
): Pin | undefined {
  const away = (pin: Spot) => Math.hypot((pin.x - spot.x) * width, (pin.y - spot.y) * height);
  const [near] = pins.filter((pin) => pin.kind !== 'area' && away(pin) <= reach).sort((a, b) => away(a) - away(b));
  if (near) return near;
  const [within] = pins
    .filter(({ corners }) => corners !== null && isWithin(corners, spot))
    .sort((a, b) => sizeOf(a.corners ?? []) - sizeOf(b.corners ?? []));
  return within;
}

/** The next free number behind all there are. */
export function nextNumber(pins: readonly Pick<PinShape, 'number'>[]): number {
  return Math.max(0, ...pins.map(({ number }) => number)) + 1;
}

/** In how many rows a plan is read, from the top. */
const READING_ROWS = 12;

/** Orders in which pins are numbered anew. */
export const NUMBERINGS = {
  reading: 'as one reads: row by row',
  label: 'by their labels',
  layer: 'layer by layer, as one reads',
} as const;
export type Numbering = keyof typeof NUMBERINGS;
export const NUMBERING_IDS = Object.keys(NUMBERINGS) as [Numbering, ...Numbering[]];

/** Pins in an order, to be numbered from 1. */
export function inOrder<Pin extends PinShape>(pins: readonly Pin[], numbering: Numbering): Pin[] {
  const row = ({ y }: Spot) => Math.floor(y * READING_ROWS);
  const reading = (a: Pin, b: Pin) => row(a) - row(b) || a.x - b.x || a.number - b.number;
  const ORDERS: Record<Numbering, (a: Pin, b: Pin) => number> = {
    reading,
    label: (a, b) => compare(pinName(a), pinName(b)) || a.number - b.number,
    layer: (a, b) => compare(a.layer, b.layer) || reading(a, b),
  };
  return [...pins].sort(ORDERS[numbering]);
}

function compare(a: string, b: string): number {
  return a.localeCompare(b, 'en', { numeric: true, sensitivity: 'base' });
}

/** Whether a spot lies on the plan. */
export function isOnPlan({ x, y }: Spot): boolean {
  return x >= 0 && x <= 1 && y >= 0 && y <= 1;
}
