// A point on the way between two others.

import type { Point } from './areas';

/** The point so far along the great circle from one to another: 0 is the first, 1 the other. Of antipodes any way is right. */
export function pointBetween(from: Point, to: Point, part: number): Point {
  if (part <= 0) return from;
  if (part >= 1) return to;
  const [a, b] = [inSpace(from), inSpace(to)];
  const angle = Math.acos(
    Math.max(
      -1,
      Math.min(
        1,
        a.reduce((sum, each, i) => sum + each * (b[i] ?? 0), 0),
      ),
    ),
  );
  // Points that lie on one another, or so near that the formula divides by next to nothing.
  if (angle < 1e-9) return from;
  const [wa, wb] = [Math.sin((1 - part) * angle) / Math.sin(angle), Math.sin(part * angle) / Math.sin(angle)];
  const [x = 0, y = 0, z = 0] = a.map((each, i) => each * wa + (b[i] ?? 0) * wb);
  return { latitude: inDegrees(Math.atan2(z, Math.hypot(x, y))), longitude: inDegrees(Math.atan2(y, x)) };
}

function inSpace({ latitude, longitude }: Point): [number, number, number] {
  const [phi, lambda] = [(latitude * Math.PI) / 180, (longitude * Math.PI) / 180];
  return [Math.cos(phi) * Math.cos(lambda), Math.cos(phi) * Math.sin(lambda), Math.sin(phi)];
}

function inDegrees(radians: number): number {
  return (radians * 180) / Math.PI;
}
