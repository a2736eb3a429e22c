// Columns: what each photo has, by ordinal. A photo has one value, or a list of them.

import type { PhotoSet } from './photoSet';

type Numbers = Int32Array | Float64Array;

/** The array with room for at least `size`, what is new filled with `empty`. */
export function grown<Values extends Numbers>(values: Values, size: number, empty: number): Values {
  if (values.length >= size) return values;
  const kind = values.constructor as new (length: number) => Values;
  const larger = new kind(Math.max(1024, size, Math.ceil(values.length * 1.5)));
  larger.set(values);
  larger.fill(empty, values.length);
  return larger;
}

/** Something the index holds of each photo. It can be written down, and taken up behind what is there. */
export interface Part<Saved> {
  /** A copy of what is held of the first `size` photos, which can be cloned. */
  saved(size: number): Saved;
  /** Takes over what `saved` gave, for the photos from ordinal `at` on, of which nothing is known yet. */
  append(saved: Saved, at: number): void;
}

/** What there is up to `at`, and more behind it. */
function joined<Values extends Numbers>(values: Values, more: Values, at: number, empty: number): Values {
  if (at === 0) return more;
  const whole = grown(values, at + more.length, empty);
  whole.set(more, at);
  return whole;
}

/** The photos of each value, one value after the other. */
interface Turned {
  /** Those of value n stand from offsets[n] up to offsets[n + 1]. */
  offsets: Int32Array;
  ordinals: Int32Array;
}

/** More changed values than this, or than a sixteenth of the photos, are merged into the sorted column. */
const MAX_CHANGED = 4000;
const CHANGED_FRACTION = 16;

/** One number a photo; -1 for none. */
export class ValueColumn implements Part<Int32Array> {
  values: Int32Array = new Int32Array(0);
  /** As it was when somebody asked who has a value; and who has another one since. */
  private turned: Turned | undefined;
  private readonly changed = new Set<number>();

  saved(size: number): Int32Array {
    return this.values.slice(0, size);
  }

  append(saved: Int32Array, at: number): void {
    this.values = joined(this.values, saved, at, -1);
    this.turned = undefined;
    this.changed.clear();
  }

  set(ordinal: number, value: number): void {
    if (this.turned && this.get(ordinal) !== value) this.note(ordinal);
    this.values = grown(this.values, ordinal + 1, -1);
    this.values[ordinal] = value;
  }

  get(ordinal: number): number {
    return this.values[ordinal] ?? -1;
  }

  /** Finds the photos that have a value, into an empty set. */
  havingAny(found: PhotoSet): PhotoSet {
    const { bits, size } = found;
    const { values } = this;
    const end = Math.min(size, values.length);
    // 32 photos make one number, which is written once. Nothing branches: what comes next can't be foretold.
    for (let ordinal = 0, at = 0; ordinal < end; at++) {
      let word = 0;
      for (const stop = Math.min(end, ordinal + 32); ordinal < stop; ordinal++)
        word |= (((values[ordinal] ?? -1) >>> 31) ^ 1) << (ordinal & 31);
      bits[at] = word;
    }
    return found;
  }

  /** Finds the photos whose value is one of those, none of which is negative, into an empty set. */
  having(wanted: Iterable<number>, found: PhotoSet): PhotoSet {
    const list = [...wanted];
    if (list.length === 0) return found;
    const { values } = this;
    this.turned ??= turnedLists(values, values.length, (ordinal) => ordinal);
    addPhotosOf(list, this.turned, found);
    if (this.changed.size > 0) {
      const isWanted = new Set(list);
      for (const ordinal of this.changed) {
        if (isWanted.has(this.get(ordinal))) found.add(ordinal);
        else found.delete(ordinal);
      }
    }
    return found;
  }

  private note(ordinal: number): void {
    this.changed.add(ordinal);
    if (this.changed.size <= Math.max(MAX_CHANGED, this.values.length / CHANGED_FRACTION)) return;
    this.changed.clear();
    this.turned = undefined;
  }
}

/** Adds the photos of some values to a set. */
function addPhotosOf(values: readonly number[], { offsets, ordinals }: Turned, found: PhotoSet): void {
  const { bits } = found;
  for (const value of values) {
    const end = offsets[value + 1] ?? offsets[value] ?? 0;
    for (let i = offsets[value] ?? 0; i < end; i++) {
      const ordinal = ordinals[i] ?? 0;
      const at = ordinal >>> 5;
      bits[at] = (bits[at] ?? 0) | (1 << (ordinal & 31));
    }
  }
}

/** Of photos whose values stand from `startOf` of each up to that of the next: sorted by value, counting (D. E. Knuth, TAOCP 3, section 5.2, algorithm D). */
export function turnedLists(values: Int32Array, photos: number, startOf: (ordinal: number) => number): Turned {
  const length = startOf(photos);
  let most = -1;
  for (let i = 0; i < length; i++) if ((values[i] ?? 0) > most) most = values[i] ?? 0;
  const offsets = new Int32Array(most + 2);
  for (let i = 0; i < length; i++) {
    const value = values[i] ?? -1;
    if (value >= 0) offsets[value + 1] = (offsets[value + 1] ?? 0) + 1;
  }
  for (let value = 0; value <= most; value++) offsets[value + 1] = (offsets[value + 1] ?? 0) + (offsets[value] ?? 0);
  const next = offsets.slice();
  const ordinals = new Int32Array(offsets[most + 1] ?? 0);
  for (let ordinal = 0; ordinal < photos; ordinal++) {
    const end = startOf(ordinal + 1);
    for (let i = startOf(ordinal); i < end; i++) {
      const value = values[i] ?? -1;
      if (value < 0) continue;
      const place = next[value] ?? 0;
      ordinals[place] = ordinal;
      next[value] = place + 1;
    }
  }
  return { offsets, ordinals };
}

/** One measure or moment a photo; NaN for none. */
export class MeasureColumn implements Part<Float64Array> {
  values: Float64Array = new Float64Array(0);
  /** How often a value has become another one. */
  changes = 0;

  saved(size: number): Float64Array {
    return this.values.slice(0, size);
  }

  append(saved: Float64Array, at: number): void {
    this.values = joined(this.values, saved, at, NaN);
    this.changes++;
  }

  set(ordinal: number, value: number | undefined): void {
    if (value === undefined && ordinal >= this.values.length) return;
    this.values = grown(this.values, ordinal + 1, NaN);
    if (!Object.is(this.values[ordinal], value ?? NaN)) this.changes++;
    this.values[ordinal] = value ?? NaN;
  }

  get(ordinal: number): number {
    return this.values[ordinal] ?? NaN;
  }

  /** Finds the photos whose value is from one limit up to another, both included, into an empty set. */
  between(from: number, to: number, found: PhotoSet): PhotoSet {
    const { bits, size } = found;
    const { values } = this;
    const end = Math.min(size, values.length);
    for (let ordinal = 0, at = 0; ordinal < end; at++) {
      let word = 0;
      for (const stop = Math.min(end, ordinal + 32); ordinal < stop; ordinal++) {
        const value = values[ordinal] ?? NaN;
        word |= (Number(value >= from) & Number(value <= to)) << (ordinal & 31);
      }
      bits[at] = word;
    }
    return found;
  }

  /** Finds the photos that have a value, into an empty set. */
  known(found: PhotoSet): PhotoSet {
    return this.between(-Infinity, Infinity, found);
  }
}

/** Of photo n the values from offsets[n] up to offsets[n + 1]. */
export interface SavedLists {
  offsets: Int32Array;
  values: Int32Array;
}

const NOTHING = new Int32Array(0);

/**
 * A list of numbers a photo. What was there when it was last packed stands one after the other, and turned round as the
 * photos of each number; what was set since is kept apart, and packed when it is much.
 */
export class ListColumn implements Part<SavedLists> {
  /** Of photo n the values from offsets[n] up to offsets[n + 1]. */
  private offsets: Int32Array = new Int32Array(1024);
  private values: Int32Array = new Int32Array(4096);
  private packed = 0;
  private readonly changed = new Map<number, Int32Array>();
  private turned: Turned | undefined;

  saved(size: number): SavedLists {
    if (this.changed.size > 0) this.pack();
    const end = Math.min(size, this.packed);
    return { offsets: this.offsets.slice(0, end + 1), values: this.values.slice(0, this.offsets[end] ?? 0) };
  }

  append({ offsets, values }: SavedLists, at: number): void {
    this.turned = undefined;
    if (at === 0) {
      this.changed.clear();
      [this.offsets, this.values, this.packed] = [offsets, values, offsets.length - 1];
      return;
    }
    if (this.changed.size > 0) this.pack();
    const photos = offsets.length - 1;
    const before = this.offsets[this.packed] ?? 0;
    this.offsets = grown(this.offsets, at + photos + 1, 0);
    this.offsets.fill(before, this.packed + 1, at);
    for (let i = 0; i <= photos; i++) this.offsets[at + i] = (offsets[i] ?? 0) + before;
    this.values = grown(this.values, before + values.length, 0);
    this.values.set(values, before);
    this.packed = at + photos;
  }

  set(ordinal: number, values: readonly number[]): void {
    if (this.isSame(ordinal, values)) return;
    // Once it is turned round, adding to the packed part would mean to turn all of it again.
    if (ordinal >= this.packed && this.changed.size === 0 && !this.turned) return this.addLast(ordinal, values);
    this.changed.set(ordinal, values.length === 0 ? NOTHING : Int32Array.from(values));
    if (this.changed.size > Math.max(MAX_CHANGED, this.packed / CHANGED_FRACTION)) this.pack();
  }

  /** Calls back for each value of a photo. */
  forEach(ordinal: number, call: (value: number) => void): void {
    const changed = this.changed.size === 0 ? undefined : this.changed.get(ordinal);
    if (changed) {
      for (let i = 0; i < changed.length; i++) call(changed[i] ?? 0);
      return;
    }
    if (ordinal >= this.packed) return;
    const end = this.offsets[ordinal + 1] ?? 0;
    for (let i = this.offsets[ordinal] ?? 0; i < end; i++) call(this.values[i] ?? 0);
  }

  /** Calls back for each photo with the stretch of an array where its values stand. */
  forEachList(ordinals: Int32Array, call: (values: Int32Array, start: number, end: number) => void): void {
    const { offsets, values, packed, changed } = this;
    const noneChanged = changed.size === 0;
    for (let i = 0; i < ordinals.length; i++) {
      const ordinal = ordinals[i] ?? 0;
      const own = noneChanged ? undefined : changed.get(ordinal);
      if (own) call(own, 0, own.length);
      else if (ordinal < packed) call(values, offsets[ordinal] ?? 0, offsets[ordinal + 1] ?? 0);
      else call(NOTHING, 0, 0);
    }
  }

  get(ordinal: number): number[] {
    const values: number[] = [];
    this.forEach(ordinal, (value) => values.push(value));
    return values;
  }

  /** Finds the photos that have one of those values, into an empty set. */
  having(wanted: Iterable<number>, found: PhotoSet): PhotoSet {
    const list = [...wanted];
    if (list.length === 0) return found;
    this.turned ??= turnedLists(this.values, this.packed, (ordinal) => this.offsets[ordinal] ?? 0);
    addPhotosOf(list, this.turned, found);
    if (this.changed.size > 0) {
      const mask = maskOf(list);
      for (const [ordinal, values] of this.changed) {
        if (values.some((value) => mask[value] === 1)) found.add(ordinal);
        else found.delete(ordinal);
      }
    }
    return found;
  }

  /** Finds the photos that have any value, into an empty set. */
  havingAny(found: PhotoSet): PhotoSet {
    const { bits, size } = found;
    const { offsets } = this;
    const end = Math.min(size, this.packed);
    for (let ordinal = 0, at = 0; ordinal < end; at++) {
      let word = 0;
      for (const stop = Math.min(end, ordinal + 32); ordinal < stop; ordinal++)
        word |= Number(offsets[ordinal] !== offsets[ordinal + 1]) << (ordinal & 31);
      bits[at] = word;
    }
    for (const [ordinal, values] of this.changed) {
      if (values.length > 0) found.add(ordinal);
      else found.delete(ordinal);
    }
    return found;
  }

  /** Whether a photo has those values already, in that order. */
  private isSame(ordinal: number, values: readonly number[]): boolean {
    const own = this.changed.get(ordinal);
    if (own) return own.length === values.length && values.every((value, i) => own[i] === value);
    if (ordinal >= this.packed) return values.length === 0;
    const start = this.offsets[ordinal] ?? 0;
    if ((this.offsets[ordinal + 1] ?? 0) - start !== values.length) return false;
    return values.every((value, i) => this.values[start + i] === value);
  }

  private addLast(ordinal: number, values: readonly number[]): void {
    this.turned = undefined;
    this.offsets = grown(this.offsets, ordinal + 2, 0);
    const start = this.offsets[this.packed] ?? 0;
    for (let n = this.packed; n <= ordinal; n++) this.offsets[n] = start;
    this.values = grown(this.values, start + values.length, 0);
    this.values.set(values, start);
    this.offsets[ordinal + 1] = start + values.length;
    this.packed = ordinal + 1;
  }

  /** Puts what was set since among the rest: what lies between two changed photos is copied in one piece. */
  private pack(): void {
    const changed = Int32Array.from(this.changed.keys()).sort();
    const { offsets: oldOffsets, values: oldValues, packed } = this;
    const size = Math.max(packed, (changed.at(-1) ?? -1) + 1);
    let room = oldOffsets[packed] ?? 0;
    for (const values of this.changed.values()) room += values.length;
    const offsets = new Int32Array(size + 1);
    const values = new Int32Array(room);
    let at = 0;
    let next = 0;
    const copyUpTo = (end: number) => {
      const stop = Math.min(end, packed);
      if (next < stop) {
        const [from, to] = [oldOffsets[next] ?? 0, oldOffsets[stop] ?? 0];
        values.set(oldValues.subarray(from, to), at);
        for (let ordinal = next; ordinal < stop; ordinal++) offsets[ordinal] = (oldOffsets[ordinal] ?? 0) - from + at;
        at += to - from;
        next = stop;
      }
      for (; next < end; next++) offsets[next] = at;
    };
    for (const ordinal of changed) {
      copyUpTo(ordinal);
      const own = this.changed.get(ordinal) ?? NOTHING;
      offsets[ordinal] = at;
      values.set(own, at);
      at += own.length;
      next = ordinal + 1;
    }
    copyUpTo(size);
    offsets[size] = at;
    this.offsets = offsets;
    this.values = values;
    this.packed = size;
    this.changed.clear();
    this.turned = undefined;
  }
}

/** One at each number that is wanted. */
function maskOf(wanted: readonly number[]): Uint8Array {
  let most = 0;
  for (const value of wanted) if (value > most) most = value;
  const mask = new Uint8Array(most + 1);
  for (const value of wanted) mask[value] = 1;
  return mask;
}

/** The next number above (or below) one that a number can be (IEEE 754-2019, section 5.3.1). */
export function beside(value: number, above: boolean): number {
  if (!Number.isFinite(value)) return value;
  if (value === 0) return above ? Number.MIN_VALUE : -Number.MIN_VALUE;
  const bits = new BigInt64Array(new Float64Array([value]).buffer);
  bits[0] = (bits[0] ?? 0n) + (above === value > 0 ? 1n : -1n);
  return new Float64Array(bits.buffer)[0] ?? value;
}
