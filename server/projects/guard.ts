// What keeps projects whole: a closed one does not change, and what a project stands on is not taken from under it. Looked at for
// every change, once it is recorded and before it takes effect; for those that take back, too.

import type { BeforeEffect } from '../ledger/service';
import type { Database } from '../database/database';
import { StellinError } from '../errors';
import * as store from './store';

/** Changes that are about saved searches; others only let them follow what is called otherwise. */
const OF_SEARCHES: ReadonlySet<string> = new Set(['saveSearch', 'changeSearch', 'removeSearch', 'importSearches']);

/** What projects stand on. */
const STANDING = ['dossier', 'field_set', 'template', 'quality_rule'];

export function projectGuard(database: Database): BeforeEffect {
  return async ({ entryId, kind, aspects, objects }, tx) => {
    const isOfProjects = aspects.has('dossier') || aspects.has('fields') || objects.size > 0;
    if (isOfProjects && (await store.isAnyClosed(database, tx))) {
      const name = await store.closedTouched(database, { entryId, searches: OF_SEARCHES.has(kind) }, tx);
      if (name !== undefined) throw new StellinError('projectClosed', { name });
    }
    if (STANDING.some((each) => objects.has(each))) {
      const standing = await store.standsOn(database, entryId, tx);
      if (standing)
        throw new StellinError(standing.what === 'dossier' ? 'projectDossier' : 'projectUses', { name: standing.name });
    }
  };
}
