// Labels that are a slip of the pen apart: another number of the same word, a letter more, less or other.

/** Letters that a word may lack or have more at its end when it is another number of the same word. */
const ENDINGS: readonly (readonly [ending: string, stem: string])[] = [
  ['ies', 'y'],
  ['ches', 'ch'],
  ['shes', 'sh'],
  ['sses', 'ss'],
  ['xes', 'x'],
  ['ves', 'f'],
  ['es', 'e'],
  ['s', ''],
  ['en', 'e'],
  ['en', ''],
  ['er', ''],
  ['e', ''],
];
const MIN_STEM = 3;

interface Known<Entry> {
  folded: string;
  /** Without spaces and hyphens. */
  bare: string;
  digits: string;
  entry: Entry;
}

/** Finds what was added under a label that is nearly another. */
export class SlipIndex<Entry> {
  private readonly known: Known<Entry>[] = [];
  private readonly byStem = new Map<string, Known<Entry>[]>();
  /**
   * By each label with one letter left out, so that labels one slip away are found without comparing all: from the hash of what
   * is left to the newest link of a chain, each naming a label and the link before.
   */
  private readonly heads = new Map<number, number>();
  private readonly links: { known: number; before: number }[] = [];

  add(folded: string, entry: Entry): void {
    const known = { folded, bare: bareOf(folded), digits: digitsOf(folded), entry };
    const at = this.known.push(known) - 1;
    for (const stem of stemsOf(folded)) put(this.byStem, stem, known);
    for (const hash of slipHashes(known.bare))
      this.heads.set(hash, this.links.push({ known: at, before: this.heads.get(hash) ?? -1 }) - 1);
  }

  /** Entries whose label is another number of the same word. */
  otherNumber(folded: string): Entry[] {
    return this.stemming(folded).map(({ entry }) => entry);
  }

  /** Entries whose label is one slip away, or the same but for spaces and hyphens. */
  misspelt(folded: string): Entry[] {
    return this.slipped(folded).map(({ entry }) => entry);
  }

  /** Both, where the labels do not differ in a number that stands in them. */
  near(folded: string): Entry[] {
    const digits = digitsOf(folded);
    return [...this.stemming(folded), ...this.slipped(folded)]
      .filter((known) => known.digits === digits)
      .map(({ entry }) => entry);
  }

  private stemming(folded: string): Known<Entry>[] {
    return stemsOf(folded).flatMap((stem) => this.byStem.get(stem) ?? []);
  }

  private slipped(folded: string): Known<Entry>[] {
    const bare = bareOf(folded);
    const seen = new Set<number>();
    const found: Known<Entry>[] = [];
    for (const hash of slipHashes(bare))
      for (let at = this.heads.get(hash) ?? -1; at >= 0; at = this.links[at]?.before ?? -1) {
        const index = this.links[at]?.known ?? -1;
        const known = this.known[index];
        if (!known || seen.has(index)) continue;
        seen.add(index);
        if (isOneSlip(known.bare, bare)) found.push(known);
      }
    return found;
  }
}

function digitsOf(text: string): string {
  return text.replace(/\P{N}+/gu, ' ').trim();
}

function stemsOf(folded: string): string[] {
  const stems = new Set([folded]);
  for (const [ending, stem] of ENDINGS)
    if (folded.endsWith(ending) && folded.length - ending.length + stem.length >= MIN_STEM)
      stems.add(folded.slice(0, folded.length - ending.length) + stem);
  return [...stems];
}

const BASE = 16_777_619;

/**
 * Hashes of a label and of it with each letter left out; none of labels of less than four letters. A polynomial over the letters,
 * so that leaving one out costs two multiplications and no text.
 */
function slipHashes(bare: string): number[] {
  const { length } = bare;
  if (length < 4) return [];
  const upTo = [0];
  const powers = [1];
  for (let i = 0; i < length; i++) {
    upTo.push((Math.imul(upTo[i] ?? 0, BASE) + bare.charCodeAt(i) + 1) | 0);
    powers.push(Math.imul(powers[i] ?? 0, BASE));
  }
  const whole = upTo[length] ?? 0;
  const hashes = [whole];
  for (let i = 0; i < length; i++) {
    const power = powers[length - 1 - i] ?? 0;
    const tail = (whole - Math.imul(upTo[i + 1] ?? 0, power)) | 0;
    hashes.push((Math.imul(upTo[i] ?? 0, power) + tail) | 0);
  }
  return hashes;
}

function bareOf(folded: string): string {
  return folded.replace(/[\s\-'’]+/g, '');
}

/** Whether two bare words are the same but for one letter more, less, other, or two changed places (Damerau 1964). */
function isOneSlip(one: string, other: string): boolean {
  if (one === other) return true;
  if (Math.min(one.length, other.length) < 5 || Math.abs(one.length - other.length) > 1) return false;
  let start = 0;
  while (one[start] !== undefined && one[start] === other[start]) start++;
  const tails = (from: number, to: number) => one.slice(from) === other.slice(to);
  return (
    tails(start + 1, start + 1) ||
    tails(start + 1, start) ||
    tails(start, start + 1) ||
    (one[start] === other[start + 1] && one[start + 1] === other[start] && tails(start + 2, start + 2))
  );
}

function put<Value>(map: Map<string, Value[]>, key: string, value: Value): void {
  const known = map.get(key);
  if (known) known.push(value);
  else map.set(key, [value]);
}
