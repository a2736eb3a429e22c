// What was found last, by key. Sets that are given up leave their memory to those that come: left to garbage collection they
// would make it look through all there is, again and again, for each 64 MB of them.

import { PhotoSet, wordsFor } from './photoSet';

/** A cache of the values that were asked for last, up to a number of keys. `keep` copies a value for the cache; `giveUp` gets those that are evicted. */
export class ResultCache<Value> {
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
const MAX_SPARE = 400;

/** The memory of sets. */
export class SetStorage {
  private spare: Uint32Array[] = [];
  private leaving: Uint32Array[] = [];
  /** Those that were made for the present question and belong to nobody. */
  private readonly made = new Set<PhotoSet>();

  /** An empty set, which stays until `settle` unless it is kept. */
  empty(size: number): PhotoSet {
    const set = this.take(size);
    set.bits.fill(0);
    return set;
  }

  /** A copy of a set, of which the same is true. */
  copy(of: PhotoSet): PhotoSet {
    const set = this.take(of.size);
    set.bits.set(of.bits);
    return set;
  }

  /** What is in both of two sets. */
  intersection(one: PhotoSet, other: PhotoSet): PhotoSet {
    const set = this.take(one.size);
    const { bits } = set;
    const [a, b] = [one.bits, other.bits];
    for (let i = 0; i < bits.length; i++) bits[i] = (a[i] ?? 0) & (b[i] ?? 0);
    return set;
  }

  /** A set, or a copy of one that belongs to somebody else: it stays until it is given up. */
  keep(set: PhotoSet): PhotoSet {
    const own = this.made.has(set) ? set : this.copy(set);
    this.made.delete(own);
    return own;
  }

  /** The one who gives up a set that `keep` gave; others may look at it until `settle`. */
  giveUp(set: PhotoSet): void {
    this.leaving.push(set.bits);
  }

  /** Between two questions nobody looks at sets that were given up, or made and not kept. */
  settle(): void {
    for (const { bits } of this.made) this.leaving.push(bits);
    this.made.clear();
    if (this.leaving.length === 0) return;
    this.spare = [...this.spare, ...this.leaving].slice(-MAX_SPARE);
    this.leaving = [];
  }

  /** A set with whatever was in its memory before. */
  private take(size: number): PhotoSet {
    const made = new PhotoSet(size, this.spareOf(size));
    this.made.add(made);
    return made;
  }

  private spareOf(size: number): Uint32Array | undefined {
    const bits = this.spare.pop();
    if (!bits || bits.length === wordsFor(size)) return bits;
    // The index has grown: no spare one fits any more.
    this.spare = [];
    return undefined;
  }
}

/** The ordinals of the sets that were asked for last, in room that is used again. */
export class OrdinalLists {
  private readonly lists: { set: PhotoSet; list: Int32Array; room: Int32Array }[] = [];

  constructor(private readonly most: number) {}

  /** The ordinals of a set that is not altered any more; good until so many others are asked for. `make` gives what is listed for it. */
  of(set: PhotoSet, make: (set: PhotoSet) => PhotoSet = (same) => same): Int32Array {
    const place = this.lists.findIndex((known) => known.set === set);
    const [known] = place < 0 ? [] : this.lists.splice(place, 1);
    const newest = known ?? this.listed(set, make(set));
    this.lists.push(newest);
    return newest.list;
  }

  private listed(set: PhotoSet, what: PhotoSet) {
    const oldest = this.lists.length < this.most ? undefined : this.lists.shift();
    const room = oldest && oldest.room.length >= what.size ? oldest.room : new Int32Array(what.size);
    return { set, room, list: what.ordinals(room) };
  }
}
