// What was found last, by key. Sets that are given up leave their memory to those that come: left to garbage collection they
// would make it look through all there is, again and again, for each 64 MB of them.

import { PhotoSet } from './photoSet';

/** Remembers what was found last for so many keys; `keep` makes a value one's own, `giveUp` is told of those forgotten. */
export class Memory<Value> {
  private readonly found = new Map<string, Value>();

  constructor(
    private readonly most: number,
    private readonly keep: (value: Value) => Value = (value) => value,
    private readonly giveUp: (value: Value) => void = () => undefined,
  ) {}

  of(key: string, find: () => Value): Value {
    const known = this.found.get(key);
    if (known !== undefined) {
      // Asked for again it is the newest.
      this.found.delete(key);
      this.found.set(key, known);
      return known;
    }
    const value = this.keep(find());
    this.found.set(key, value);
    const [oldest] = this.found;
    if (this.found.size > this.most && oldest) {
      this.found.delete(oldest[0]);
      this.giveUp(oldest[1]);
    }
    return value;
  }

  clear(): void {
    for (const value of this.found.values()) this.giveUp(value);
    this.found.clear();
  }
}

/** More are not kept to be used again. */
const MOST_SPARE = 400;

/** The memory of sets. */
export class SetStorage {
  private spare: Uint32Array[] = [];
  private leaving: Uint32Array[] = [];

  /** A copy of a set, which stays until it is given up. */
  keep(set: PhotoSet): PhotoSet {
    const bits = this.spare.pop();
    if (bits?.length !== set.bits.length) {
      // The index has grown: no spare one fits any more.
      this.spare = [];
      return set.copy();
    }
    bits.set(set.bits);
    return new PhotoSet(set.size, bits);
  }

  /** The one who gives up a set that `keep` gave; others may look at it until `settle`. */
  giveUp(set: PhotoSet): void {
    if (this.leaving.length < MOST_SPARE) this.leaving.push(set.bits);
  }

  /** Between two questions nobody looks at sets that were given up. */
  settle(): void {
    if (this.leaving.length === 0) return;
    this.spare = [...this.spare, ...this.leaving].slice(-MOST_SPARE);
    this.leaving = [];
  }
}
