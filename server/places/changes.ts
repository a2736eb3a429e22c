// What changes to own places do.

import { placingProblem, type OwnPlaces } from '@stellin/core/timeplace/ownPlaces';
import { plainName } from '@stellin/core/timeplace/placeNames';
import { countText } from '@stellin/contract/wording';
import type { Database, Transaction } from '../database/database';
import { StellinError } from '../errors';
import { recordObject } from '../ledger/recordStore';
import type { ChangeHandlers } from '../ledger/service';
import { ownPlacesOf } from './ownPlaces';
import * as store from './store';

type PlaceChanges = Pick<ChangeHandlers, 'saveOwnPlace' | 'mergeOwnPlaces' | 'removeOwnPlace'>;

export function placeChanges(database: Database): PlaceChanges {
  const record = (entryId: number, before: store.OwnPlaceRecord | null, after: Written | null, tx: Transaction) =>
    recordObject<store.OwnPlaceRecord>(database, entryId, 'own_place', before, after, tx);

  return {
    async saveOwnPlace({ kind: _, placeId, placeKind: kind, ...given }, { tx, entryId, accountId }) {
      const rows = await store.listOwnPlaces(database, tx);
      const own = ownPlacesOf(rows);
      const before = placeId === null ? null : requirePlace(rows, placeId);
      const { parentId, name, otherNames, countryCode, note, point, metres, corners } = given;
      if (parentId !== null) requirePlace(rows, parentId);
      const refused = (why: string) => new StellinError('placeRefused', { name, why });
      if (placeId !== null && parentId !== null && own.path(parentId).some(({ id }) => id === placeId))
        throw refused('it would lie in itself');
      const problem = placingProblem(kind, own.get(parentId ?? 0) ?? null) ?? belowProblem(own, placeId, kind);
      if (problem) throw refused(problem);
      const name_folded = plainName(name);
      requireFreeName(rows, { id: placeId, parent_id: parentId, name, name_folded });
      const after = {
        ...{ parent_id: parentId, kind, name, name_folded, other_names: otherNames, country_code: countryCode, note },
        ...{ latitude: point?.latitude ?? null, longitude: point?.longitude ?? null, metres, corners },
        created_by: before ? before.created_by : accountId,
      };
      await record(entryId, before, after, tx);
      return () =>
        !before
          ? `Add the place “${name}”`
          : before.name === name
            ? `Change the place “${name}”`
            : `Rename the place “${before.name}” to “${name}”`;
    },

    async mergeOwnPlaces({ placeId, intoId }, { tx, entryId }) {
      const rows = await store.listOwnPlaces(database, tx);
      const own = ownPlacesOf(rows);
      const [from, into] = [requirePlace(rows, placeId), requirePlace(rows, intoId)];
      const refused = (why: string) => new StellinError('placeRefused', { name: from.name, why });
      if (own.path(intoId).some(({ id }) => id === placeId)) throw refused('the other one lies in it');
      const target = own.get(intoId) ?? null;
      for (const child of rows.filter(({ parent_id }) => parent_id === placeId)) {
        const problem = placingProblem(child.kind, target);
        if (problem) throw refused(problem);
        requireFreeName(rows, { ...child, parent_id: intoId });
        await record(entryId, child, { ...child, parent_id: intoId }, tx);
      }
      const known = new Set([into.name_folded, ...into.other_names.map(({ name }) => plainName(name))]);
      const added = [{ name: from.name, from: '', until: '' }, ...from.other_names].filter(
        ({ name }) => !known.has(plainName(name)),
      );
      await record(entryId, into, { ...into, other_names: [...into.other_names, ...added] }, tx);
      await record(entryId, from, null, tx);
      return () => `Merge the place “${from.name}” into “${into.name}”`;
    },

    async removeOwnPlace({ placeId }, { tx, entryId }) {
      const rows = await store.listOwnPlaces(database, tx);
      const place = requirePlace(rows, placeId);
      const gone = ownPlacesOf(rows).below(placeId);
      // The lowest first: each goes before what it lies in.
      for (const { id } of gone.reverse()) await record(entryId, requirePlace(rows, id), null, tx);
      const within = gone.length - 1;
      return () =>
        `Remove the place “${place.name}”${within > 0 ? ` with ${countText(within, 'place')} in it` : ''}; photos keep what they say`;
    },
  };
}

type Written = Omit<store.OwnPlaceRecord, 'id'> & { id?: number };

function requirePlace(rows: readonly store.OwnPlaceRecord[], id: number): store.OwnPlaceRecord {
  const found = rows.find((row) => row.id === id);
  if (!found) throw new StellinError('notFound', { what: 'such place (it may have been removed meanwhile)' });
  return found;
}

/** Why what lies in a place could not stay there if it were of another kind. */
function belowProblem(own: OwnPlaces, id: number | null, kind: store.OwnPlaceRecord['kind']): string | undefined {
  const place = id === null ? undefined : own.get(id);
  if (!place) return undefined;
  for (const child of own.within(place.id)) {
    const problem = placingProblem(child.kind, { ...place, kind });
    if (problem) return `“${child.name}” lies in it, and ${problem}`;
  }
  return undefined;
}

/** Two places that lie in the same one can't have one name. */
function requireFreeName(
  rows: readonly store.OwnPlaceRecord[],
  {
    id,
    parent_id,
    name,
    name_folded,
  }: { id: number | null } & Pick<store.OwnPlaceRecord, 'parent_id' | 'name' | 'name_folded'>,
): void {
  if (rows.some((row) => row.id !== id && row.parent_id === parent_id && row.name_folded === name_folded))
    throw new StellinError('placeRefused', { name, why: 'there is one of this name already' });
}
