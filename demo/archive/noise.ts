// Fractal noise as a tile of 256 × 256 values that repeats at its edges: what clouds, ground and far shores are shaped by.

import { randomOf, type Random } from './random';

export const NOISE_SIZE = 256;
const NOISE = fractalNoise(NOISE_SIZE, randomOf('noise'));

/** The value at a place, 0 to 1, mixed from its four neighbours. */
export function noise(x: number, y: number): number {
  const [x0, y0] = [Math.floor(x), Math.floor(y)];
  const [fx, fy] = [x - x0, y - y0];
  const upper = valueAt(x0, y0) + (valueAt(x0 + 1, y0) - valueAt(x0, y0)) * fx;
  const lower = valueAt(x0, y0 + 1) + (valueAt(x0 + 1, y0 + 1) - valueAt(x0, y0 + 1)) * fx;
  return upper + (lower - upper) * fy;
}

function valueAt(x: number, y: number): number {
  return NOISE[(y & (NOISE_SIZE - 1)) * NOISE_SIZE + (x & (NOISE_SIZE - 1))] ?? 0;
}

/** Eases from 0 at `low` to 1 at `high`. */
export function smooth(low: number, high: number, value: number): number {
  return ease(Math.max(0, Math.min(1, (value - low) / (high - low))));
}

/** Octaves of smoothed chance that repeat at the edges, spread over 0–1. */
function fractalNoise(size: number, random: Random): Float32Array {
  const sum = new Float32Array(size * size);
  let weight = 1;
  for (let cells = 8; cells <= 128; cells *= 2, weight *= 0.55) {
    const lattice = Float32Array.from({ length: cells * cells }, () => random.next());
    const cell = size / cells;
    for (let y = 0; y < size; y++) {
      const [cy, ty] = [Math.floor(y / cell), ease((y % cell) / cell)];
      for (let x = 0; x < size; x++) {
        const cx = Math.floor(x / cell);
        const tx = ease((x % cell) / cell);
        const right = (cx + 1) % cells;
        const above = cy * cells;
        const below = ((cy + 1) % cells) * cells;
        const upper = lattice[above + cx]! + (lattice[above + right]! - lattice[above + cx]!) * tx;
        const lower = lattice[below + cx]! + (lattice[below + right]! - lattice[below + cx]!) * tx;
        const index = y * size + x;
        sum[index] = (sum[index] ?? 0) + weight * (upper + (lower - upper) * ty);
      }
    }
  }
  let [low, high] = [Infinity, -Infinity];
  for (const value of sum) {
    low = Math.min(low, value);
    high = Math.max(high, value);
  }
  return sum.map((value) => (value - low) / (high - low));
}

function ease(t: number): number {
  return t * t * (3 - 2 * t);
}
