// What changes to saved searches do.

import { parseQuery } from '@stellin/core/search/language';
import { criterion, type Query } from '@stellin/core/query/query';
import { isLikeName, openSearches } from '@stellin/core/search/saved';
import { foldText } from '@stellin/core/text/words';
import type { SearchDefinition } from '@stellin/contract/search';
import { countText } from '@stellin/contract/wording';
import { StellinError } from '../errors';
import type { Database, Transaction } from '../database/database';
import type { ChangeContext, ChangeHandlers } from '../ledger/service';
import { asked, type Search } from './service';
import * as store from './store';
import { recordObject } from '../ledger/recordStore';

type SearchChanges = Pick<ChangeHandlers, 'saveSearch' | 'changeSearch' | 'removeSearch' | 'importSearches'>;

/** `givesRights`: whether what a saved search finds is what somebody may see. `scopeOf`: what the searches of a project are asked within. */
export function searchChanges(
  database: Database,
  search: Search,
  scopeOf: (dossierId: number, tx: Transaction) => Promise<string | undefined>,
  givesRights: (searchId: number, tx: Transaction) => Promise<boolean>,
): SearchChanges {
  // One closure for what its functions share; each of them fits a screen.
  /** Who changes what others may see administers. */
  const requireFreeOfRights = async ({ id, name }: store.SavedSearchRow, { person, tx }: ChangeContext) => {
    if (!person.everywhere.includes('administer') && (await givesRights(id, tx)))
      throw new StellinError('searchGivesRights', { name });
  };

  return {
    async saveSearch({ kind: _, dossierId, ...definition }, { tx, entryId, accountId }) {
      const all = await store.listSearches(database, tx);
      requireFreeName(definition.name, all);
      const within = dossierId === null ? { dossier_id: null } : await inProject(dossierId, tx);
      await keep(entryId, null, { ...definition, ...within }, accountId, all, tx);
      return () => `Save the search “${definition.name}”`;
    },

    async changeSearch({ kind: _, searchId, dossierId, ...changes }, context) {
      const { tx, entryId } = context;
      const all = await store.listSearches(database, tx);
      const before = requireSearch(searchId, all);
      const given = Object.fromEntries(Object.entries(changes).filter(([, value]) => value !== undefined));
      // What is asked within a project stays within it.
      const stays = before.dossier_id === null ? {} : { scope: before.scope };
      const left = dossierId === null ? { dossier_id: null } : stays;
      const moved = typeof dossierId === 'number' ? await inProject(dossierId, tx) : left;
      const after = { ...before, ...given, ...moved };
      if (asked(after) !== asked(before)) await requireFreeOfRights(before, context);
      const renamed = after.name !== before.name;
      if (renamed)
        requireFreeName(
          after.name,
          all.filter(({ id }) => id !== searchId),
        );
      requireOpen(after, all);
      await recordObject<store.SavedSearchRow>(database, entryId, 'saved_search', before, after, tx);
      // What names it follows.
      if (renamed) await search.rewrite(entryId, renaming(before.name, after.name), tx);
      return () =>
        renamed
          ? `Rename the saved search “${before.name}” to “${after.name}”`
          : `Change the saved search “${before.name}”`;
    },

    async removeSearch({ searchId }, context) {
      const { tx, entryId } = context;
      const all = await store.listSearches(database, tx);
      const before = requireSearch(searchId, all);
      const naming = all.find((other) => other.id !== searchId && names(parseQuery(asked(other)).query, before.name));
      if (naming) throw new StellinError('searchNamed', { name: before.name, by: naming.name });
      await requireFreeOfRights(before, context);
      await recordObject<store.SavedSearchRow>(database, entryId, 'saved_search', before, null, tx);
      return () => `Remove the saved search “${before.name}”`;
    },

    async importSearches({ searches }, context) {
      const { tx, entryId, accountId } = context;
      const known = await store.listSearches(database, tx);
      // Those that come may name one another.
      const together = [...searches.map((each) => ({ ...each, id: 0, created_by: null, dossier_id: null })), ...known];
      for (const definition of searches) {
        const before = known.find(({ name }) => name === definition.name) ?? null;
        if (before && sameDefinition(before, definition)) continue;
        if (before && asked(before) !== asked(definition)) await requireFreeOfRights(before, context);
        // One of a project stays in it.
        const stays =
          before && before.dossier_id !== null
            ? { scope: before.scope, dossier_id: before.dossier_id }
            : { dossier_id: null };
        await keep(entryId, before, { ...definition, ...stays }, accountId, together, tx);
      }
      return () => `Take in ${countText(searches.length, 'saved search', 'saved searches')}`;
    },
  };

  /** How a search of a project stands in it. */
  async function inProject(dossierId: number, tx: Transaction): Promise<{ scope: string; dossier_id: number }> {
    const scope = await scopeOf(dossierId, tx);
    if (scope === undefined)
      throw new StellinError('notFound', { what: 'such project (it may have been removed meanwhile)' });
    return { scope, dossier_id: dossierId };
  }

  async function keep(
    entryId: number,
    before: store.SavedSearchRow | null,
    definition: SearchDefinition & Pick<store.SavedSearchRow, 'dossier_id'>,
    accountId: number,
    all: readonly store.SavedSearchRow[],
    tx: Transaction,
  ): Promise<void> {
    const id = before?.id ?? (await store.nextSearchId(database, tx));
    const after = { ...definition, id, created_by: before ? before.created_by : accountId };
    requireOpen(after, all);
    await recordObject<store.SavedSearchRow>(database, entryId, 'saved_search', before, after, tx);
  }
}

function requireSearch(id: number, all: readonly store.SavedSearchRow[]): store.SavedSearchRow {
  const found = all.find((search) => search.id === id);
  if (!found) throw new StellinError('notFound', { what: 'such saved search (it may have been removed meanwhile)' });
  return found;
}

/** Names are compared as queries compare them. */
function requireFreeName(name: string, others: readonly store.SavedSearchRow[]): void {
  const taken = others.find((other) => foldText(other.name) === foldText(name));
  if (taken) throw new StellinError('searchExists', { name: taken.name });
}

/** Refuses a search that names one that is not there, or leads back to itself. */
function requireOpen(search: store.SavedSearchRow, all: readonly store.SavedSearchRow[]): void {
  const texts = new Map(all.map((other) => [foldText(other.name), asked(other)]));
  texts.set(foldText(search.name), asked(search));
  const { problems } = openSearches(criterion('search', search.name), (name) =>
    // What looks like a photo is looked for when it is asked.
    isLikeName(name) ? '' : texts.get(name),
  );
  const [problem] = problems;
  if (problem) throw new StellinError('searchRefused', { name: search.name, problem });
}

function names(query: Query, name: string): boolean {
  if (query.kind === 'all' || query.kind === 'any') return query.of.some((part) => names(part, name));
  if (query.kind === 'not') return names(query.of, name);
  return query.kind === 'criterion' && query.criterion === 'search' && foldText(query.value) === foldText(name);
}

/** A query that names a saved search by its new name; the same object where it does not name it. */
function renaming(before: string, after: string): (query: Query) => Query {
  const rename = (query: Query): Query => {
    if (!names(query, before)) return query;
    if (query.kind === 'all' || query.kind === 'any') return { kind: query.kind, of: query.of.map(rename) };
    return query.kind === 'not' ? { kind: 'not', of: rename(query.of) } : criterion('search', after);
  };
  return rename;
}

function sameDefinition(row: store.SavedSearchRow, definition: SearchDefinition): boolean {
  return Object.entries(definition).every(([key, value]) => row[key as keyof store.SavedSearchRow] === value);
}
