// Texts of which a photo has one at most: which there are, and the number of that of each photo.

import { foldText } from '../words';
import { ValueColumn, type Part } from './columns';
import type { PhotoSet } from './photoSet';
import { StringTable } from './strings';

interface SavedSingle {
  column: Int32Array;
  texts: string[];
  written: Map<number, string>;
}

export class SingleTexts implements Part<SavedSingle> {
  readonly column = new ValueColumn();
  /** Folded. */
  readonly texts: StringTable;
  /** How shared texts are written that are not as they are folded. */
  readonly written = new Map<number, string>();
  /** Of texts that are not shared: the photo of each, or one that had it before. */
  private readonly photos = new ValueColumn();

  /** Shared texts are kept once; of others (file names, captions) hardly any comes twice. */
  constructor(private readonly isShared: boolean) {
    this.texts = new StringTable(isShared);
  }

  set(ordinal: number, text: string): void {
    if (text === '') return this.column.set(ordinal, -1);
    const folded = foldText(text);
    // Read again as it was, it keeps its number.
    const known = this.column.get(ordinal);
    if (known >= 0 && this.texts.text(known) === folded) return;
    const number = this.texts.add(folded);
    this.column.set(ordinal, number);
    if (!this.isShared) this.photos.set(number, ordinal);
    else if (folded !== text && !this.written.has(number)) this.written.set(number, text);
  }

  /** The folded text of a photo; empty for one that has none. */
  textOf(ordinal: number): string {
    return this.texts.text(this.column.get(ordinal));
  }

  /** The length of the folded text of a photo in code units. */
  lengthOf(ordinal: number): number {
    return this.texts.lengthOf(this.column.get(ordinal));
  }

  /** A text by its number, as it was first written. */
  shown(number: number): string {
    return this.written.get(number) ?? this.texts.text(number);
  }

  /** Finds the photos whose text meets a folded pattern, into an empty set. */
  matching(pattern: string, found: PhotoSet): PhotoSet {
    if (pattern === '*') return this.column.havingAny(found);
    const numbers = this.texts.matching(pattern);
    if (this.isShared) return this.column.having(numbers, found);
    for (const number of numbers) {
      const ordinal = this.photos.get(number);
      if (this.column.get(ordinal) === number) found.add(ordinal);
    }
    return found;
  }

  saved(size: number): SavedSingle {
    return { column: this.column.saved(size), texts: this.texts.saved(), written: new Map(this.written) };
  }

  append({ column, texts, written }: SavedSingle, at: number): void {
    const numbers = this.texts.append(texts);
    const numberOf = (number: number) => numbers?.[number] ?? number;
    this.column.append(numbers ? column.map(numberOf) : column, at);
    for (const [number, text] of written)
      if (!this.written.has(numberOf(number))) this.written.set(numberOf(number), text);
    if (this.isShared) return;
    for (let ordinal = at; ordinal < at + column.length; ordinal++) {
      const number = this.column.get(ordinal);
      if (number >= 0) this.photos.set(number, ordinal);
    }
  }
}
