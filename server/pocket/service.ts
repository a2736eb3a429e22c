// The pocket of each person: photos put aside across searches.

import { photosQueryText } from '@stellin/core/search/saved';
import { MAX_POCKETED } from '@stellin/contract/pocket';
import type { Selection } from '@stellin/contract/photos';
import type { Person } from '../catalogue/viewer';
import type { Database } from '../database/database';
import { StellinError } from '../errors';
import type { Search } from '../search/service';
import * as store from './store';

export type Pocket = ReturnType<typeof pocketService>;

export function pocketService(database: Database, search: Search) {
  /** Of some photos those that exist for somebody, in the order given. */
  const seen = async (person: Person, ids: readonly number[]): Promise<number[]> => {
    if (ids.length === 0) return [];
    const selection = { query: null, minus: [], plus: [...ids] };
    const there = new Set(await search.seenBy(person).ofSelection(selection, 'taken', ids.length));
    return ids.filter((id) => there.has(id));
  };
  return {
    async show(person: Person): Promise<{ ids: number[]; query: string }> {
      const ids = await seen(person, await store.pocketOf(database, person.accountId));
      return { ids, query: ids.length === 0 ? '' : photosQueryText(ids) };
    },

    /** Puts photos in, or takes them out. Refused where more would be in it than it holds. */
    async change(person: Person, selection: Selection, way: 'in' | 'out'): Promise<void> {
      const ids = await search.seenBy(person).ofSelection(selection, 'taken', MAX_POCKETED + 1);
      const known = await store.pocketOf(database, person.accountId);
      const after = new Set([...known, ...ids]).size;
      if (way === 'in' && after > MAX_POCKETED)
        throw new StellinError('badRequest', {
          problem: `a pocket holds ${MAX_POCKETED} photos at most; put them into a dossier`,
        });
      await (way === 'in' ? store.putIn : store.takeOut)(database, person.accountId, ids);
    },

    empty: (person: Person): Promise<void> => store.empty(database, person.accountId),
  };
}
