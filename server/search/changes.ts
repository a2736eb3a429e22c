// What changes to saved searches do.

import { StellinError } from '../errors';
import type { Database, Transaction } from '../database/database';
import type { ChangeHandlers } from '../ledger/service';
import * as store from './store';

export function searchChanges(
  database: Database,
): Pick<ChangeHandlers, 'saveSearch' | 'changeSearch' | 'removeSearch'> {
  return {
    async saveSearch({ name, query, sort, note }, { tx, entryId, accountId }) {
      await requireFreeName(name, tx);
      const id = await store.nextSearchId(database, tx);
      await store.recordSearch(database, entryId, null, { id, name, query, sort, note, created_by: accountId }, tx);
      return () => `Save the search “${name}”`;
    },

    async changeSearch({ searchId, ...changes }, { tx, entryId }) {
      const before = await requireSearch(searchId, tx);
      const given = Object.fromEntries(
        Object.entries(changes).filter(([key, value]) => key !== 'kind' && value !== undefined),
      );
      const after = { ...before, ...given };
      if (after.name !== before.name) await requireFreeName(after.name, tx);
      await store.recordSearch(database, entryId, before, after, tx);
      return () =>
        after.name === before.name
          ? `Change the saved search “${before.name}”`
          : `Rename the saved search “${before.name}” to “${after.name}”`;
    },

    async removeSearch({ searchId }, { tx, entryId }) {
      const before = await requireSearch(searchId, tx);
      await store.recordSearch(database, entryId, before, null, tx);
      return () => `Remove the saved search “${before.name}”`;
    },
  };

  async function requireSearch(id: number, tx: Transaction): Promise<store.SavedSearchRow> {
    const search = await store.findSearch(database, id, tx);
    if (!search) throw new StellinError('notFound', { what: 'such saved search (it may have been removed meanwhile)' });
    return search;
  }

  async function requireFreeName(name: string, tx: Transaction): Promise<void> {
    if (await store.findSearchByName(database, name, tx)) throw new StellinError('searchExists', { name });
  }
}
