// Texts by number, folded as they are looked for, and how they were first written.

import { StringTable } from './strings';

export interface SavedTexts {
  table: string[];
  written: Map<number, string>;
}

export class WrittenTexts {
  readonly table: StringTable;
  /** How shared texts are written that are not as they are folded. */
  private readonly written = new Map<number, string>();

  /** Shared texts are kept once; of others (file names, captions) hardly any comes twice. */
  constructor(private readonly isShared: boolean) {
    this.table = new StringTable(isShared);
  }

  /** The number of a text, folded and as it is written. */
  add(folded: string, text: string): number {
    const number = this.table.add(folded);
    if (this.isShared && folded !== text && !this.written.has(number)) this.written.set(number, text);
    return number;
  }

  /** A text by its number, as it was first written. */
  shown(number: number): string {
    return this.written.get(number) ?? this.table.text(number);
  }

  saved(): SavedTexts {
    return { table: this.table.saved(), written: new Map(this.written) };
  }

  /** Adds texts that were saved; returns what their numbers become here, undefined where all keep theirs. */
  append({ table, written }: SavedTexts): ((number: number) => number) | undefined {
    const numbers = this.table.append(table);
    const renumbered = (number: number) => numbers?.[number] ?? number;
    for (const [number, text] of written)
      if (!this.written.has(renumbered(number))) this.written.set(renumbered(number), text);
    return numbers && renumbered;
  }
}
