import { parseQuery } from '@stellin/core/search/language';
import { compareLabels } from '@stellin/core/vocabulary/tree';
import type { Photo, PhotoDetails, Selection, Sort } from '@stellin/contract/photos';
import { countText } from '@stellin/contract/wording';
import type { Database } from '../database/database';
import { StellinError } from '../errors';
import type { ChangeHandlers } from '../ledger/service';
import type { Search } from '../search/service';
import type { Vocabulary } from '../vocabulary/service';
import * as store from './store';

export type Photos = ReturnType<typeof photoService>;

export function photoService(database: Database, search: Search, vocabulary: Vocabulary) {
  return {
    list: (page: { query: string; sort: Sort; offset: number; limit: number }): Promise<Photo[]> =>
      store.listPhotos(database, page),
    ofSelection: (selection: Selection, sort: Sort, limit: number): Promise<Photo[]> =>
      store.photosOfSelection(database, selection, sort, limit),
    position: (id: number, query: string, sort: Sort) => store.positionOf(database, id, query, sort),
    groups: (query: string, sort: Sort) => store.groupsOf(database, query, sort),

    /** What a selection means, with its terms by name in the order of their paths. */
    async describe(selection: Selection) {
      const described = await store.describeSelection(database, selection);
      const names = await vocabulary.names(described.terms.map(({ termId }) => termId));
      const terms = described.terms.map(({ termId, photos }, i) => ({ ...(names[i] ?? { id: termId, label: '', path: [] }), photos })); // prettier-ignore
      return { ...described, terms: terms.sort((a, b) => compareLabels(pathText(a), pathText(b))) };
    },

    /** The number of photos a query finds, the time it took, and what of its text was not understood. */
    async count(text: string) {
      const started = performance.now();
      const count = await search.count(text);
      const folded = await search.countFolded(text);
      return { count, folded, milliseconds: Math.round(performance.now() - started), errors: parseQuery(text).errors };
    },

    async find(id: number): Promise<PhotoDetails> {
      const photo = await store.findPhoto(database, id);
      if (!photo) throw new StellinError('notFound', { what: 'such photo' });
      return photo;
    },
  };
}

function pathText({ path, label }: { path: readonly string[]; label: string }): string {
  return [...path, label].join('\u0000');
}

const RATING_TEXTS: Record<number, string> = { [-1]: 'Reject', 0: 'Take the rating off' };

export function photoChanges(database: Database): Pick<ChangeHandlers, 'setRating'> {
  return {
    async setRating({ selection, rating }, { tx, entryId }) {
      await store.recordRating(database, entryId, selection, rating, tx);
      return (photos) => `${RATING_TEXTS[rating] ?? `Rate ${rating}:`} ${countText(photos, 'photo')}`;
    },
  };
}
