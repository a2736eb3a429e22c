// The likeliest of very many vectors: all are compared, none is passed over. The comparing is done by a small WebAssembly
// program that multiplies sixteen 8-bit numbers at a time (WebAssembly SIMD, 2022); it is written down here instruction by
// instruction, so that nothing has to be compiled.

import { VECTOR_LENGTH } from './likeness';

const PAGE = 65_536;
const LANES = 16;

type Scores = (query: number, vectors: number, count: number, scores: number) => void;

interface Memory {
  readonly buffer: ArrayBuffer;
  grow(pages: number): number;
}

/** What is used of the WebAssembly JavaScript interface; types of it come with browsers only. */
const wasm = (globalThis as unknown as { WebAssembly: Wasm }).WebAssembly;
interface Wasm {
  Memory: new (pages: { initial: number; maximum: number }) => Memory;
  Module: new (bytes: Uint8Array) => object;
  Instance: new (module: object, imports: object) => { exports: { scores: Scores } };
}

/** The program for vectors of a length, compiled once. */
const compiled = new Map<number, object>();

/** Vectors next to each other in memory, found again by their place. */
export class VectorTable {
  private readonly memory = new wasm.Memory({ initial: 2, maximum: 65_536 });
  private readonly scoresOf: Scores;
  private room = 0;
  size = 0;

  /** @param length how many numbers each vector has: a multiple of 16 */
  constructor(private readonly length = VECTOR_LENGTH) {
    const module = compiled.get(length) ?? program(length);
    compiled.set(length, module);
    const instance = new wasm.Instance(module, { core: { memory: this.memory } });
    this.scoresOf = instance.exports.scores;
    this.reserve(256);
  }

  /** Makes room for so many in all. */
  reserve(count: number): void {
    if (count <= this.room) return;
    const room = Math.max(count, Math.ceil(this.room * 1.5));
    // The scores stand before the vectors, so they move when there are to be more of them.
    const old = new Int8Array(this.memory.buffer, this.vectorsAt(), this.size * this.length).slice();
    this.room = room;
    const pages = Math.ceil((this.vectorsAt() + room * this.length) / PAGE);
    const more = pages - this.memory.buffer.byteLength / PAGE;
    if (more > 0) this.memory.grow(more);
    new Int8Array(this.memory.buffer, this.vectorsAt(), old.length).set(old);
  }

  /** The vector at a place, as it lies in memory: valid until more are added. */
  at(place: number): Int8Array {
    return new Int8Array(this.memory.buffer, this.vectorsAt() + place * this.length, this.length);
  }

  set(place: number, vector: Int8Array): void {
    if (place >= this.size) {
      this.reserve(place + 1);
      this.size = place + 1;
    }
    this.at(place).set(vector);
  }

  /** The dot product of a vector with each that is there, by place: valid until asked again. */
  scores(query: Int8Array): Int32Array {
    new Int8Array(this.memory.buffer, 0, this.length).set(query);
    this.scoresOf(0, this.vectorsAt(), this.size, this.length);
    return new Int32Array(this.memory.buffer, this.length, this.size);
  }

  private vectorsAt(): number {
    return this.length + Math.ceil((this.room * 4) / LANES) * LANES;
  }
}

/** The places of the highest scores, the highest first; equal ones by place. `fits` says which count, and is asked only of those that might. */
export function highest(
  size: number,
  scoreAt: (place: number) => number,
  most: number,
  fits: (place: number) => boolean,
): number[] {
  const kept: number[] = [];
  const scores: number[] = [];
  for (let place = 0; place < size; place++) {
    const score = scoreAt(place);
    if (kept.length === most && score <= (scores[most - 1] ?? 0)) continue;
    if (!fits(place)) continue;
    let at = kept.length;
    while (at > 0 && (scores[at - 1] ?? 0) < score) at -= 1;
    kept.splice(at, 0, place);
    scores.splice(at, 0, score);
    if (kept.length > most) {
      kept.pop();
      scores.pop();
    }
  }
  return kept;
}

/**
 * The program: `scores(query, vectors, count, scores)`, all addresses in bytes. For each vector the products of its
 * numbers with those of the query are summed up in four lanes of 32 bits.
 */
function program(length: number): object {
  const [QUERY, VECTORS, COUNT, SCORES, SUM, CHUNK] = [0, 1, 2, 3, 4, 5];
  const get = (local: number) => [0x20, local];
  const set = (local: number) => [0x21, local];
  const number = (value: number) => [0x41, ...signed(value)];
  const simd = (code: number, ...rest: number[]) => [0xfd, ...unsigned(code), ...rest];
  const load = (local: number, offset: number) => [...get(local), ...simd(0x00, 0, ...unsigned(offset))];
  // i16x8.extend_low_i8x16_s, …high…, i32x4.dot_i16x8_s, i32x4.add
  const [LOW, HIGH, DOT, ADD] = [simd(0x87), simd(0x88), simd(0xba), simd(0xae)];
  const product = (offset: number, half: number[]) => [
    ...load(QUERY, offset),
    ...half,
    ...get(CHUNK),
    ...half,
    ...DOT,
    ...get(SUM),
    ...ADD,
    ...set(SUM),
  ];
  const chunks = Array.from({ length: length / LANES }, (_, i) => [
    ...load(VECTORS, i * LANES),
    ...set(CHUNK),
    ...product(i * LANES, LOW),
    ...product(i * LANES, HIGH),
  ]).flat();
  const lane = (i: number) => [...get(SUM), ...simd(0x1b, i)];
  const advance = (local: number, by: number) => [...get(local), ...number(by), 0x6a, ...set(local)];
  const body = [
    ...[0x02, 0x40, 0x03, 0x40], // block, loop
    ...[...get(COUNT), 0x45, 0x0d, 1], // none left: out of the block
    ...[...simd(0x0c, ...Array<number>(16).fill(0)), ...set(SUM)],
    ...chunks,
    ...get(SCORES),
    ...[...lane(0), ...lane(1), 0x6a, ...lane(2), 0x6a, ...lane(3), 0x6a],
    ...[0x36, 2, 0], // i32.store
    ...advance(VECTORS, length),
    ...advance(SCORES, 4),
    ...advance(COUNT, -1),
    ...[0x0c, 0, 0x0b, 0x0b, 0x0b], // again; ends of loop, block, function
  ];
  const code = [1, 2, 0x7b, ...body]; // two locals of 128 bits
  const text = (name: string) => [name.length, ...Array.from(name, (letter) => letter.charCodeAt(0))];
  const section = (id: number, bytes: number[]) => [id, ...unsigned(bytes.length), ...bytes];
  const module = [
    ...[0x00, 0x61, 0x73, 0x6d, 1, 0, 0, 0],
    ...section(1, [1, 0x60, 4, 0x7f, 0x7f, 0x7f, 0x7f, 0]),
    ...section(2, [1, ...text('core'), ...text('memory'), 2, 1, 2, ...unsigned(65_536)]),
    ...section(3, [1, 0]),
    ...section(7, [1, ...text('scores'), 0, 0]),
    ...section(10, [1, ...unsigned(code.length), ...code]),
  ];
  return new wasm.Module(Uint8Array.from(module));
}

/** LEB128 (WebAssembly core specification 2.0, section 5.2.2). */
function unsigned(value: number): number[] {
  const bytes: number[] = [];
  for (let left = value; ; left >>>= 7) {
    if (left < 0x80) return [...bytes, left];
    bytes.push((left & 0x7f) | 0x80);
  }
}

function signed(value: number): number[] {
  const bytes: number[] = [];
  for (let left = value; ; left >>= 7) {
    const low = left & 0x7f;
    const ends = (left >> 7 === 0 && !(low & 0x40)) || (left >> 7 === -1 && (low & 0x40) !== 0);
    bytes.push(ends ? low : low | 0x80);
    if (ends) return bytes;
  }
}
