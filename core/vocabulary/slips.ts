// Labels that are a slip of the pen apart: another number of the same word, a letter more, less or other.

/** Letters that a word may lack or have more at its end when it is another number of the same word. */
const ENDINGS: readonly (readonly [ending: string, stem: string])[] = [
  ['ies', 'y'], ['ches', 'ch'], ['shes', 'sh'], ['sses', 'ss'], ['xes', 'x'], ['ves', 'f'], ['es', 'e'], ['s', ''], ['en', 'e'], ['en', ''], ['er', ''], ['e', ''],
]; // prettier-ignore
const MIN_STEM = 3;

/** Finds what was added under a label that is nearly another. */
export class SlipIndex<Entry> {
  private readonly byStem = new Map<string, { folded: string; entry: Entry }[]>();
  /** By each label with one letter left out, so that labels one slip away are found without comparing all. */
  private readonly bySlip = new Map<string, { folded: string; entry: Entry }[]>();

  add(folded: string, entry: Entry): void {
    for (const stem of stemsOf(folded)) put(this.byStem, stem, { folded, entry });
    for (const slip of slipsOf(folded)) put(this.bySlip, slip, { folded, entry });
  }

  /** Entries whose label is another number of the same word. */
  otherNumber(folded: string): Entry[] {
    return stemsOf(folded).flatMap((stem) => (this.byStem.get(stem) ?? []).map(({ entry }) => entry));
  }

  /** Entries whose label is one slip away, or the same but for spaces and hyphens. */
  misspelt(folded: string): Entry[] {
    return slipsOf(folded)
      .flatMap((slip) => this.bySlip.get(slip) ?? [])
      .filter((known) => isOneSlip(known.folded, folded))
      .map(({ entry }) => entry);
  }

  /** Both, where the labels do not differ in a number that stands in them. */
  near(folded: string): Entry[] {
    const digits = digitsOf(folded);
    const same = (list: readonly { folded: string; entry: Entry }[] = []) =>
      list.filter((known) => digitsOf(known.folded) === digits);
    return [
      ...stemsOf(folded).flatMap((stem) => same(this.byStem.get(stem))),
      ...slipsOf(folded)
        .flatMap((slip) => same(this.bySlip.get(slip)))
        .filter((known) => isOneSlip(known.folded, folded)),
    ].map(({ entry }) => entry);
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

/** Words of at least five letters may hold a slip: the word itself, and it with each letter left out; without spaces and hyphens. */
function slipsOf(folded: string): string[] {
  const bare = bareOf(folded);
  if (bare.length < 4) return [];
  return [bare, ...Array.from(bare, (_, i) => bare.slice(0, i) + bare.slice(i + 1))];
}

function bareOf(folded: string): string {
  return folded.replace(/[\s\-'’]+/g, '');
}

/** Whether two words are the same but for one letter more, less, other, or two changed places (Damerau 1964). */
function isOneSlip(a: string, b: string): boolean {
  const [one, other] = [bareOf(a), bareOf(b)];
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
