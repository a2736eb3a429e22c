// Proposing terms for keywords that files bring along: by label, other name, spelling, number, or place in a path.

import { foldText } from '../text/words';
import { labelsOf, type Term } from './term';
import { SlipIndex } from './slips';
import { TermTree } from './tree';

/** Why a term is proposed, the surest first. */
export const REASONS = [
  'label',
  'case',
  'other name',
  'other language',
  'path',
  'plural',
  'spelling',
  'end of path',
] as const;
export type Reason = (typeof REASONS)[number];

export interface Proposal {
  termId: number;
  why: Reason;
}

/** What a keyword says when it is a path as some programs write them: `Norland|Saltmarsh`, top first. Undefined for plain ones. */
export function pathOf(keyword: string): string[] | undefined {
  for (const mark of ['|', ' > ', '>', '/', '\\', ' : ']) {
    const steps = keyword.split(mark).map((step) => step.trim());
    if (steps.length > 1 && steps.every((step) => step !== '')) return steps;
  }
  return undefined;
}

/**
 * What a folder's name says without dates, counters and separators: `2019-06-12_Kite festival 03` gives `Kite festival`.
 * Undefined when nothing with letters is left.
 */
export function folderWords(name: string): string | undefined {
  const words = name
    .normalize('NFC')
    .replace(/[_.]+/g, ' ')
    .replace(/\b\d{4}\s?-\s?\d{4}\b/g, ' ')
    .replace(/(^|\s)[-–]?\d+([-–]\d+)*(?=\s|$|-\s)/g, ' ')
    .replace(/(^|\s)[-–]+(?=\s|$)/g, ' ')
    .replace(/\s+/g, ' ')
    .trim();
  return /\p{L}{2}/u.test(words) ? words : undefined;
}

interface Entry {
  term: Term;
  label: string;
  folded: string;
  why: Extract<Reason, 'label' | 'other name' | 'other language'>;
}

/** Proposes terms of one vocabulary. Making it costs time in proportion to the labels, proposing little. */
export class TermMatcher {
  private readonly tree: TermTree;
  private readonly byLabel = new Map<string, Entry[]>();
  private readonly slips = new SlipIndex<Entry>();

  constructor(terms: readonly Term[]) {
    this.tree = new TermTree(terms);
    for (const term of terms) {
      if (term.heading || term.deprecated) continue;
      this.add(term, term.label, 'label');
      for (const { label, language } of term.otherLabels)
        this.add(term, label, language === '' ? 'other name' : 'other language');
    }
  }

  /** The best term for a keyword; undefined when none is like it. */
  propose(keyword: string): Proposal | undefined {
    const path = pathOf(keyword);
    if (!path) return this.whole(keyword);
    const last = path.at(-1) ?? '';
    const found = this.entries(last).find(({ term }) => this.standsBelow(term, path.slice(0, -1)));
    if (found) return { termId: found.term.id, why: 'path' };
    const end = this.whole(last);
    return end && { termId: end.termId, why: 'end of path' };
  }

  /**
   * The term that a keyword means without doubt: by its label or another name that only one term has, or by a path. Undefined when it
   * is like none, or when several are called so.
   */
  meant(keyword: string): number | undefined {
    const only = (entries: readonly Entry[]) => {
      const ids = new Set(entries.map(({ term }) => term.id));
      return ids.size === 1 ? entries[0]?.term.id : undefined;
    };
    const called = this.entries(keyword);
    if (called.length > 0) return only(called.filter(({ why }) => why === 'label')) ?? only(called);
    const path = pathOf(keyword);
    return (
      path && only(this.entries(path.at(-1) ?? '').filter(({ term }) => this.standsBelow(term, path.slice(0, -1))))
    );
  }

  private whole(keyword: string): Proposal | undefined {
    const folded = foldText(keyword.trim());
    if (folded === '') return undefined;
    const [exact] = this.entries(keyword);
    if (exact) {
      const isSame = exact.label === keyword.normalize('NFC').trim();
      return { termId: exact.term.id, why: exact.why === 'label' && !isSame ? 'case' : exact.why };
    }
    const plural = first(this.slips.otherNumber(folded));
    if (plural) return { termId: plural.term.id, why: 'plural' };
    const near = first(this.slips.misspelt(folded));
    return near && { termId: near.term.id, why: 'spelling' };
  }

  /** Entries of just this label, preferred labels first. */
  private entries(label: string): Entry[] {
    const found = this.byLabel.get(foldText(label.trim())) ?? [];
    return [...found].sort((a, b) => REASONS.indexOf(a.why) - REASONS.indexOf(b.why));
  }

  /** Whether the steps, last first, are labels of broader terms; levels between may be left out. */
  private standsBelow(term: Term, steps: readonly string[]): boolean {
    const broader = this.tree.path(term.id).slice(0, -1);
    let at = broader.length;
    for (const step of [...steps].reverse()) {
      const wanted = foldText(step);
      do at--;
      while (at >= 0 && !labelsAt(broader[at]).some((label) => foldText(label) === wanted));
      if (at < 0) return false;
    }
    return true;
  }

  private add(term: Term, label: string, why: Entry['why']): void {
    const folded = foldText(label);
    const entry = { term, label, folded, why };
    put(this.byLabel, folded, entry);
    this.slips.add(folded, entry);
  }
}

function labelsAt(term: Term | undefined): string[] {
  return term ? labelsOf(term) : [];
}

/** The entry of the oldest term among the surest: the same whatever the order. */
function first(entries: readonly Entry[]): Entry | undefined {
  return [...entries].sort((a, b) => REASONS.indexOf(a.why) - REASONS.indexOf(b.why) || a.term.id - b.term.id)[0];
}

function put(map: Map<string, Entry[]>, key: string, entry: Entry): void {
  const known = map.get(key);
  if (known) known.push(entry);
  else map.set(key, [entry]);
}
