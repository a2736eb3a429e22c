// Finding terms while their name is typed: by any label, by the beginnings of its words, with a path before it, and, where
// nothing is called so, by what differs in a letter or two.

import { foldText } from '../search/words';
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
    const found = this.matching(typed, (word) => this.startingWith(word));
    const near = found.size > 0 ? found : this.matching(typed, (word) => this.near(word));
    const isNear = found.size === 0;
    const best = new Map<number, { entry: Entry; why: FoundTerm['why'] }>();
    for (const at of near) {
      const entry = this.entries[at];
      if (!entry || !isMeant(entry.term) || !this.standsBelow(entry.term, steps)) continue;
      const candidate = { entry, why: whyOf(entry, wanted, isNear) };
      const known = best.get(entry.term.id);
      if (!known || compare(candidate, known) < 0) best.set(entry.term.id, candidate);
    }
    return [...best.values()]
      .sort(compare)
      .slice(0, limit)
      .map(({ entry, why }) => ({
        termId: entry.term.id,
        label: entry.label,
        ...(why === 'spelling' ? { from: 0, to: 0 } : matchedPart(entry.label, wanted, typed[0] ?? '')),
        why,
      }));
  }

  /** Entries with a word for each typed one. */
  private matching(typed: readonly string[], entriesOf: (word: string) => Set<number>): Set<number> {
    let meant: Set<number> | undefined;
    for (const word of typed) {
      const entries = entriesOf(word);
      meant = meant ? new Set([...meant].filter((at) => entries.has(at))) : entries;
      if (meant.size === 0) break;
    }
    return meant ?? new Set();
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

/**
 * Whether some beginning of a word is at most `slips` letters away from what was typed: letters more, less, other, or two
 * that changed places (optimal string alignment; Damerau 1964). Only rows that can still be near enough are filled.
 */
export function beginsNear(word: string, typed: string, slips: number): boolean {
  if (word.length < typed.length - slips) return false;
  const width = Math.min(word.length, typed.length + slips);
  let before: number[] = [];
  let last = Array.from({ length: width + 1 }, (_, i) => i);
  for (let i = 1; i <= typed.length; i++) {
    const row = [i];
    let least = i;
    for (let j = 1; j <= width; j++) {
      const same = typed[i - 1] === word[j - 1];
      let cost = Math.min((last[j] ?? 0) + 1, (row[j - 1] ?? 0) + 1, (last[j - 1] ?? 0) + (same ? 0 : 1));
      if (i > 1 && j > 1 && typed[i - 1] === word[j - 2] && typed[i - 2] === word[j - 1])
        cost = Math.min(cost, (before[j - 2] ?? 0) + 1);
      row.push(cost);
      least = Math.min(least, cost);
    }
    if (least > slips) return false;
    [before, last] = [last, row];
  }
  return last.some((cost) => cost <= slips);
}
