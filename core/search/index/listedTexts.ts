// Texts of which a photo may have several: for each criterion which texts there are, and a list of them for each photo.

import type { TextId } from '../criteria';
import { foldText } from '../words';
import { ListColumn, type Part, type SavedLists } from './columns';
import type { PhotoSet } from './photoSet';
import { StringTable } from './strings';

/** Flash is asked for as a choice, and kept as the texts yes and no. */
export type ListedId = TextId | 'flash';

interface SavedList {
  column: SavedLists;
  texts: string[];
  written: Map<number, string>;
}

/** The texts of one criterion, folded, and the numbers of those that each photo has, each once. */
export class TextList implements Part<SavedList> {
  readonly column = new ListColumn();
  readonly texts = new StringTable();
  /** How texts are written that are not as they are folded. */
  readonly written = new Map<number, string>();

  set(ordinal: number, texts: readonly string[]): void {
    const numbers: number[] = [];
    for (const text of texts) {
      const number = this.numberOf(text);
      if (!numbers.includes(number)) numbers.push(number);
    }
    this.column.set(ordinal, numbers);
  }

  /** One more text of a photo. */
  add(ordinal: number, text: string): void {
    const number = this.numberOf(text);
    const known = this.column.get(ordinal);
    if (!known.includes(number)) this.column.set(ordinal, [...known, number]);
  }

  /** A text by its number, as it was first written. */
  shown(number: number): string {
    return this.written.get(number) ?? this.texts.text(number);
  }

  /** Finds the photos that have a text that meets a folded pattern, into an empty set. */
  matching(pattern: string, found: PhotoSet): PhotoSet {
    if (pattern === '*') return this.column.havingAny(found);
    return this.column.having(this.texts.matching(pattern), found);
  }

  saved(size: number): SavedList {
    return { column: this.column.saved(size), texts: this.texts.saved(), written: new Map(this.written) };
  }

  append({ column, texts, written }: SavedList, at: number): void {
    const numbers = this.texts.append(texts);
    const renumbered = (number: number) => numbers?.[number] ?? number;
    this.column.append(numbers ? { ...column, values: column.values.map(renumbered) } : column, at);
    for (const [number, text] of written)
      if (!this.written.has(renumbered(number))) this.written.set(renumbered(number), text);
  }

  private numberOf(text: string): number {
    const folded = foldText(text);
    const number = this.texts.add(folded);
    if (folded !== text && !this.written.has(number)) this.written.set(number, text);
    return number;
  }
}

const NONE: readonly string[] = [];
const NO_NUMBERS: readonly number[] = [];

/** See singleTexts.ts. */
const isSingle = (id: string) => id === 'camera' || id === 'lens';

type SavedListed = [id: ListedId, list: SavedList][];

/** All of them by criterion; those of which no photo has any have no list. */
export class ListedTexts implements Part<SavedListed> {
  private readonly lists = new Map<ListedId, TextList>();

  /** Sets all that a photo has, but for what it has one of at most. */
  set(ordinal: number, texts: Partial<Record<ListedId, readonly string[]>>): void {
    for (const id in texts) if (!isSingle(id)) this.of(id as ListedId).set(ordinal, texts[id as ListedId] ?? NONE);
    for (const [id, list] of this.lists) if (texts[id] === undefined) list.column.set(ordinal, NO_NUMBERS);
  }

  of(id: ListedId): TextList {
    let list = this.lists.get(id);
    if (!list) {
      list = new TextList();
      this.lists.set(id, list);
    }
    return list;
  }

  saved(size: number): SavedListed {
    return [...this.lists].map(([id, list]) => [id, list.saved(size)]);
  }

  append(saved: SavedListed, at: number): void {
    for (const [id, list] of saved) this.of(id).append(list, at);
  }
}
