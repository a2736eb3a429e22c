// How a stored picture is turned and mirrored to be seen (EXIF 3.0, 4.6.5.1, tag 0112): 1 as it is stored, 3 over, 6 to the
// right, 8 to the left; 2, 4, 5 and 7 the same mirrored.

/** Gives where a point of the stored picture is seen; both in parts of width and height. */
type Turn = (x: number, y: number) => readonly [number, number];

const SEEN: readonly Turn[] = [
  (x, y) => [x, y],
  (x, y) => [1 - x, y],
  (x, y) => [1 - x, 1 - y],
  (x, y) => [x, 1 - y],
  (x, y) => [y, x],
  (x, y) => [1 - y, x],
  (x, y) => [1 - y, 1 - x],
  (x, y) => [y, 1 - x],
];
const asItIs: Turn = (x, y) => [x, y];

/** Where a point of the stored picture is seen, by its orientation. */
export const seenAt = (orientation: number): Turn => SEEN[orientation - 1] ?? asItIs;

/** The orientation that turns back; all but 6 and 8 are their own reverse. */
const REVERSE: Readonly<Record<number, number>> = { 6: 8, 8: 6 };
export const reverseOf = (orientation: number): number => REVERSE[orientation] ?? orientation;

/** Whether width and height of the stored picture change places when it is seen. */
export const swapsSides = (orientation: number): boolean => orientation > 4 && orientation <= SEEN.length;

/** An orientation as a file or a field may say it; undefined for what is none. */
export function orientationOf(value: unknown): number | undefined {
  return typeof value === 'number' && Number.isInteger(value) && value >= 1 && value <= 8 ? value : undefined;
}

/** Two turns one after the other, as one orientation. */
export function followedBy(first: number, second: number): number {
  // Two points of no symmetry tell all eight apart.
  const both: Turn = (x, y) => seenAt(second)(...seenAt(first)(x, y));
  const found = SEEN.findIndex((turn) => isNear(turn(0.25, 0), both(0.25, 0)));
  return found + 1;
}

function isNear([x, y]: readonly [number, number], [u, v]: readonly [number, number]): boolean {
  return Math.abs(x - u) < 1e-9 && Math.abs(y - v) < 1e-9;
}

/** What turns a picture that is seen in one orientation so that it is seen in another. */
export function between(shown: number, wanted: number): number {
  return followedBy(reverseOf(shown), wanted);
}

/** How a picture can be turned as it is seen; `stored` shows it as it is stored. */
export const TURNS = {
  right: { label: 'Turn to the right', by: 6 },
  left: { label: 'Turn to the left', by: 8 },
  over: { label: 'Turn over', by: 3 },
  stored: { label: 'Show as it is stored', by: null },
} as const satisfies Record<string, { label: string; by: number | null }>;
export type TurnWay = keyof typeof TURNS;

/** The orientation of a picture after it was turned as it is seen. */
export function turnedTo(orientation: number, way: TurnWay): number {
  const { by } = TURNS[way];
  return by === null ? 1 : followedBy(orientation, by);
}
