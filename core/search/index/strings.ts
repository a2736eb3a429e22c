// Distinct texts by number, and finding those that meet a pattern without looking at each.

import { hasWildcard, matcherOf } from '../../text/words';
import { TextNumbers } from './textNumbers';

const CHUNK = 4096;
/** Stands in no text that comes from PostgreSQL. */
const SEPARATOR = '\u0000';

/** Some texts joined into one, so that a piece of text is looked for in all of them at once. */
interface Chunk {
  /** With a separator before each text, and behind the last. */
  text: string;
  /** Where each text begins, and where one more would. */
  starts: Int32Array;
}

/** Texts by number. A million of them are few objects: garbage collection looks at each object again and again. */
export class StringTable {
  private readonly chunks: Chunk[] = [];
  /** Those behind the last whole chunk. */
  private recent: string[] = [];
  private readonly numbers = new TextNumbers((number, text) => this.isText(number, text));

  /** Texts that hardly ever come twice (file names, captions) are not kept by text: each gets a number of its own. */
  constructor(private readonly isDistinct = true) {}

  /** What `append` takes: the texts, many in one. */
  saved(): string[] {
    return [...this.chunks.map(({ text }) => text), this.recent.map((text) => SEPARATOR + text).join('')];
  }

  /** Adds texts that were saved; returns the number here of each by its number there, undefined where all keep theirs. */
  append(saved: readonly string[]): Int32Array | undefined {
    if (this.size === 0) {
      this.takeOver(saved);
      return undefined;
    }
    const numbers = new Int32Array(saved.length * CHUNK);
    let known = 0;
    for (const whole of saved.slice(0, -1))
      for (const text of whole.split(SEPARATOR).slice(1, -1)) numbers[known++] = this.add(text);
    for (const text of (saved.at(-1) ?? '').split(SEPARATOR).slice(1)) numbers[known++] = this.add(text);
    return numbers;
  }

  private takeOver(saved: readonly string[]): void {
    for (const text of saved.slice(0, -1)) this.chunks.push(chunkOf(text));
    this.recent = (saved.at(-1) ?? '').split(SEPARATOR).slice(1);
    if (this.isDistinct) for (let number = 0; number < this.size; number++) this.numbers.set(this.text(number), number);
  }

  get size(): number {
    return this.chunks.length * CHUNK + this.recent.length;
  }

  /** The number of a text, a new one for a text not seen before. */
  add(text: string): number {
    const known = this.isDistinct ? this.numbers.find(text) : undefined;
    if (known !== undefined) return known;
    const number = this.size;
    this.recent.push(text);
    if (this.isDistinct) this.numbers.set(text, number);
    if (this.recent.length === CHUNK) {
      this.chunks.push(chunkOf(SEPARATOR + this.recent.join(SEPARATOR) + SEPARATOR));
      this.recent = [];
    }
    return number;
  }

  find(text: string): number | undefined {
    return this.numbers.find(text);
  }

  /** The text of a number; empty for one that none has. */
  text(number: number): string {
    const chunk = this.chunks[Math.floor(number / CHUNK)];
    return chunk ? textIn(chunk, number % CHUNK) : (this.recent[number - this.chunks.length * CHUNK] ?? '');
  }

  /** Whether the text of a number is that, without making it. */
  private isText(number: number, text: string): boolean {
    const chunk = this.chunks[Math.floor(number / CHUNK)];
    if (!chunk) return this.text(number) === text;
    if (this.lengthOf(number) !== text.length) return false;
    const start = chunk.starts[number % CHUNK] ?? 0;
    for (let i = 0; i < text.length; i++) if (chunk.text.charCodeAt(start + i) !== text.charCodeAt(i)) return false;
    return true;
  }

  /** The length of the text of a number in code units, without making it. */
  lengthOf(number: number): number {
    const chunk = this.chunks[Math.floor(number / CHUNK)];
    if (!chunk) return this.text(number).length;
    return (chunk.starts[(number % CHUNK) + 1] ?? 0) - 1 - (chunk.starts[number % CHUNK] ?? 0);
  }

  /** Negative if the text of `a` comes before that of `b` by its code units, 0 if they are equal: what `<` would say, without making either. */
  compare(a: number, b: number): number {
    const [one, other] = [this.chunks[Math.floor(a / CHUNK)], this.chunks[Math.floor(b / CHUNK)]];
    if (!one || !other) return compareTexts(this.text(a), this.text(b));
    let [i, j] = [one.starts[a % CHUNK] ?? 0, other.starts[b % CHUNK] ?? 0];
    const end = (one.starts[(a % CHUNK) + 1] ?? 0) - 1;
    for (; i < end; i++, j++) {
      // The separator behind a shorter text comes before whatever the longer one goes on with.
      const difference = one.text.charCodeAt(i) - other.text.charCodeAt(j);
      if (difference !== 0) return difference;
    }
    return one.text.charCodeAt(i) - other.text.charCodeAt(j);
  }

  /** The numbers of texts that meet a pattern of `matcherOf`. */
  matching(pattern: string): number[] {
    if (!hasWildcard(pattern) && this.isDistinct) {
      const number = this.find(pattern);
      return number === undefined ? [] : [number];
    }
    const meets = matcherOf(pattern);
    const found: number[] = [];
    const { piece, isAll } = pieceOf(pattern);
    for (const [i, chunk] of this.chunks.entries()) {
      if (piece === '') this.scan(i * CHUNK, (i + 1) * CHUNK, meets, found);
      else search(chunk, i * CHUNK, piece, isAll ? undefined : meets, found);
    }
    this.scan(this.chunks.length * CHUNK, this.size, meets, found);
    return found;
  }

  /** The numbers of texts that meet a test. */
  meeting(meets: (text: string) => boolean): number[] {
    const found: number[] = [];
    this.scan(0, this.size, meets, found);
    return found;
  }

  private scan(from: number, to: number, meets: (text: string) => boolean, found: number[]): void {
    for (let number = from; number < to; number++) if (meets(this.text(number))) found.push(number);
  }
}

export function compareTexts(a: string, b: string): number {
  return a < b ? -1 : a > b ? 1 : 0;
}

function chunkOf(text: string): Chunk {
  const starts = new Int32Array(CHUNK + 1);
  let at = 0;
  for (let which = 0; which <= CHUNK; which++) {
    starts[which] = at + 1;
    at = text.indexOf(SEPARATOR, at + 1);
  }
  return { text, starts };
}

function textIn({ text, starts }: Chunk, which: number): string {
  return text.slice(starts[which], (starts[which + 1] ?? 0) - 1);
}

/** Adds the numbers of texts in which a piece stands, and which meet a test if there is one. */
function search(
  chunk: Chunk,
  first: number,
  piece: string,
  meets: ((text: string) => boolean) | undefined,
  found: number[],
): void {
  const { text, starts } = chunk;
  // A piece may begin with the separator before the text it stands in, which comes far too often to be looked for.
  const begins = piece.startsWith(SEPARATOR);
  const core = begins ? piece.slice(1) : piece;
  for (let at = text.indexOf(core); at >= 0;) {
    const which = placeOf(starts, at);
    const isMet = (!begins || at === starts[which]) && (!meets || meets(textIn(chunk, which)));
    if (isMet) found.push(first + which);
    at = which + 1 < CHUNK ? text.indexOf(core, starts[which + 1]) : -1;
  }
}

/**
 * The longest text that stands in whatever meets the pattern, with the separator where it begins or ends the text; and
 * whether whatever it stands in meets the pattern.
 */
function pieceOf(pattern: string): { piece: string; isAll: boolean } {
  const pieces = (SEPARATOR + pattern + SEPARATOR).split(/[*?]/).filter((piece) => piece !== '');
  const longest = pieces.reduce((best, piece) => (piece.length > best.length ? piece : best), '');
  const piece = longest === SEPARATOR ? '' : longest;
  const isAll = !pattern.includes('?') && pieces.filter((each) => each !== SEPARATOR).length === 1;
  return { piece, isAll };
}

/** The last place whose start is not after `at`. */
function placeOf(starts: Int32Array, at: number): number {
  let [low, high] = [0, starts.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((starts[middle] ?? 0) <= at) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}
