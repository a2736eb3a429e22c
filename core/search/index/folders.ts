// The folders that photos are in, by id and in the order of their texts.

import { folderText } from '../photo';
import type { FolderFacts } from './records';
import { compareTexts } from './strings';

export class Folders {
  private readonly facts = new Map<number, FolderFacts>();
  /** Drive and path of each. */
  private readonly texts = new Map<number, string>();
  private order: { ids: number[]; texts: string[] } | undefined;

  set(folder: FolderFacts): void {
    this.facts.set(folder.id, folder);
    this.texts.set(folder.id, folderText(folder.drive, folder.path));
    this.order = undefined;
  }

  get(id: number): FolderFacts | undefined {
    return this.facts.get(id);
  }

  /** Its drive and path; empty for one that is not there. */
  textOf(id: number): string {
    return this.texts.get(id) ?? '';
  }

  all(): Iterable<FolderFacts> {
    return this.facts.values();
  }

  /** Ids are below it. */
  get end(): number {
    let end = 0;
    for (const id of this.facts.keys()) if (id >= end) end = id + 1;
    return end;
  }

  /** The ids in the order of drive and path. */
  ordered(): readonly number[] {
    return this.sorted().ids;
  }

  /** The ids of a folder by drive and path, and of all within it if they are wanted. */
  named(text: string, withinToo: boolean): number[] {
    const { ids } = this.sorted();
    const itself = ids.slice(this.placeOf(text), this.placeOf(`${text}\u0000`));
    // What lies within it begins with it and a slash; a zero comes right behind the slash.
    return withinToo ? [...itself, ...ids.slice(this.placeOf(`${text}/`), this.placeOf(`${text}0`))] : itself;
  }

  /** The place of the first text that is not before one. */
  private placeOf(text: string): number {
    const { texts } = this.sorted();
    let [low, high] = [0, texts.length];
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((texts[middle] ?? '') < text) low = middle + 1;
      else high = middle;
    }
    return low;
  }

  private sorted(): { ids: number[]; texts: string[] } {
    if (!this.order) {
      const entries = [...this.texts].sort(([, a], [, b]) => compareTexts(a, b));
      this.order = { ids: entries.map(([id]) => id), texts: entries.map(([, text]) => text) };
    }
    return this.order;
  }
}
