// Dossiers: hand-picked, ordered, nested sets of references to photos.

import { DossierNames } from '@stellin/core/dossiers/naming';
import { queryText } from '@stellin/core/search/language';
import { criterion } from '@stellin/core/query/query';
import type { Dossier } from '@stellin/contract/dossiers';
import { seesOnlyParts, type Viewer } from '../catalogue/viewer';
import type { Database } from '../database/database';
import { StellinError } from '../errors';
import type { Search } from '../search/service';
import * as store from './store';

export type Dossiers = ReturnType<typeof dossierService>;

export function dossierService(database: Database, search: Search) {
  return {
    /** All dossiers, each before those below it, with what their queries find. */
    async list(viewer: Viewer): Promise<Dossier[]> {
      const [rows, covers, pinned] = await Promise.all([
        store.listDossiers(database),
        store.listCovers(database, viewer),
        viewer.accountId === null ? undefined : store.pinnedOf(database, viewer.accountId),
      ]);
      const names = namesOf(rows);
      const coverOf = new Map(covers.map(({ id, ...cover }) => [id, cover]));
      const ordered = preOrder(rows, null);
      const queries = ordered.map(({ id }) => queryText(criterion('dossier', names.nameOf(id))));
      const counts = await search.seenBy(viewer).counts(queries);
      const dossiers = ordered.map(({ id, parent_id, name, note, colour }, i) => ({
        id,
        parentId: parent_id,
        name,
        path: names
          .path(id)
          .map((above) => above.name)
          .join('/'),
        query: queries[i] ?? '',
        note,
        colour,
        cover: coverOf.get(id) ?? null,
        photos: counts[i] ?? 0,
        pinned: id === pinned,
      }));
      if (viewer.sight === null) return dossiers;
      // What holds nothing but photos that do not exist for somebody does not either; what is given to them does, while it is empty too.
      const given = names.within(
        new Set(viewer.sight.map(({ scope }) => (scope.kind === 'dossier' ? scope.dossierId : 0))),
      );
      const all = seesOnlyParts(viewer) ? undefined : await search.all.counts(queries);
      const isThere = ({ id, photos }: Dossier, i: number) => photos > 0 || given.has(id) || all?.[i] === 0;
      const exists = new Set(dossiers.filter(isThere).flatMap(({ id }) => names.path(id).map((above) => above.id)));
      return dossiers.filter(({ id }) => exists.has(id));
    },

    /** The dossiers that a photo is in. */
    async ofPhoto(photoId: number): Promise<{ id: number; path: string; query: string }[]> {
      const ids = await store.dossiersOf(database, photoId);
      if (ids.length === 0) return [];
      const names = namesOf(await store.listDossiers(database));
      return ids.map((id) => ({
        id,
        path: names
          .path(id)
          .map(({ name }) => name)
          .join(' › '),
        query: queryText(criterion('dossier', names.nameOf(id))),
      }));
    },

    /** Chooses the dossier of somebody's single key. */
    async pin(accountId: number, dossierId: number | null): Promise<void> {
      const rows = await store.listDossiers(database);
      if (dossierId !== null && !rows.some(({ id }) => id === dossierId))
        throw new StellinError('notFound', { what: 'such dossier (it may have been removed meanwhile)' });
      await store.pin(database, accountId, dossierId);
      await database.notify(['dossiers']);
    },
  };
}

export function namesOf(rows: readonly store.DossierRow[]): DossierNames {
  return new DossierNames(rows.map(({ id, parent_id, name }) => ({ id, parentId: parent_id, name })));
}

function preOrder(rows: readonly store.DossierRow[], parentId: number | null): store.DossierRow[] {
  return rows.filter((row) => row.parent_id === parentId).flatMap((row) => [row, ...preOrder(rows, row.id)]);
}
