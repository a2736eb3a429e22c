// The vocabulary as finding needs it: which terms a text names, what is narrower, and which labels have which words.

import type { Term } from '../../vocabulary/term';
import { labelsOf, type Relation } from '../../vocabulary/term';
import { TermNames } from '../../vocabulary/following';
import { TermTree } from '../../vocabulary/tree';
import { formsOf, hasWildcard, wordsOf } from '../../text/words';
import { turnedLists } from './columns';
import { StringTable } from './strings';

/** What is reached from each term by id, in `ids` from its offset up to the next. */
interface Reach {
  offsets: Int32Array;
  ids: Int32Array;
  /** Ids are below it. */
  size: number;
}

export class FinderTerms {
  private readonly words = new StringTable();
  private readonly termsOfWord: number[][] = [];
  private readonly labels: { id: number; words: string[] }[] = [];
  private knownBroader: Reach | undefined;
  private knownNarrower: Reach | undefined;

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
  named(text: string, withNarrower: boolean): number[] {
    const named = this.names.named(text).map(({ id }) => id);
    return withNarrower ? this.withNarrower(named) : named;
  }

  /** The ids of terms that have a label with a word that meets a pattern, and of all narrower ones. */
  withWord(pattern: string): number[] {
    const numbers = hasWildcard(pattern)
      ? this.words.matching(pattern)
      : formsOf(pattern).flatMap((form) => this.words.find(form) ?? []);
    return this.withNarrower(numbers.flatMap((number) => this.termsOfWord[number] ?? []));
  }

  /** The same for words that follow one another in a label. */
  withPhrase(phrase: readonly string[]): number[] {
    const [first = ''] = phrase;
    const candidates = new Set(this.termsOfWord[this.words.find(first) ?? -1] ?? []);
    const found = this.labels.filter(
      ({ id, words }) =>
        candidates.has(id) && words.some((_, start) => phrase.every((word, i) => words[start + i] === word)),
    );
    return this.withNarrower(found.map(({ id }) => id));
  }

  /** Of each term itself and all that are broader. */
  broader(): Reach {
    return (this.knownBroader ??= this.findBroader());
  }

  private findBroader(): Reach {
    const lists: (readonly number[] | undefined)[] = [];
    const listOf = (term: Term): readonly number[] => {
      const known = lists[term.id];
      if (known) return known;
      lists[term.id] = [term.id];
      const parent = term.parentId === null ? undefined : this.tree.get(term.parentId);
      // Most have no other broader term than the one in the tree.
      const isPlain = this.tree.alsoBroader(term.id).length === 0;
      const above = isPlain ? (parent ? listOf(parent) : []) : this.tree.above(term.id);
      return (lists[term.id] = [term.id, ...above]);
    };
    let size = 1;
    let room = 0;
    for (const term of this.tree.all()) {
      size = Math.max(size, term.id + 1);
      room += listOf(term).length;
    }
    const offsets = new Int32Array(size + 1);
    const ids = new Int32Array(room);
    for (let id = 0; id < size; id++) {
      const list = lists[id] ?? [];
      ids.set(list, offsets[id]);
      offsets[id + 1] = (offsets[id] ?? 0) + list.length;
    }
    return { offsets, ids, size };
  }

  /** Of each term itself and all that are narrower: broader turned round. */
  private narrower(): Reach {
    if (this.knownNarrower) return this.knownNarrower;
    const { offsets: starts, ids, size } = this.broader();
    const turned = turnedLists(ids, size, (id) => starts[id] ?? 0);
    return (this.knownNarrower = { offsets: turned.offsets, ids: turned.ordinals, size });
  }

  /** The ids of a term and of all narrower ones. */
  within(id: number): number[] {
    return this.withNarrower([id]);
  }

  /** Some terms and all narrower ones, each once. */
  private withNarrower(some: readonly number[]): number[] {
    const { offsets, ids, size } = this.narrower();
    const seen = new Uint8Array(size);
    const found: number[] = [];
    for (const id of some)
      for (let i = offsets[id] ?? 0; i < (offsets[id + 1] ?? 0); i++) {
        const within = ids[i] ?? 0;
        if (seen[within] === 1) continue;
        seen[within] = 1;
        found.push(within);
      }
    return found;
  }
}
