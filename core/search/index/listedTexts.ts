// Texts of which a photo may have several: for each criterion which texts there are, and a list of them for each photo.

import type { TextId } from '../../query/criteria';
import { foldText } from '../../text/words';
import { ListColumn, type Part, type SavedLists } from './columns';
import type { PhotoSet } from './photoSet';
import { WrittenTexts, type SavedTexts } from './writtenTexts';

/** Flash is asked for as a choice, and kept as the texts yes and no. */
export type ListedId = TextId | 'flash';

interface SavedList {
  column: SavedLists;
  texts: SavedTexts;
}

/** The texts of one criterion, folded, and the numbers of those that each photo has, each once. */
export class TextList implements Part<SavedList> {
  readonly column = new ListColumn();
  readonly texts = new WrittenTexts(true);

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

  /** Finds the photos that have a text that meets a folded pattern, into an empty set. */
  matching(pattern: string, found: PhotoSet): PhotoSet {
    if (pattern === '*') return this.column.havingAny(found);
    return this.column.having(this.texts.table.matching(pattern), found);
  }

  /** The same with a text that meets a test of folded texts. */
  meeting(meets: (text: string) => boolean, found: PhotoSet): PhotoSet {
    return this.column.having(this.texts.table.meeting(meets), found);
  }

  saved(size: number): SavedList {
    return { column: this.column.saved(size), texts: this.texts.saved() };
  }

  append({ column, texts }: SavedList, at: number): void {
    const renumbered = this.texts.append(texts);
    this.column.append(renumbered ? { ...column, values: column.values.map(renumbered) } : column, at);
  }

  private numberOf(text: string): number {
    return this.texts.add(foldText(text), text);
  }
}

const NONE: readonly string[] = [];
const NO_NUMBERS: readonly number[] = [];

type SavedListed = [id: ListedId, list: SavedList][];

/** All of them by criterion; those of which no photo has any have no list. */
export class ListedTexts implements Part<SavedListed> {
  private readonly lists = new Map<ListedId, TextList>();

  /** Criteria that are held elsewhere are passed over. */
  constructor(private readonly isElsewhere: (id: string) => boolean) {}

  /** Sets all that a photo has, but for what it has one of at most. */
  set(ordinal: number, texts: Partial<Record<ListedId, readonly string[]>>): void {
    for (const id in texts)
      if (!this.isElsewhere(id)) this.of(id as ListedId).set(ordinal, texts[id as ListedId] ?? NONE);
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
