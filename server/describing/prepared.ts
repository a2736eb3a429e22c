// What is prepared for describing, as other subjects build on it: that it is there, and a field set made along with something.

import { freeName } from '@stellin/core/text/freeName';
import { MAX_PREPARED_NAME } from '@stellin/contract/describing';
import type { Database, Transaction } from '../database/database';
import { StellinError } from '../errors';
import { recordObject } from '../ledger/recordStore';
import * as store from './store';

/** What is prepared of a kind under a number; null for none. Refuses a number that is gone. */
export function requirePrepared<Row extends { id: number }>(all: readonly Row[], id: number, what: string): Row;
export function requirePrepared<Row extends { id: number }>(
  all: readonly Row[],
  id: number | null,
  what: string,
): Row | null;
export function requirePrepared<Row extends { id: number }>(
  all: readonly Row[],
  id: number | null,
  what: string,
): Row | null {
  if (id === null) return null;
  const found = all.find((row) => row.id === id);
  if (!found) throw new StellinError('notFound', { what: `such ${what} (it may have been removed meanwhile)` });
  return found;
}

/** The templates that somebody may use: everybody's and their own. */
export function usableTemplates(all: readonly store.TemplateRow[], accountId: number): store.TemplateRow[] {
  return all.filter(({ owner_id }) => owner_id === null || owner_id === accountId);
}

/** The place behind all field sets. */
export function lastPosition(sets: readonly store.FieldSetRow[]): number {
  return Math.max(0, ...sets.map(({ position }) => position)) + 1;
}

/** Records an empty field set behind all others, called as is wanted or nearly so, and gives its number. */
export async function recordFieldSet(
  database: Database,
  entryId: number,
  wanted: string,
  tx: Transaction,
): Promise<number> {
  const sets = await store.listPrepared(database, 'field_set', tx);
  const name = freeName(wanted, (taken) => sets.some((set) => set.name === taken), MAX_PREPARED_NAME);
  const made = { name, entries: [], position: lastPosition(sets) };
  return recordObject<store.FieldSetRow>(database, entryId, 'field_set', null, made, tx);
}
