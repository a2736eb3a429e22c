// Texts of which a photo has one at most: which there are, and the number of that of each photo.

import { foldText } from '../../text/words';
import { ValueColumn, type Part } from './columns';
import type { PhotoSet } from './photoSet';
import { WrittenTexts, type SavedTexts } from './writtenTexts';

interface SavedSingle {
  column: Int32Array;
  texts: SavedTexts;
}

export class SingleTexts implements Part<SavedSingle> {
  readonly column = new ValueColumn();
  readonly texts: WrittenTexts;
  /** Of texts that are not shared: the photo of each, or one that had it before. */
  private readonly photos = new ValueColumn();

  constructor(private readonly isShared: boolean) {
    this.texts = new WrittenTexts(isShared);
  }

  set(ordinal: number, text: string): void {
    if (text === '') return this.column.set(ordinal, -1);
    const folded = foldText(text);
    // Read again as it was, it keeps its number.
    const known = this.column.get(ordinal);
    if (known >= 0 && this.texts.table.text(known) === folded) return;
    const number = this.texts.add(folded, text);
    this.column.set(ordinal, number);
    if (!this.isShared) this.photos.set(number, ordinal);
  }

  /** The folded text of a photo; empty for one that has none. */
  textOf(ordinal: number): string {
    return this.texts.table.text(this.column.get(ordinal));
  }

  /** The length of the folded text of a photo in code units. */
  lengthOf(ordinal: number): number {
    return this.texts.table.lengthOf(this.column.get(ordinal));
  }

  /** Finds the photos whose text meets a folded pattern, into an empty set. */
  matching(pattern: string, found: PhotoSet): PhotoSet {
    if (pattern === '*') return this.column.havingAny(found);
    const numbers = this.texts.table.matching(pattern);
    if (this.isShared) return this.column.having(numbers, found);
    for (const number of numbers) {
      const ordinal = this.photos.get(number);
      if (this.column.get(ordinal) === number) found.add(ordinal);
    }
    return found;
  }

  saved(size: number): SavedSingle {
    return { column: this.column.saved(size), texts: this.texts.saved() };
  }

  append({ column, texts }: SavedSingle, at: number): void {
    const renumbered = this.texts.append(texts);
    this.column.append(renumbered ? column.map(renumbered) : column, at);
    if (this.isShared) return;
    for (let ordinal = at; ordinal < at + column.length; ordinal++) {
      const number = this.column.get(ordinal);
      if (number >= 0) this.photos.set(number, ordinal);
    }
  }
}
