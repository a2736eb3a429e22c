// The orders a result can be shown in: all photos sorted once, and kept sorted as photos change.

import type { FinderIndex, SingleId } from './finderIndex';
import { SORT_COST_RATIO, Sequence } from './ordering';

export type OrderId = 'taken' | 'name' | 'added' | 'folder' | 'rating' | 'rating-desc' | 'size' | 'kind' | 'bundle';

type Compare = (a: number, b: number) => number;

/** What each order compares, the most important first; equal photos stand in the order they were taken in. */
const COMPARISONS: Readonly<Record<OrderId, readonly ((index: FinderIndex) => Compare)[]>> = {
  taken: [byTaken],
  name: [byName],
  added: [],
  folder: [byFolder, byName],
  rating: [(index) => byMeasure(index, 'rating'), byTaken],
  'rating-desc': [(index) => backwards(byMeasure(index, 'rating')), byTaken],
  size: [(index) => byMeasure(index, 'size')],
  kind: [(index) => byText(index, 'kind'), byTaken],
  bundle: [(index) => byNumbers(index.bundle.values, -1), byLead],
};

/** Where more than a fourth of the photos have moved, an order is sorted from scratch: measured in bench/search. */
const RESORT_FRACTION = 4;

export class Orders {
  private readonly sorted = new Map<OrderId, Int32Array>();
  /** Photos that may stand elsewhere than in the order as it is kept. */
  private readonly pending = new Map<OrderId, Set<number>>();
  /** The place of each ordinal in an order. */
  private readonly ranks = new Map<OrderId, { order: Int32Array; ranks: Int32Array }>();

  private room = new Int32Array(0);

  constructor(private readonly index: FinderIndex) {}

  /** All photos in an order, forwards or backwards. */
  sequence(id: OrderId, descending: boolean): Sequence {
    const order = this.of(id);
    const ranks = () => this.ranksOf(id, order);
    const room = Math.ceil(order.length / SORT_COST_RATIO);
    if (this.room.length < room) this.room = new Int32Array(room);
    return new Sequence(order, ranks, descending, id === 'taken' ? this.dated(order) : order.length, this.room);
  }

  /** How many of the photos by time have one. */
  private dated(order: Int32Array): number {
    const { values } = this.index.taken.from;
    let [low, high] = [0, order.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (Number.isNaN(values[order[middle] ?? 0] ?? NaN)) high = middle;
      else low = middle + 1;
    }
    return low;
  }

  private ranksOf(id: OrderId, order: Int32Array): Int32Array {
    const known = this.ranks.get(id);
    if (known?.order === order) return known.ranks;
    const ranks = new Int32Array(order.length);
    for (let place = 0; place < order.length; place++) ranks[order[place] ?? 0] = place;
    this.ranks.set(id, { order, ranks });
    return ranks;
  }

  /** All ordinals in an order. */
  of(id: OrderId): Int32Array {
    const known = this.sorted.get(id);
    const moved = this.pending.get(id) ?? new Set();
    if (known && moved.size === 0) return known;
    const { size } = this.index;
    const sorted =
      known && moved.size * RESORT_FRACTION < size
        ? merged(known, moved, size, this.comparing(id))
        : Int32Array.from({ length: size }, (_, ordinal) => ordinal).sort(this.comparing(id));
    this.sorted.set(id, sorted);
    this.pending.set(id, new Set());
    return sorted;
  }

  /** Notes which photos have moved; orders are brought in line when they are asked for. */
  refresh(): void {
    const moved = this.index.takeMoved();
    for (const id of this.sorted.keys()) {
      if (!moved) this.sorted.delete(id);
      const pending = this.pending.get(id);
      for (const ordinal of moved ?? []) pending?.add(ordinal);
    }
  }

  private comparing(id: OrderId): Compare {
    const comparisons = COMPARISONS[id].map((comparison) => comparison(this.index));
    const { values: ids } = this.index.ids;
    return (a, b) => {
      for (const compare of comparisons) {
        const order = compare(a, b);
        if (order !== 0) return order;
      }
      return (ids[a] ?? 0) - (ids[b] ?? 0);
    };
  }
}

/** The order with some photos at their new places, which are looked for by halving. */
function merged(before: Int32Array, moved: ReadonlySet<number>, size: number, compare: Compare): Int32Array {
  const isMoved = new Uint8Array(size);
  for (const ordinal of moved) isMoved[ordinal] = 1;
  const rest = before.filter((ordinal) => isMoved[ordinal] === 0);
  const result = new Int32Array(rest.length + moved.size);
  let from = 0;
  let at = 0;
  for (const ordinal of Int32Array.from(moved).sort(compare)) {
    let [low, high] = [from, rest.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if (compare(rest[middle] ?? 0, ordinal) < 0) low = middle + 1;
      else high = middle;
    }
    result.set(rest.subarray(from, low), at);
    at += low - from;
    from = low;
    result[at++] = ordinal;
  }
  result.set(rest.subarray(from), at);
  return result;
}

/** By numbers; those that have none come last. */
function byNumbers(values: Float64Array | Int32Array, none: number): Compare {
  return (a, b) => {
    const [first, second] = [values[a] ?? none, values[b] ?? none];
    const [lacks, other] = [Object.is(first, none), Object.is(second, none)];
    return lacks || other ? Number(lacks) - Number(other) : first - second;
  };
}

function backwards(compare: Compare): Compare {
  return (a, b) => compare(b, a);
}

function byTaken(index: FinderIndex): Compare {
  return byNumbers(index.taken.from.values, NaN);
}

function byMeasure(index: FinderIndex, id: 'rating' | 'size'): Compare {
  return byNumbers(index.measures[id].values, NaN);
}

function byText(index: FinderIndex, id: SingleId): Compare {
  const { column, texts } = index.single[id];
  return (a, b) => texts.table.compare(column.get(a), column.get(b));
}

function byName(index: FinderIndex): Compare {
  return byText(index, 'name');
}

function byFolder(index: FinderIndex): Compare {
  const ranks = new Map(index.folders.ordered().map((id, rank) => [id, rank]));
  const values = Int32Array.from(index.folder.values, (id) => ranks.get(id) ?? -1);
  return byNumbers(values, -1);
}

function byLead(index: FinderIndex): Compare {
  const leads = index.inState('lead');
  return (a, b) => Number(leads.has(b)) - Number(leads.has(a));
}
