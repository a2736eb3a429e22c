// Names of places by what somebody types of them: any word of a name may be begun with, and letters may be wrong.

import { foldText } from '../text/words';

/** How a name was met, the best first. */
export const METS = ['whole', 'beginning', 'word', 'slip'] as const;
export type Met = (typeof METS)[number];

/** The same as numbers from 1 on. */
const RANKS = { whole: 1, beginning: 2, word: 3, slip: 4 } as const satisfies Record<Met, number>;

export interface FoundName {
  /** Whose name it is, by its place in the list the names were given in. */
  at: number;
  met: Met;
}

/** Shorter texts are looked for at the beginning of names only, not of each word: too many begin so. */
const MIN_WORD_LETTERS = 3;
/** In shorter texts no letter may be wrong. */
const MIN_LETTERS_ONE_SLIP = 4;
/** In shorter texts one letter may be wrong, from here on two. */
const MIN_LETTERS_TWO_SLIPS = 10;
const HIGHEST = '\uffff';

/** A sorted list of the ends of all names from each of their words on. */
export interface PackedNames {
  ends: string[];
  /** Whose each end is, and whether it is the whole name. */
  owners: Int32Array;
  starts: Uint8Array;
  /** So many names there are. */
  count: number;
}

/** Names that can be found; what they are found by can be kept and taken up again. */
export class PlaceNames {
  private readonly ends: readonly string[];
  private readonly owners: Int32Array;
  private readonly starts: Uint8Array;
  /** While names are looked for: how each was met, by its rank; 0 between. */
  private readonly ranks: Uint8Array;

  constructor(readonly packed: PackedNames) {
    this.ends = packed.ends;
    this.owners = packed.owners;
    this.starts = packed.starts;
    this.ranks = new Uint8Array(packed.count);
  }

  static of(names: readonly string[]): PlaceNames {
    const entries: { end: string; at: number; isStart: boolean }[] = [];
    names.forEach((name, at) => {
      const folded = plainName(name);
      entries.push({ end: folded, at, isStart: true });
      for (let space = folded.indexOf(' '); space >= 0; space = folded.indexOf(' ', space + 1))
        entries.push({ end: folded.slice(space + 1), at, isStart: false });
    });
    entries.sort((a, b) => (a.end < b.end ? -1 : a.end > b.end ? 1 : a.at - b.at));
    return new PlaceNames({
      ends: entries.map(({ end }) => end),
      owners: Int32Array.from(entries, ({ at }) => at),
      starts: Uint8Array.from(entries, ({ isStart }) => Number(isStart)),
      count: names.length,
    });
  }

  /** The names that a typed text begins, each once with the best way it was met; those with wrong letters only where there is no other. */
  find(typed: string): FoundName[] {
    const text = plainName(typed);
    if (text === '') return [];
    const found: number[] = [];
    const { owners, ranks } = this;
    const note = (i: number, rank: number) => {
      const at = owners[i] ?? 0;
      const known = ranks[at] ?? 0;
      if (known === 0) found.push(at);
      if (known === 0 || rank < known) ranks[at] = rank;
    };
    for (let i = this.firstFrom(text), end = this.firstFrom(text + HIGHEST); i < end; i++)
      if (this.starts[i] === 1 || text.length >= MIN_WORD_LETTERS)
        note(i, this.starts[i] === 0 ? RANKS.word : this.ends[i] === text ? RANKS.whole : RANKS.beginning);
    const slips = text.length >= MIN_LETTERS_TWO_SLIPS ? 2 : text.length >= MIN_LETTERS_ONE_SLIP ? 1 : 0;
    // The first letter is seldom wrong: only where nothing else is found, names with another one are looked through too.
    for (const beginning of [text.slice(0, 1), ''])
      if (found.length === 0 && slips > 0) this.slipped(text, slips, beginning, (i) => note(i, RANKS.slip));
    return found.map((at) => {
      const met = METS[(this.ranks[at] ?? 1) - 1] ?? 'slip';
      this.ranks[at] = 0;
      return { at, met };
    });
  }

  /** Names by a whole name, as it is written but for case, accents and signs. */
  called(name: string): number[] {
    const text = plainName(name);
    const found: number[] = [];
    if (text === '') return found;
    for (let i = this.firstFrom(text); this.ends[i] === text; i++)
      if (this.starts[i] === 1) found.push(this.owners[i] ?? 0);
    return found;
  }

  /**
   * The ends that have a beginning, and of which some beginning is at most so many slips apart from the text: a letter more, less or
   * other, or two neighbours exchanged (optimal string alignment, after F. Damerau, CACM 7 (3), 1964). Walks the sorted list as a tree of letters: a row
   * of distances stands for each letter that neighbours share, and what can no longer become near is passed over whole.
   */
  private slipped(text: string, most: number, beginning: string, note: (i: number) => void): void {
    const rows = Array.from({ length: text.length + most + 2 }, () => new Uint8Array(text.length + 1));
    rows[0]?.forEach((_, i, row) => (row[i] = i));
    let before = '';
    /** How many letters of the last end have their row. */
    let known = 0;
    let wasMet = false;
    const to = beginning === '' ? this.ends.length : this.firstFrom(beginning + HIGHEST);
    for (let i = this.firstFrom(beginning); i < to;) {
      const end = this.ends[i] ?? '';
      let depth = sharedLength(before, end, known);
      before = end;
      // Met by what both begin with: this one is, too.
      if (wasMet && depth === known) {
        note(i++);
        continue;
      }
      wasMet = false;
      let least = 0;
      for (; depth < end.length && !wasMet && least <= most; depth++) {
        least = fillRow(rows, depth, end, text, most);
        wasMet = depth + 1 + most >= text.length && (rows[depth + 1]?.[text.length] ?? Infinity) <= most;
      }
      known = depth;
      if (wasMet) note(i);
      i = least > most ? this.firstFrom(end.slice(0, depth) + HIGHEST) : i + 1;
    }
  }

  /** Where the first end stands that is not before a text. */
  private firstFrom(text: string): number {
    let [low, high] = [0, this.ends.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((this.ends[middle] ?? '') < text) low = middle + 1;
      else high = middle;
    }
    return low;
  }
}

/** A name as names are compared: folded, and any signs between its words a space. */
export function plainName(name: string): string {
  return foldText(name)
    .replace(/[’'`´ʼ‘]/g, '')
    .replace(/[^\p{L}\p{N}]+/gu, ' ')
    .trim();
}

function sharedLength(a: string, b: string, most: number): number {
  let length = 0;
  while (length < most && length < a.length && a.charCodeAt(length) === b.charCodeAt(length)) length++;
  return length;
}

/**
 * Fills the row below the one at a depth, for the letter of a name there; gives the least distance in it. Only distances up to
 * `most` are told right: what lies farther than that from the diagonal can't be one.
 */
function fillRow(rows: readonly Uint8Array[], depth: number, name: string, text: string, most: number): number {
  const [row, next, above] = [rows[depth], rows[depth + 1], rows[depth - 1]];
  if (!row || !next) return Infinity;
  const [letter, letterBefore] = [name.charCodeAt(depth), depth > 0 ? name.charCodeAt(depth - 1) : -1];
  const beyond = most + 1;
  const [from, to] = [Math.max(1, depth + 1 - most), Math.min(text.length, depth + 1 + most)];
  let least = from === 1 ? depth + 1 : beyond;
  next[from - 1] = least;
  if (to < text.length) next[to + 1] = beyond;
  for (let i = from; i <= to; i++) {
    const typed = text.charCodeAt(i - 1);
    let distance = (row[i - 1] ?? 0) + (typed === letter ? 0 : 1);
    const longer = (row[i] ?? 0) + 1;
    if (longer < distance) distance = longer;
    const shorter = (next[i - 1] ?? 0) + 1;
    if (shorter < distance) distance = shorter;
    if (above && i > 1 && typed === letterBefore && text.charCodeAt(i - 2) === letter) {
      const exchanged = (above[i - 2] ?? 0) + 1;
      if (exchanged < distance) distance = exchanged;
    }
    next[i] = distance;
    if (distance < least) least = distance;
  }
  return least;
}
