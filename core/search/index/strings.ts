// Distinct texts by number, and finding those that meet a pattern without looking at each.

import { hasWildcard, matcherOf } from '../words';

const CHUNK = 4096;
const SAVED = 65_536;
/** Stands in no text that comes from PostgreSQL. */
const SEPARATOR = '\u0000';

/** Some texts joined into one, so that a piece of text is looked for in all of them at once. */
interface Chunk {
  text: string;
  /** Where each text begins. */
  starts: Int32Array;
}

/** Texts by number. */
export class StringTable {
  private readonly texts: string[] = [];
  private readonly numbers = new Map<string, number>();
  private readonly chunks: Chunk[] = [];

  /** Texts that hardly ever come twice (file names, captions) are not kept by text: each gets a number of its own. */
  constructor(private readonly isDistinct = true) {}

  /** What `restore` takes: the texts, many in one. */
  saved(): string[] {
    const joined: string[] = [];
    for (let at = 0; at < this.texts.length; at += SAVED) joined.push(this.texts.slice(at, at + SAVED).join(SEPARATOR));
    return joined;
  }

  restore(joined: readonly string[]): void {
    for (const texts of joined) for (const text of texts.split(SEPARATOR)) this.texts.push(text);
    if (this.isDistinct)
      for (let number = 0; number < this.texts.length; number++) this.numbers.set(this.text(number), number);
  }

  get size(): number {
    return this.texts.length;
  }

  /** The number of a text, a new one for a text not seen before. */
  add(text: string): number {
    if (!this.isDistinct) return this.texts.push(text) - 1;
    const known = this.numbers.get(text);
    if (known !== undefined) return known;
    const number = this.texts.push(text) - 1;
    this.numbers.set(text, number);
    return number;
  }

  find(text: string): number | undefined {
    return this.numbers.get(text);
  }

  text(number: number): string {
    return this.texts[number] ?? '';
  }

  /** The numbers of texts that begin with `prefix` and whose rest meets a pattern of `matcherOf`. */
  matching(pattern: string, prefix = ''): number[] {
    if (!hasWildcard(pattern) && this.isDistinct) {
      const number = this.find(prefix + pattern);
      return number === undefined ? [] : [number];
    }
    const matches = matcherOf(pattern);
    const meets = (text: string) =>
      text.startsWith(prefix) && matches(prefix === '' ? text : text.slice(prefix.length));
    const found: number[] = [];
    this.join();
    const piece = pieceOf(pattern, prefix);
    for (const [i, chunk] of this.chunks.entries()) {
      if (piece === '') this.scan(i * CHUNK, (i + 1) * CHUNK, meets, found);
      else this.search(chunk, i * CHUNK, piece, meets, found);
    }
    this.scan(this.chunks.length * CHUNK, this.texts.length, meets, found);
    return found;
  }

  private scan(from: number, to: number, meets: (text: string) => boolean, found: number[]): void {
    for (let number = from; number < to; number++) if (meets(this.texts[number] ?? '')) found.push(number);
  }

  private search(
    { text, starts }: Chunk,
    first: number,
    piece: string,
    meets: (text: string) => boolean,
    found: number[],
  ): void {
    for (let at = text.indexOf(piece); at >= 0;) {
      // A piece may begin with the separator before the text it stands in.
      const which = placeOf(starts, piece.startsWith(SEPARATOR) ? at + 1 : at);
      if (meets(this.texts[first + which] ?? '')) found.push(first + which);
      at = which + 1 < starts.length ? text.indexOf(piece, (starts[which + 1] ?? 0) - 1) : -1;
    }
  }

  private join(): void {
    while ((this.chunks.length + 1) * CHUNK <= this.texts.length) {
      const texts = this.texts.slice(this.chunks.length * CHUNK, (this.chunks.length + 1) * CHUNK);
      const starts = new Int32Array(CHUNK);
      let at = 1;
      for (const [i, text] of texts.entries()) {
        starts[i] = at;
        at += text.length + 1;
      }
      this.chunks.push({ text: SEPARATOR + texts.join(SEPARATOR) + SEPARATOR, starts });
    }
  }
}

/** The longest text that stands in whatever meets the pattern, with the separator where it begins or ends the text. */
function pieceOf(pattern: string, prefix: string): string {
  const pieces = (SEPARATOR + prefix + pattern + SEPARATOR).split(/[*?]/);
  const longest = pieces.reduce((best, piece) => (piece.length > best.length ? piece : best), '');
  return longest === SEPARATOR ? '' : longest;
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
