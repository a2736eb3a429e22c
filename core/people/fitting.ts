// Fitting: what can be learnt from pictures of known persons to tell others apart. Run by the benchmark; the result ships
// along as fitted.ts.

import { DESCRIPTION_LENGTH, rooted, type Fit } from './likeness';
import type { Calibration } from './fit';
import type { Evidence } from './suggesting';

/** So many directions in which faces of one person differ are shrunk. */
const DIRECTIONS = 16;
/** How far the covariance is drawn towards that of a ball: there are far fewer pictures than numbers. */
const SHRINKAGE = 0.5;
const ROUNDS = 60;

/** Learns from descriptions of faces, each with whose it is. Needs at least two pictures of somebody. */
export function fitLikeness(faces: readonly { person: string; description: readonly number[] }[]): Fit {
  const rows = faces.map(({ person, description }) => ({ person, values: rooted(description) }));
  const mean = meanOf(rows.map(({ values }) => values));
  const byPerson = grouped(rows);
  const within = [...byPerson.values()].flatMap((own) => {
    const middle = meanOf(own.map(({ values }) => values));
    return own.map(({ values }) => values.map((value, i) => value - (middle[i] ?? 0)));
  });
  const variance = within.reduce((sum, row) => sum + square(row), 0) / within.length / DESCRIPTION_LENGTH;
  const shrunk = principal(within, DIRECTIONS).map(({ direction, variance: along }) => ({
    direction,
    left: Math.sqrt((SHRINKAGE * variance) / ((1 - SHRINKAGE) * along + SHRINKAGE * variance)),
  }));
  return { mean, shrunk };
}

function grouped<Row extends { person: string }>(rows: readonly Row[]): Map<string, Row[]> {
  const groups = new Map<string, Row[]>();
  for (const row of rows) groups.set(row.person, [...(groups.get(row.person) ?? []), row]);
  return groups;
}

function meanOf(rows: readonly Float32Array[]): Float32Array {
  const mean = new Float32Array(DESCRIPTION_LENGTH);
  for (const row of rows) for (let i = 0; i < mean.length; i++) mean[i] = (mean[i] ?? 0) + (row[i] ?? 0) / rows.length;
  return mean;
}

function square(row: Float32Array): number {
  return row.reduce((sum, value) => sum + value * value, 0);
}

/** The directions of largest variance, one after the other, by power iteration with what was found taken off. */
function principal(rows: readonly Float32Array[], count: number): { direction: Float32Array; variance: number }[] {
  const found: { direction: Float32Array; variance: number }[] = [];
  const left = rows.map((row) => row.slice());
  for (let k = 0; k < count; k++) {
    let direction: Float32Array = Float32Array.from(
      left[k % left.length] ?? [],
      (value, i) => value + 1e-3 * Math.cos(i * (k + 1)),
    );
    for (let round = 0; round < ROUNDS; round++) direction = unit(timesCovariance(left, direction));
    let variance = 0;
    for (const row of left) {
      const along = inner(row, direction);
      variance += along * along;
      for (let i = 0; i < row.length; i++) row[i] = (row[i] ?? 0) - along * (direction[i] ?? 0);
    }
    found.push({ direction, variance: variance / rows.length });
  }
  return found;
}

function timesCovariance(rows: readonly Float32Array[], direction: Float32Array): Float32Array {
  const next = new Float32Array(direction.length);
  for (const row of rows) {
    const along = inner(row, direction);
    for (let i = 0; i < next.length; i++) next[i] = (next[i] ?? 0) + along * (row[i] ?? 0);
  }
  return next;
}

function inner(a: Float32Array, b: Float32Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += (a[i] ?? 0) * (b[i] ?? 0);
  return sum;
}

function unit(values: Float32Array): Float32Array {
  const length = Math.sqrt(square(values)) || 1;
  return values.map((value) => value / length);
}

/** Evidence of a suggestion, and whether it was right. */
export interface Judged extends Evidence {
  right: boolean;
}

const STEPS = 4000;
const RATE = 0.05;

/** Fits the calibration to suggestions that were judged: logistic regression by gradient descent on scaled evidence. */
export function fitCalibration(judged: readonly Judged[]): Calibration {
  const rows = judged.map(({ alike, ahead, faces, right }) => ({
    values: [1, alike * 4, ahead * 4, Math.log(faces)] as const,
    right: Number(right),
  }));
  const weights = [0, 1, 0, 0];
  for (let step = 0; step < STEPS; step++) {
    const gradient = [0, 0, 0, 0];
    for (const { values, right } of rows) {
      const score = values.reduce((sum, value, i) => sum + value * (weights[i] ?? 0), 0);
      const error = 1 / (1 + Math.exp(-score)) - right;
      values.forEach((value, i) => (gradient[i] = (gradient[i] ?? 0) + (error * value) / rows.length));
    }
    gradient.forEach((value, i) => (weights[i] = (weights[i] ?? 0) - RATE * 20 * value));
  }
  const [start = 0, alike = 0, ahead = 0, faces = 0] = weights;
  return { start, alike: alike * 4, ahead: ahead * 4, faces };
}
