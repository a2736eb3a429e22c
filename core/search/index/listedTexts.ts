// Texts of which a photo may have several: for each criterion which texts there are, and a list of them for each photo.

import type { TextId } from '../criteria';
import { foldText } from '../words';
import { ListColumn } from './columns';
import type { PhotoSet } from './photoSet';
import { StringTable } from './strings';

/** Flash is asked for as a choice, and kept as the texts yes and no. */
export type ListedId = TextId | 'flash';

/** The texts of one criterion, folded, and the numbers of those that each photo has, each once. */
export class TextList {
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

  /** A text by its number, as it was first written. */
  shown(number: number): string {
    return this.written.get(number) ?? this.texts.text(number);
  }

  /** Finds the photos that have a text that meets a folded pattern, into an empty set. */
  matching(pattern: string, found: PhotoSet): PhotoSet {
    if (pattern === '*') return this.column.havingAny(found);
    return this.column.having(this.texts.matching(pattern), found);
  }

  private numberOf(text: string): number {
    const folded = foldText(text);
    const number = this.texts.add(folded);
    if (folded !== text && !this.written.has(number)) this.written.set(number, text);
    return number;
  }
}

const NONE: readonly string[] = [];

/** All of them by criterion; those of which no photo has any have no list. */
export class ListedTexts {
  private readonly lists = new Map<ListedId, TextList>();

  /** Sets all that a photo has. */
  set(ordinal: number, texts: Partial<Record<ListedId, readonly string[]>>): void {
    for (const id in texts) this.of(id as ListedId).set(ordinal, texts[id as ListedId] ?? NONE);
    for (const [id, list] of this.lists) if (texts[id] === undefined) list.set(ordinal, NONE);
  }

  of(id: ListedId): TextList {
    let list = this.lists.get(id);
    if (!list) {
      list = new TextList();
      this.lists.set(id, list);
    }
    return list;
  }

  entries(): [id: ListedId, list: TextList][] {
    return [...this.lists];
  }
}
