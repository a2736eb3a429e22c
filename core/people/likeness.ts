// Likeness: what a model says of a face becomes a short vector of 8-bit numbers, and vectors of one person point the same way.
//
// 1. Square roots: the description's numbers are never negative and few of them are large (as R. Arandjelović and
//    A. Zisserman do with SIFT, "Three things everyone should know to improve object retrieval", 2012).
// 2. The mean face is taken off, and directions in which faces of one person differ most (pose, light) are shrunk, as
//    within-class covariance normalisation does (A. Hatch et al., Interspeech 2006), for the largest directions only.
// 3. A randomised Hadamard transform spreads what is left evenly, so that a quarter of the numbers says almost as much
//    (N. Ailon and B. Chazelle, 2009).

import type { PackedFit } from './fit';
import { FITTED } from './fitted';

/** How many numbers a model describes a face by. */
export const DESCRIPTION_LENGTH = 1024;
/** How many numbers a vector has. */
export const VECTOR_LENGTH = 256;
/** A part of a unit vector of one as an 8-bit number; larger ones are cut. */
const SCALE = 320;

/** What vectors are made by: another model, fit or drawing is another name, and pictures are looked at anew. */
export const VECTORS_BY = 'human 3.3, fit 1';

/** What was learnt from pictures of persons: all arrays are of DESCRIPTION_LENGTH. */
export interface Fit {
  mean: Float32Array;
  /** Unit vectors, each with how much of it is left, 0 to 1. */
  shrunk: readonly { direction: Float32Array; left: number }[];
}

/** The vector of a face of which a model gave a description of DESCRIPTION_LENGTH numbers. */
export function vectorOf(description: readonly number[], fit: Fit = fitted()): Int8Array {
  const values = rooted(description);
  for (let i = 0; i < DESCRIPTION_LENGTH; i++) values[i] = (values[i] ?? 0) - (fit.mean[i] ?? 0);
  for (const { direction, left } of fit.shrunk) {
    const along = (1 - left) * dot(values, direction);
    for (let i = 0; i < DESCRIPTION_LENGTH; i++) values[i] = (values[i] ?? 0) - along * (direction[i] ?? 0);
  }
  return quantised(mixed(values));
}

/** How alike two faces are, -1 to 1: the cosine between their vectors. */
export function likeness(a: Int8Array, b: Int8Array): number {
  return scoreOf(a, b) / (lengthOf(a) * lengthOf(b) || 1);
}

/** The dot product of two vectors. */
export function scoreOf(a: Int8Array, b: Int8Array): number {
  let sum = 0;
  for (let i = 0; i < VECTOR_LENGTH; i++) sum += (a[i] ?? 0) * (b[i] ?? 0);
  return sum;
}

export function lengthOf(vector: Int8Array): number {
  return Math.sqrt(scoreOf(vector, vector));
}

/** The square roots of a description, as a vector of length one. */
export function rooted(description: readonly number[]): Float32Array {
  const values = new Float32Array(DESCRIPTION_LENGTH);
  let sum = 0;
  for (let i = 0; i < DESCRIPTION_LENGTH; i++) {
    const value = Math.max(0, description[i] ?? 0);
    values[i] = Math.sqrt(value);
    sum += value;
  }
  const length = Math.sqrt(sum) || 1;
  for (let i = 0; i < DESCRIPTION_LENGTH; i++) values[i] = (values[i] ?? 0) / length;
  return values;
}

function dot(a: Float32Array, b: Float32Array): number {
  let sum = 0;
  for (let i = 0; i < a.length; i++) sum += (a[i] ?? 0) * (b[i] ?? 0);
  return sum;
}

/** Signs and places are drawn once and stay: vectors of another drawing could not be compared. */
const random = drawing(0x5e11);
const SIGNS = Float32Array.from({ length: DESCRIPTION_LENGTH }, () => (random() < 0.5 ? -1 : 1));
const PLACES = shuffled(DESCRIPTION_LENGTH).subarray(0, VECTOR_LENGTH);

/** The transform of Walsh and Hadamard after random signs, and of it a random quarter. */
function mixed(values: Float32Array): Float32Array {
  const out = values.map((value, i) => value * (SIGNS[i] ?? 1));
  for (let half = 1; half < DESCRIPTION_LENGTH; half *= 2)
    for (let start = 0; start < DESCRIPTION_LENGTH; start += half * 2)
      for (let i = start; i < start + half; i++) {
        const [a, b] = [out[i] ?? 0, out[i + half] ?? 0];
        out[i] = a + b;
        out[i + half] = a - b;
      }
  return Float32Array.from(PLACES, (place) => out[place] ?? 0);
}

function quantised(values: Float32Array): Int8Array {
  const length = Math.sqrt(dot(values, values)) || 1;
  return Int8Array.from(values, (value) => Math.max(-127, Math.min(127, Math.round((value / length) * SCALE))));
}

function shuffled(length: number): Uint16Array {
  const places = Uint16Array.from({ length }, (_, i) => i);
  for (let i = length - 1; i > 0; i--) {
    const j = Math.floor(random() * (i + 1));
    [places[i], places[j]] = [places[j] ?? 0, places[i] ?? 0];
  }
  return places;
}

/** A linear congruential generator (D. E. Knuth, TAOCP 2, section 3.3.4): numbers from 0 up to 1, the same each time. */
function drawing(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1_664_525) + 1_013_904_223) >>> 0;
    return state / 2 ** 32;
  };
}

let unpacked: Fit | undefined;

/** The fit that ships along (made by `./stellin bench people --fit`). */
export function fitted(): Fit {
  return (unpacked ??= unpack(FITTED));
}

function unpack({ mean, shrunk }: PackedFit): Fit {
  const row = ({ largest, values }: { largest: number; values: string }) =>
    Float32Array.from(atob(values), (byte) => (((byte.charCodeAt(0) << 24) >> 24) / 127) * largest);
  return { mean: row(mean), shrunk: shrunk.map(({ left, ...rest }) => ({ direction: row(rest), left })) };
}

export function pack({ mean, shrunk }: Fit): PackedFit {
  const row = (values: Float32Array) => {
    const largest = values.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
    const bytes = Array.from(values, (value) => String.fromCharCode(Math.round((value / largest) * 127) & 255));
    return { largest, values: btoa(bytes.join('')) };
  };
  return { mean: row(mean), shrunk: shrunk.map(({ direction, left }) => ({ left, ...row(direction) })) };
}
