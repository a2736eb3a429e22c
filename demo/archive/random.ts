// Chance that is the same every time: all of the demo archive follows from names.

export interface Random {
  /** From 0 up to 1. */
  next(): number;
  between(low: number, high: number): number;
  /** A whole number, both ends included. */
  int(low: number, high: number): number;
  chance(probability: number): boolean;
  pick<Value>(values: readonly Value[]): Value;
  /** Some of the values, in random order. */
  some<Value>(values: readonly Value[], count: number): Value[];
}

/** A source of chance that follows from a name (xmur3 to seed mulberry32, both in the public domain). */
export function randomOf(name: string): Random {
  let hash = 1779033703 ^ name.length;
  for (let i = 0; i < name.length; i++) {
    hash = Math.imul(hash ^ name.charCodeAt(i), 3432918353);
    hash = (hash << 13) | (hash >>> 19);
  }
  let state = hash >>> 0;
  const next = () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
  for (let i = 0; i < 8; i++) next();
  const int = (low: number, high: number) => low + Math.floor(next() * (high - low + 1));
  const pick = <Value>(values: readonly Value[]): Value => {
    const value = values[int(0, values.length - 1)];
    if (value === undefined) throw new Error('nothing to pick from');
    return value;
  };
  return {
    next,
    int,
    pick,
    between: (low, high) => low + next() * (high - low),
    chance: (probability) => next() < probability,
    some(values, count) {
      const left = [...values];
      return Array.from({ length: Math.min(count, values.length) }, () =>
        left.splice(int(0, left.length - 1), 1),
      ).flat();
    },
  };
}
