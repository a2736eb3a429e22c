// Sets of photos by ordinal, one bit each: 125 KB a million, and every operation a pass over them.

/** How many numbers of 32 bits a set of ordinals below `size` takes. */
export function wordsFor(size: number): number {
  return (size + 31) >>> 5;
}

export class PhotoSet {
  /** Whoever writes here does so before the set is asked for anything. */
  readonly bits: Uint32Array;
  private counted = -1;

  /** An empty set with room for ordinals below `size`. */
  constructor(
    readonly size: number,
    bits?: Uint32Array,
  ) {
    this.bits = bits ?? new Uint32Array(wordsFor(size));
  }

  has(ordinal: number): boolean {
    return (((this.bits[ordinal >>> 5] ?? 0) >>> (ordinal & 31)) & 1) === 1;
  }

  add(ordinal: number): void {
    const at = ordinal >>> 5;
    this.bits[at] = (this.bits[at] ?? 0) | (1 << (ordinal & 31));
    this.counted = -1;
  }

  delete(ordinal: number): void {
    const at = ordinal >>> 5;
    this.bits[at] = (this.bits[at] ?? 0) & ~(1 << (ordinal & 31));
    this.counted = -1;
  }

  count(): number {
    if (this.counted < 0) {
      const { bits } = this;
      let count = 0;
      for (let i = 0; i < bits.length; i++) count += bitsIn(bits[i] ?? 0);
      this.counted = count;
    }
    return this.counted;
  }

  /** How many photos are in both. */
  countWith(other: PhotoSet): number {
    const [a, b] = [this.bits, other.bits];
    let count = 0;
    for (let i = 0; i < a.length; i++) count += bitsIn((a[i] ?? 0) & (b[i] ?? 0));
    return count;
  }

  // Loops of their own rather than one with an operation: each is compiled to what it does.

  /** Leaves only what is in the other as well. */
  keepOnly(other: PhotoSet): this {
    const [own, others] = [this.bits, other.bits];
    for (let i = 0; i < own.length; i++) own[i] = (own[i] ?? 0) & (others[i] ?? 0);
    return this.altered();
  }

  /** Leaves only what meets a test. */
  keepIf(test: (ordinal: number) => boolean): this {
    this.forEach((ordinal) => {
      if (!test(ordinal)) this.delete(ordinal);
    });
    return this;
  }

  /** Takes in all of another one, which is not larger. */
  addAll(other: PhotoSet): this {
    const [own, others] = [this.bits, other.bits];
    for (let i = 0; i < own.length; i++) own[i] = (own[i] ?? 0) | (others[i] ?? 0);
    return this.altered();
  }

  /** Takes out all that is in the other. */
  takeOut(other: PhotoSet): this {
    const [own, others] = [this.bits, other.bits];
    for (let i = 0; i < own.length; i++) own[i] = (own[i] ?? 0) & ~(others[i] ?? 0);
    return this.altered();
  }

  /** The same, to be altered. */
  copy(): PhotoSet {
    return new PhotoSet(this.size, this.bits.slice());
  }

  get isEmpty(): boolean {
    return this.count() === 0;
  }

  /** All ordinals, ascending; in `room` if there is enough. */
  ordinals(room?: Int32Array): Int32Array {
    const count = this.count();
    const found = room && room.length >= count ? room.subarray(0, count) : new Int32Array(count);
    const { bits } = this;
    let next = 0;
    for (let at = 0; at < bits.length; at++) {
      let left = bits[at] ?? 0;
      while (left !== 0) {
        const lowest = left & -left;
        found[next++] = (at << 5) + (31 - Math.clz32(lowest));
        left ^= lowest;
      }
    }
    return found;
  }

  /** Calls back for each ordinal in ascending order. */
  forEach(call: (ordinal: number) => void): void {
    const { bits } = this;
    for (let at = 0; at < bits.length; at++) {
      let left = bits[at] ?? 0;
      while (left !== 0) {
        const lowest = left & -left;
        call((at << 5) + (31 - Math.clz32(lowest)));
        left ^= lowest;
      }
    }
  }

  private altered(): this {
    this.counted = -1;
    return this;
  }
}

/** The number of ones in 32 bits (H. S. Warren, Hacker’s Delight, section 5-1). */
function bitsIn(word: number): number {
  let left = word - ((word >>> 1) & 0x55555555);
  left = (left & 0x33333333) + ((left >>> 2) & 0x33333333);
  return Math.imul((left + (left >>> 4)) & 0x0f0f0f0f, 0x01010101) >>> 24;
}
