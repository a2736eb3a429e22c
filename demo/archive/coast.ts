// The coast on which the museum's pictures were taken: an island that is made up and lies in the open sea of the real map.

import { randomOf } from './random';

interface Point {
  latitude: number;
  longitude: number;
}

/** Where the places lie whose names captions say. */
export const COAST = {
  Saltmarsh: { latitude: 55.962, longitude: 3.315 },
  'Kolmer Point': { latitude: 56.058, longitude: 3.468 },
  'Great Marsh': { latitude: 55.921, longitude: 3.402 },
  'Hask Hill': { latitude: 55.986, longitude: 3.556 },
  Kessel: { latitude: 55.846, longitude: 3.648 },
} as const satisfies Record<string, Point>;

/** The shore all around, from the north on with the sun. Longitude and latitude, in degrees. */
const SHORE: readonly (readonly [longitude: number, latitude: number])[] = [
  [3.41, 56.094],
  [3.448, 56.107],
  [3.492, 56.099],
  [3.486, 56.072],
  [3.529, 56.061],
  [3.588, 56.083],
  [3.642, 56.071],
  [3.701, 56.032],
  [3.738, 55.982],
  [3.792, 55.951],
  [3.781, 55.902],
  [3.729, 55.871],
  [3.701, 55.829],
  [3.652, 55.812],
  [3.601, 55.828],
  [3.571, 55.801],
  [3.522, 55.789],
  [3.486, 55.812],
  [3.451, 55.859],
  [3.412, 55.868],
  [3.388, 55.901],
  [3.342, 55.909],
  [3.298, 55.931],
  [3.262, 55.962],
  [3.281, 55.994],
  [3.268, 56.021],
  [3.312, 56.041],
  [3.351, 56.032],
  [3.379, 56.061],
];

/** So many corners stand between two of the shore. */
const BAYS = 9;
/** How far they stand aside, as a part of the way between the two. */
const RAGGED = 0.09;

/** The shore with its bays and points. */
export const NORLAND_SHORE: readonly Point[] = SHORE.flatMap(([x1, y1], i) => {
  const random = randomOf(`shore ${i}`);
  const [x2, y2] = SHORE[(i + 1) % SHORE.length] ?? [x1, y1];
  return Array.from({ length: BAYS }, (_, bay) => {
    const part = bay / BAYS;
    // Widest in the middle, so that the corners themselves stay where they are.
    const aside = bay === 0 ? 0 : random.between(-RAGGED, RAGGED) * Math.sin(Math.PI * part) ** 0.5;
    return {
      longitude: round(x1 + (x2 - x1) * part - (y2 - y1) * aside),
      latitude: round(y1 + (y2 - y1) * part + (x2 - x1) * aside * 0.6),
    };
  });
});

function round(degrees: number): number {
  return Math.round(degrees * 1e5) / 1e5;
}
