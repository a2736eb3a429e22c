// The vocabulary as finding needs it: which terms a text names, what is narrower, and which labels have which words.

import type { Term } from '../../vocabulary/term';
import { labelsOf, type Relation } from '../../vocabulary/term';
import { TermNames } from '../../vocabulary/following';
import { TermTree } from '../../vocabulary/tree';
import { formsOf, hasWildcard, wordsOf } from '../words';
import { StringTable } from './strings';

interface Broader {
  offsets: Int32Array;
  ids: Int32Array;
  /** Ids are below it. */
  size: number;
}

export class FinderTerms {
  private readonly words = new StringTable();
  private readonly termsOfWord: number[][] = [];
  private readonly labels: { id: number; words: string[] }[] = [];
  private known: Broader | undefined;

  constructor(
    readonly tree: TermTree,
    readonly names: TermNames,
  ) {
    for (const term of tree.all())
      for (const label of new Set(labelsOf(term))) {
        const words = wordsOf(label);
        this.labels.push({ id: term.id, words });
        for (const word of words) (this.termsOfWord[this.words.add(word)] ??= []).push(term.id);
      }
  }

  static none(): FinderTerms {
    const tree = new TermTree<Term>([], [] as Relation[], []);
    return new FinderTerms(tree, new TermNames(tree));
  }

  /** The ids of the terms that a text names, with all narrower ones or without. */
  named(text: string, withNarrower: boolean): Set<number> {
    const named = this.names.named(text).map(({ id }) => id);
    return withNarrower ? this.withNarrower(named) : new Set(named);
  }

  /** The ids of terms that have a label with a word that meets a pattern, and of all narrower ones. */
  withWord(pattern: string): Set<number> {
    const numbers = hasWildcard(pattern)
      ? this.words.matching(pattern)
      : formsOf(pattern).flatMap((form) => this.words.find(form) ?? []);
    return this.withNarrower(numbers.flatMap((number) => this.termsOfWord[number] ?? []));
  }

  /** The same for words that follow one another in a label. */
  withPhrase(phrase: readonly string[]): Set<number> {
    const [first = ''] = phrase;
    const candidates = new Set(this.termsOfWord[this.words.find(first) ?? -1] ?? []);
    const found = this.labels.filter(
      ({ id, words }) =>
        candidates.has(id) && words.some((_, start) => phrase.every((word, i) => words[start + i] === word)),
    );
    return this.withNarrower(found.map(({ id }) => id));
  }

  /** Of each term by id: itself and all that are broader, in `ids` from its offset up to the next. */
  broader(): Broader {
    return (this.known ??= this.findBroader());
  }

  private findBroader(): Broader {
    const terms = [...this.tree.all()];
    const size = terms.reduce((most, { id }) => Math.max(most, id), 0) + 1;
    const lists: (readonly number[] | undefined)[] = [];
    for (const { id } of terms) lists[id] = [...new Set([id, ...this.tree.above(id)])];
    const offsets = new Int32Array(size + 1);
    for (let id = 0; id < size; id++) offsets[id + 1] = (offsets[id] ?? 0) + (lists[id]?.length ?? 0);
    const ids = new Int32Array(offsets[size] ?? 0);
    lists.forEach((list, id) => list && ids.set(list, offsets[id]));
    return { offsets, ids, size };
  }

  /** The ids of a term and of all narrower ones. */
  within(id: number): Set<number> {
    return this.withNarrower([id]);
  }

  private withNarrower(ids: readonly number[]): Set<number> {
    const found = new Set<number>();
    for (const id of ids) {
      if (found.has(id)) continue;
      found.add(id);
      for (const below of this.tree.below(id)) found.add(below);
    }
    return found;
  }
}
