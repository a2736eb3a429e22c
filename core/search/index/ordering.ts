// A result in an order: of few photos their places are sorted, of many the order is walked and those in the result kept.

import type { PhotoSet } from './photoSet';

/** All photos in an order, read forwards or backwards. Those without a value stand last either way. */
export class Sequence {
  constructor(
    private readonly order: Int32Array,
    /** The place of each ordinal in `order`. */
    private readonly ranks: () => Int32Array,
    private readonly descending: boolean,
    /** How many have a value: those stand first in `order`. */
    private readonly valued: number,
    /** For ordinals that are sorted. */
    private readonly room: Int32Array,
  ) {}

  /** The ordinals of a result. */
  all(result: PhotoSet): Int32Array {
    const count = result.count();
    return count * SORT_COST_RATIO < this.order.length ? this.sorted(result) : this.walked(result, count);
  }

  /** The first ordinals of a result, at most `most`. */
  first(result: PhotoSet, most: number): Int32Array {
    const count = result.count();
    return count * SORT_COST_RATIO < this.order.length
      ? this.sorted(result, most)
      : this.walked(result, Math.min(most, count));
  }

  private walked(result: PhotoSet, most: number): Int32Array {
    const found = new Int32Array(most);
    const { order, valued } = this;
    const { bits } = result;
    let at = 0;
    const walk = (from: number, to: number, step: 1 | -1) => {
      for (let i = from; i !== to && at < most; i += step) {
        const ordinal = order[i] ?? 0;
        if ((((bits[ordinal >>> 5] ?? 0) >>> (ordinal & 31)) & 1) === 1) found[at++] = ordinal;
      }
    };
    if (this.descending) {
      walk(valued - 1, -1, -1);
      walk(order.length - 1, valued - 1, -1);
    } else walk(0, order.length, 1);
    return found;
  }

  private sorted(result: PhotoSet, most = Infinity): Int32Array {
    const all = result.ordinals(this.room);
    const ranks = this.ranks();
    const { order, valued, descending } = this;
    const turned = (place: number) => (place < valued ? valued - 1 - place : valued + order.length - 1 - place);
    for (let i = 0; i < all.length; i++) {
      const rank = ranks[all[i] ?? 0] ?? 0;
      all[i] = descending ? turned(rank) : rank;
    }
    const places = smallest(all, most, order.length).sort();
    for (let i = 0; i < places.length; i++) {
      const place = places[i] ?? 0;
      places[i] = order[descending ? turned(place) : place] ?? 0;
    }
    return places;
  }
}

/** Cost ratio measured in bench/search: below a twelfth of the photos, sorting a result is quicker than walking the whole order. */
export const SORT_COST_RATIO = 12;

const BUCKETS = 1024;

/** The smallest `most` of different numbers below `end`, and perhaps some more, in no order and an array of their own. */
function smallest(numbers: Int32Array, most: number, end: number): Int32Array {
  if (numbers.length <= most * 2) return numbers.slice();
  const width = Math.ceil(end / BUCKETS);
  const counts = new Int32Array(BUCKETS);
  for (let i = 0; i < numbers.length; i++) {
    const bucket = Math.floor((numbers[i] ?? 0) / width);
    counts[bucket] = (counts[bucket] ?? 0) + 1;
  }
  let buckets = 0;
  for (let below = 0; below < most; buckets++) below += counts[buckets] ?? 0;
  return numbers.filter((number) => number < buckets * width);
}

/** A result in an order made by hand; what is not in that comes last. */
export function byHand(result: PhotoSet, order: readonly number[]): Int32Array {
  const rest = result.copy();
  const found: number[] = [];
  for (const ordinal of order)
    if (ordinal >= 0 && rest.has(ordinal)) {
      found.push(ordinal);
      rest.delete(ordinal);
    }
  rest.forEach((ordinal) => found.push(ordinal));
  return Int32Array.from(found);
}
