// Dossiers: hand-picked, ordered, nested sets of references to photos.

import { DossierNames } from '@stellin/core/dossiers/naming';
import { queryText } from '@stellin/core/search/language';
import { criterion } from '@stellin/core/query/query';
import { foldText } from '@stellin/core/text/words';
import type { Dossier } from '@stellin/contract/dossiers';
import { seesOnlyParts, type Viewer } from '../catalogue/viewer';
import type { Database, Transaction } from '../database/database';
import { StellinError } from '../errors';
import { recordObject } from '../ledger/recordStore';
import type { Search } from '../search/service';
import * as store from './store';

export type Dossiers = ReturnType<typeof dossierService>;

interface NewDossier extends Pick<store.DossierRow, 'name' | 'note' | 'colour'> {
  parentId: number | null;
  accountId: number;
}

export function dossierService(database: Database, search: Search) {
  // One closure for what its functions share; each of them fits a screen.
  /** A dossier by its number, as the ledger keeps it. */
  const find = async (id: number, tx: Transaction): Promise<store.DossierRow | undefined> =>
    (await store.listDossiers(database, tx)).find((row) => row.id === id);

  return {
    find,

    /** All below a dossier, each before those below it. */
    below: async (id: number, tx: Transaction): Promise<store.DossierRow[]> =>
      preOrder(await store.listDossiers(database, tx), id),

    /** The shortest text that names just this dossier in a query. */
    nameOf: async (id: number, tx: Transaction): Promise<string> =>
      namesOf(await store.listDossiers(database, tx)).nameOf(id),

    /** Records that a dossier is made, the last of those where it lies. Returns its number, and the query that will find its photos. */
    async recordNew(
      entryId: number,
      { name, note, colour, parentId, accountId }: NewDossier,
      tx: Transaction,
    ): Promise<{ id: number; query: string }> {
      const rows = await store.listDossiers(database, tx);
      const siblings = rows.filter(({ parent_id }) => parent_id === parentId);
      if (siblings.some((row) => row.name === name)) throw new StellinError('dossierExists', { name });
      const made = {
        id: await store.nextId(database, tx),
        parent_id: parentId,
        name,
        name_folded: foldText(name),
        note,
        colour,
        cover_photo: null,
        position: Math.max(0, ...siblings.map(({ position }) => position)) + 1,
        created_by: accountId,
      };
      await recordObject<store.DossierRow>(database, entryId, 'dossier', null, made, tx);
      const query = queryText(criterion('dossier', namesOf([...rows, made]).nameOf(made.id)));
      return { id: made.id, query };
    },

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
