// What the rows of a table say of some photos, put together photo by photo: for the preview and for the change alike.

import type { FieldEdit } from '@stellin/core/describing/editing';
import { rowSays, type Reading } from '@stellin/core/incomingTables/cells';
import type { WordReader } from '@stellin/core/incomingTables/terms';
import type { ColumnUse } from '@stellin/core/incomingTables/uses';
import type { Given, Has } from '../describing/service';
import type { RowFound } from './store';

export interface PhotoSays extends Given {
  edits: FieldEdit[];
}

interface About {
  uses: readonly ColumnUse[];
  reading: Reading;
  words: WordReader;
}

/** What rows say of their photos. Of several rows about one photo each adds to what the one before it has said. `has`: what the photos have now. */
export function photosSay(
  rows: readonly (RowFound & { photoId: number })[],
  has: readonly Has[],
  { uses, reading, words }: About,
): Map<number, PhotoSays> {
  const says = new Map<number, PhotoSays>();
  const now = new Map(
    has.map(({ id, termIds, keywords }) => [id, { terms: new Set(termIds), keywords: new Set(keywords) }]),
  );
  for (const { photoId, cells } of rows) {
    const held = now.get(photoId);
    if (!held) continue;
    const said = rowSays(cells, uses, reading);
    const known = says.get(photoId) ?? emptySays(photoId);
    known.edits.push(...said.edits);
    known.rating = said.rating ?? known.rating;
    known.mark = said.mark ?? known.mark;
    for (const { mode, words: written } of said.terms) {
      const meant = written.map((word) => ({ word, meant: words.meant(word) }));
      const termIds = meant.flatMap((each) => (typeof each.meant === 'object' ? [each.meant.termId] : []));
      const keywords = meant.flatMap((each) => (each.meant === 'keep' ? [each.word] : []));
      if (mode === 'fill' && held.terms.size + held.keywords.size > 0) continue;
      if (mode === 'replace') {
        keepOnly(held.terms, termIds);
        keepOnly(held.keywords, keywords);
      }
      for (const id of termIds)
        if (mode === 'remove') held.terms.delete(id);
        else held.terms.add(id);
      for (const word of keywords)
        if (mode === 'remove') held.keywords.delete(word);
        else held.keywords.add(word);
    }
    says.set(photoId, known);
  }
  for (const { id, termIds, keywords } of has) {
    const [said, held] = [says.get(id), now.get(id)];
    if (!said || !held) continue;
    said.terms = difference(termIds, held.terms);
    said.keywords = difference(keywords, held.keywords);
  }
  return says;
}

function emptySays(photoId: number): PhotoSays {
  return {
    ...{ photoId, edits: [], rating: undefined, mark: undefined },
    ...{ terms: { given: [], taken: [] }, keywords: { given: [], taken: [] } },
  };
}

function keepOnly<Each>(set: Set<Each>, wanted: readonly Each[]): void {
  for (const each of set) if (!wanted.includes(each)) set.delete(each);
}

function difference<Each>(before: readonly Each[], after: ReadonlySet<Each>): { given: Each[]; taken: Each[] } {
  const had = new Set(before);
  return { given: [...after].filter((each) => !had.has(each)), taken: before.filter((each) => !after.has(each)) };
}
