// What changes to dossiers do. Photos themselves are never touched.

import { followDossiers } from '@stellin/core/dossiers/naming';
import { foldText } from '@stellin/core/text/words';
import { countText } from '@stellin/contract/wording';
import type { Database, Transaction } from '../database/database';
import { StellinError } from '../errors';
import type { ChangeContext, ChangeHandlers } from '../ledger/service';
import { ALL_PHOTOS, selectionSql } from '../catalogue/selection';
import type { Search } from '../search/service';
import { namesOf, type Dossiers } from './service';
import * as store from './store';
import { recordObject } from '../ledger/recordStore';

type DossierChanges = Pick<
  ChangeHandlers,
  | 'makeDossier'
  | 'changeDossier'
  | 'placeDossier'
  | 'copyDossier'
  | 'removeDossier'
  | 'putInDossier'
  | 'takeFromDossier'
  | 'arrangeDossier'
>;

/** `fillNew`: told of photos that an entry puts into a dossier, and where that lies if the entry makes it. */
export function dossierChanges(
  database: Database,
  search: Search,
  dossiers: Dossiers,
  fillNew: (dossierId: number, home: number, context: ChangeContext) => Promise<void>,
): DossierChanges {
  // One closure for what its functions share; each of them fits a screen.
  return {
    async makeDossier({ name, parentId, note, colour, selection }, context) {
      const { tx, entryId, accountId } = context;
      if (parentId !== null) require(await store.listDossiers(database, tx), parentId);
      const { id } = await dossiers.recordNew(entryId, { name, note, colour, parentId, accountId }, tx);
      if (selection) {
        await store.recordPut(database, entryId, id, selectionSql(selection), tx);
        if (parentId !== null) await fillNew(id, parentId, context);
      }
      return (photos) => `Make the dossier “${name}”${photos ? ` of ${countText(photos, 'photo')}` : ''}`;
    },

    async changeDossier({ kind: _, dossierId, coverPhoto, ...given }, { tx, entryId }) {
      const rows = await store.listDossiers(database, tx);
      const before = require(rows, dossierId);
      const said = Object.fromEntries(Object.entries(given).filter(([, value]) => value !== undefined));
      const after = { ...before, ...said, ...(coverPhoto === undefined ? {} : { cover_photo: coverPhoto }) };
      after.name_folded = foldText(after.name);
      if (after.name !== before.name) requireFreeName(rows, after.name, before.parent_id, dossierId);
      await become(entryId, rows, after, tx);
      return () =>
        after.name === before.name
          ? `Change the dossier “${before.name}”`
          : `Rename the dossier “${before.name}” to “${after.name}”`;
    },

    async placeDossier({ dossierId, parentId, before: beforeId }, { tx, entryId }) {
      const rows = await store.listDossiers(database, tx);
      const dossier = require(rows, dossierId);
      if (parentId !== null) {
        require(rows, parentId);
        if (
          namesOf(rows)
            .path(parentId)
            .some(({ id }) => id === dossierId)
        )
          throw new StellinError('dossierRefused', { name: dossier.name, why: 'it would lie in itself' });
      }
      requireFreeName(rows, dossier.name, parentId, dossierId);
      const siblings = rows.filter(({ id, parent_id }) => parent_id === parentId && id !== dossierId);
      const position = between(
        siblings,
        siblings.findIndex(({ id }) => id === beforeId),
      );
      await become(entryId, rows, { ...dossier, parent_id: parentId, position }, tx);
      return () => `Move the dossier “${dossier.name}”`;
    },

    async copyDossier({ dossierId, name }, { tx, entryId, accountId }) {
      const rows = await store.listDossiers(database, tx);
      const dossier = require(rows, dossierId);
      requireFreeName(rows, name, dossier.parent_id);
      const id = await store.nextId(database, tx);
      const siblings = rows.filter(({ parent_id }) => parent_id === dossier.parent_id);
      const position = between(siblings, siblings.findIndex((row) => row.id === dossierId) + 1);
      const copy = { ...dossier, id, name, name_folded: foldText(name), position, created_by: accountId };
      await recordObject<store.DossierRow>(database, entryId, 'dossier', null, copy, tx);
      await store.recordCopied(database, entryId, dossierId, id, tx);
      return () => `Copy the dossier “${dossier.name}” as “${name}”`;
    },

    async removeDossier({ dossierId }, { tx, entryId }) {
      const rows = await store.listDossiers(database, tx);
      const dossier = require(rows, dossierId);
      const names = namesOf(rows);
      const gone = rows.filter(({ id }) => names.path(id).some((above) => above.id === dossierId));
      // The lowest first: each goes before what it lies in.
      for (const row of gone.sort((a, b) => names.path(b.id).length - names.path(a.id).length)) {
        await store.recordTaken(database, entryId, row.id, ALL_PHOTOS, tx);
        await recordObject<store.DossierRow>(database, entryId, 'dossier', row, null, tx);
      }
      const below = gone.length - 1;
      return () => `Remove the dossier “${dossier.name}”${below ? ` with ${countText(below, 'dossier')} in it` : ''}`;
    },

    async putInDossier({ dossierId, selection }, context) {
      const { tx, entryId } = context;
      const { name } = require(await store.listDossiers(database, tx), dossierId);
      await store.recordPut(database, entryId, dossierId, selectionSql(selection), tx);
      await fillNew(dossierId, dossierId, context);
      return (photos) => `Put ${countText(photos, 'photo')} into “${name}”`;
    },

    async takeFromDossier({ dossierId, selection }, { tx, entryId }) {
      const { name } = require(await store.listDossiers(database, tx), dossierId);
      await store.recordTaken(database, entryId, dossierId, selectionSql(selection), tx);
      return (photos) => `Take ${countText(photos, 'photo')} out of “${name}”`;
    },

    async arrangeDossier({ dossierId, photoIds, before: beforeId }, { tx, entryId }) {
      const { name } = require(await store.listDossiers(database, tx), dossierId);
      const photos = await store.photosInOrder(database, dossierId, tx);
      const places = arranged(photos, photoIds, beforeId);
      await store.recordPlaces(database, entryId, dossierId, places, tx);
      return (moved) => `Arrange ${countText(moved, 'photo')} of “${name}”`;
    },
  };

  /** Records a dossier as it is to be; saved searches that name it, or what is in it, follow. */
  async function become(
    entryId: number,
    rows: readonly store.DossierRow[],
    after: store.DossierRow,
    tx: Transaction,
  ): Promise<void> {
    await recordObject<store.DossierRow>(database, entryId, 'dossier', require(rows, after.id), after, tx);
    const [then, now] = [namesOf(rows), namesOf(rows.map((row) => (row.id === after.id ? after : row)))];
    await search.rewrite(entryId, (query) => followDossiers(query, then, now), tx);
  }
}

function require(rows: readonly store.DossierRow[], id: number): store.DossierRow {
  const found = rows.find((row) => row.id === id);
  if (!found) throw new StellinError('notFound', { what: 'such dossier (it may have been removed meanwhile)' });
  return found;
}

function requireFreeName(
  rows: readonly store.DossierRow[],
  name: string,
  parentId: number | null,
  except?: number,
): void {
  const taken = rows.some((row) => row.parent_id === parentId && row.id !== except && row.name === name);
  if (taken) throw new StellinError('dossierExists', { name });
}

/** A position before the one at a place of an ordered list; behind all where there is no such place. */
function between(ordered: readonly { position: number }[], place: number): number {
  const next = place < 0 ? undefined : ordered[place];
  if (!next) return Math.max(0, ...ordered.map(({ position }) => position)) + 1;
  const last = ordered[place - 1]?.position ?? next.position - 1;
  return (last + next.position) / 2;
}

/**
 * The places of photos that are moved before another one, in the order given. Where the numbers between two neighbours run
 * out all are numbered anew.
 */
function arranged(
  photos: readonly { id: number; position: number }[],
  moved: readonly number[],
  beforeId: number | null,
): { id: number; before: number; after: number }[] {
  const places = new Map(photos.map(({ id, position }) => [id, position]));
  const moving = [...new Set(moved)].filter((id) => places.has(id));
  const isMoving = new Set(moving);
  const rest = photos.filter(({ id }) => !isMoving.has(id));
  const at = rest.findIndex(({ id }) => id === beforeId);
  const place = at < 0 ? rest.length : at;
  const [low, high] = [rest[place - 1]?.position, rest[place]?.position];
  const from = low ?? (high ?? 1) - moving.length - 1;
  const step = ((high ?? from + moving.length + 1) - from) / (moving.length + 1);
  const isRoom = step > Math.abs(from) * 1e-12 && step > 1e-9;
  const after = isRoom
    ? moving.map((id, i) => ({ id, after: from + step * (i + 1) }))
    : [...rest.slice(0, place).map(({ id }) => id), ...moving, ...rest.slice(place).map(({ id }) => id)].map(
        (id, i) => ({ id, after: i + 1 }),
      );
  return after
    .map(({ id, after: position }) => ({ id, before: places.get(id) ?? 0, after: position }))
    .filter(({ before, after: position }) => before !== position);
}
