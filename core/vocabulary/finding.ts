// Finding terms while their name is typed: by any label, by the beginnings of its words, with a path before it, and, where
// nothing is called so, by what differs in a letter or two.

import { foldText } from '../text/words';
import { labelsOf, type Term } from './term';
import type { TermTree } from './tree';

export interface FoundTerm {
  termId: number;
  /** The label that was found, and where the typed text begins and ends in it (UTF-16 units; both 0 where the spelling differs). */
  label: string;
  from: number;
  to: number;
  why: 'whole' | 'start' | 'words' | 'spelling';
}

interface Entry {
  term: Term;
  label: string;
  folded: string;
  preferred: boolean;
}

const RANKS: Record<FoundTerm['why'], number> = { whole: 0, start: 1, words: 2, spelling: 3 };
const SEPARATORS = /[^\p{L}\p{N}]+/u;

/** Finds terms of some vocabularies. Making it costs time in proportion to the labels; finding, to the words they are made of. */
export class TermFinder {
  private readonly entries: Entry[] = [];
  /** Entries by each word of their label. */
  private readonly byWord = new Map<string, number[]>();
  private readonly words: string[];

  constructor(private readonly tree: TermTree) {
    for (const term of tree.preOrder())
      labelsOf(term).forEach((label, i) => {
        const folded = foldText(label);
        const at = this.entries.push({ term, label, folded, preferred: i === 0 }) - 1;
        for (const word of new Set(folded.split(SEPARATORS)))
          if (word !== '') {
            const known = this.byWord.get(word);
            if (known) known.push(at);
            else this.byWord.set(word, [at]);
          }
      });
    this.words = [...this.byWord.keys()].sort();
  }

  /** The best terms for a typed text, each once, the surest first; `isMeant` leaves terms out. */
  find(text: string, limit: number, isMeant: (term: Term) => boolean = () => true): FoundTerm[] {
    const steps = text.split(/\s*[/›>|]\s*/).map((step) => foldText(step.trim()));
    const wanted = steps.pop() ?? '';
    const typed = wanted.split(SEPARATORS).filter((word) => word !== '');
    if (typed.length === 0) return [];
    const { entries, isNear } = this.matching(typed);
    const best = new Map<number, Candidate>();
    for (const at of entries) {
      const entry = this.entries[at];
      if (!entry || !isMeant(entry.term)) continue;
      const candidate = { entry, why: whyOf(entry, wanted, isNear) };
      const known = best.get(entry.term.id);
      if ((!known || compare(candidate, known) < 0) && this.standsBelow(entry.term, steps))
        best.set(entry.term.id, candidate);
    }
    return firstOf(best.values(), limit).map(({ entry, why }) => ({
      termId: entry.term.id,
      label: entry.label,
      ...(why === 'spelling' ? { from: 0, to: 0 } : matchedPart(entry.label, wanted, typed[0] ?? '')),
      why,
    }));
  }

  /** Entries with a word for each typed one: beginning so, or, where none does, nearly so. */
  private matching(typed: readonly string[]): { entries: Iterable<number>; isNear: boolean } {
    let isNear = false;
    const sets = typed.map((word) => {
      const exact = this.startingWith(word);
      if (exact.size > 0) return exact;
      isNear = true;
      return this.near(word);
    });
    const [smallest, ...others] = sets.sort((a, b) => a.size - b.size);
    if (!smallest) return { entries: [], isNear };
    const entries = [...smallest].filter((at) => others.every((set) => set.has(at)));
    if (entries.length > 0 || isNear) return { entries, isNear };
    // Each word begins some label, but no label has them all: perhaps one of them is a slip.
    const near = typed.map((word) => this.near(word)).sort((a, b) => a.size - b.size);
    return { entries: [...(near[0] ?? [])].filter((at) => near.every((set) => set.has(at))), isNear: true };
  }

  private startingWith(start: string): Set<number> {
    let [low, high] = [0, this.words.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((this.words[middle] ?? '') < start) low = middle + 1;
      else high = middle;
    }
    const found = new Set<number>();
    for (let i = low; this.words[i]?.startsWith(start); i++)
      for (const at of this.byWord.get(this.words[i] ?? '') ?? []) found.add(at);
    return found;
  }

  /** Entries with a word whose beginning is a letter or two away: one from four letters on, two from eight. */
  private near(typed: string): Set<number> {
    const slips = typed.length >= 8 ? 2 : typed.length >= 4 ? 1 : 0;
    const found = new Set<number>();
    for (const word of this.words)
      if (slips === 0 ? word.startsWith(typed) : beginsNear(word, typed, slips))
        for (const at of this.byWord.get(word) ?? []) found.add(at);
    return found;
  }

  /** Whether labels of broader terms begin with the steps, last first; levels between may be left out. */
  private standsBelow(term: Term, steps: readonly string[]): boolean {
    const wanted = steps.filter((step) => step !== '');
    if (wanted.length === 0) return true;
    const path = this.tree.path(term.id).slice(0, -1);
    for (let step = wanted.pop(); step !== undefined; step = wanted.pop()) {
      let above = path.pop();
      while (above && !labelsOf(above).some((label) => foldText(label).startsWith(step ?? ''))) above = path.pop();
      if (!above) return false;
    }
    return true;
  }
}

function whyOf({ folded }: Entry, wanted: string, isNear: boolean): FoundTerm['why'] {
  if (isNear) return 'spelling';
  if (folded === wanted) return 'whole';
  return folded.startsWith(wanted) ? 'start' : 'words';
}

interface Candidate {
  entry: Entry;
  why: FoundTerm['why'];
}

function compare(a: Candidate, b: Candidate): number {
  return (
    RANKS[a.why] - RANKS[b.why] ||
    Number(a.entry.term.deprecated) - Number(b.entry.term.deprecated) ||
    Number(b.entry.preferred) - Number(a.entry.preferred) ||
    a.entry.folded.length - b.entry.folded.length ||
    (a.entry.folded < b.entry.folded ? -1 : a.entry.folded > b.entry.folded ? 1 : a.entry.term.id - b.entry.term.id)
  );
}

/** Where the typed text stands in a label: as it is, or its first word at the beginning of one. */
function matchedPart(label: string, wanted: string, firstWord: string): { from: number; to: number } {
  // Folding may make two letters of one (ß), so places are followed letter by letter.
  const starts: number[] = [];
  let folded = '';
  let at = 0;
  for (const letter of label) {
    const piece = foldText(letter);
    for (let i = 0; i < piece.length; i++) starts.push(at);
    folded += piece;
    at += letter.length;
  }
  starts.push(label.length);
  for (const text of [wanted, firstWord])
    for (let from = folded.indexOf(text); from >= 0 && text !== ''; from = folded.indexOf(text, from + 1))
      if (from === 0 || SEPARATORS.test(folded[from - 1] ?? ''))
        return { from: starts[from] ?? 0, to: starts[from + text.length] ?? label.length };
  return { from: 0, to: 0 };
}

/** The first few in order, without sorting the many others. */
function firstOf(candidates: Iterable<Candidate>, limit: number): Candidate[] {
  const first: Candidate[] = [];
  for (const candidate of candidates) {
    const last = first[limit - 1];
    if (last && compare(candidate, last) >= 0) continue;
    let at = Math.min(first.length, limit - 1);
    for (; at > 0; at--) {
      const before = first[at - 1];
      if (!before || compare(before, candidate) <= 0) break;
      first[at] = before;
    }
    first[at] = candidate;
  }
  return first;
}

const MAX_TYPED_LETTERS = 64;
const TOO_FAR = 1000;
const rows = [
  new Uint16Array(MAX_TYPED_LETTERS + 4),
  new Uint16Array(MAX_TYPED_LETTERS + 4),
  new Uint16Array(MAX_TYPED_LETTERS + 4),
] as const;

/**
 * Whether some beginning of a word is at most `slips` letters away from what was typed: letters more, less, other, or two
 * that changed places (optimal string alignment; Damerau 1964). Only cells near the diagonal can be near enough.
 */
export function beginsNear(word: string, typed: string, slips: number): boolean {
  const length = typed.length;
  if (word.length < length - slips || length > MAX_TYPED_LETTERS) return false;
  const width = Math.min(word.length, length + slips);
  let [before, last, row] = rows as readonly [Uint16Array, Uint16Array, Uint16Array];
  for (let j = 0; j <= width; j++) last[j] = j;
  for (let i = 1; i <= length; i++) {
    const [from, to] = [Math.max(1, i - slips), Math.min(width, i + slips)];
    row[from - 1] = from === 1 ? i : TOO_FAR;
    let least = row[from - 1] ?? TOO_FAR;
    const letter = typed.charCodeAt(i - 1);
    for (let j = from; j <= to; j++) {
      const other = word.charCodeAt(j - 1);
      let cost = (last[j - 1] ?? TOO_FAR) + (letter === other ? 0 : 1);
      if (j < i + slips) cost = Math.min(cost, (last[j] ?? TOO_FAR) + 1);
      cost = Math.min(cost, (row[j - 1] ?? TOO_FAR) + 1);
      if (i > 1 && j > 1 && letter === word.charCodeAt(j - 2) && typed.charCodeAt(i - 2) === other)
        cost = Math.min(cost, (before[j - 2] ?? TOO_FAR) + 1);
      row[j] = cost;
      if (cost < least) least = cost;
    }
    if (least > slips) return false;
    [before, last, row] = [last, row, before];
  }
  for (let j = Math.max(0, length - slips); j <= width; j++) if ((last[j] ?? TOO_FAR) <= slips) return true;
  return false;
}
