// What changes to own places do.

import type { FieldEdit } from '@stellin/core/describing/editing';
import type { FieldId, FieldValues } from '@stellin/core/metadata/fields';
import { textsOf } from '@stellin/core/metadata/values';
import { criterion } from '@stellin/core/query/query';
import { queryText } from '@stellin/core/search/language';
import {
  PLACE_FIELDS,
  placingProblem,
  type OwnPlace,
  type OwnPlaces,
  type PlaceKind,
  type PlaceNamesSaid,
} from '@stellin/core/timeplace/ownPlaces';
import { plainName } from '@stellin/core/timeplace/placeNames';
import { countText } from '@stellin/contract/wording';
import { selectionSql } from '../catalogue/selection';
import type { Database, Transaction } from '../database/database';
import { StellinError } from '../errors';
import { objectRows, recordObject, recordObjects } from '../ledger/recordStore';
import type { ChangeContext, ChangeHandlers } from '../ledger/service';
import { ownPlacesOf, placeOf } from './ownPlaces';
import type { PageRow, RecordEach } from './recordEach';
import * as store from './store';

type PlaceChanges = Pick<ChangeHandlers, 'saveOwnPlace' | 'mergeOwnPlaces' | 'removeOwnPlace' | 'importOwnPlaces'>;

interface PlaceParts {
  database: Database;
  recordEach: RecordEach;
}

export function placeChanges({ database, recordEach }: PlaceParts): PlaceChanges {
  // One closure for what its functions share; each of them fits a screen.
  /** Photos that say what a place was called say what it, or the one it was merged into, is called. */
  const rewrite = async (
    place: store.OwnPlaceRecord,
    was: PlaceNamesSaid,
    is: PlaceNamesSaid,
    context: ChangeContext,
  ) => {
    if (!context.person.everywhere.includes('describe'))
      throw new StellinError('placeRefused', { name: place.name, why: 'you may not describe all photos that say it' });
    const query = queryText(criterion(PLACE_FIELDS[place.kind], place.name));
    const edits = (page: readonly PageRow[]) =>
      Promise.resolve(
        new Map(
          page.map(({ id, fields }) => [id, renamedEdits(JSON.parse(fields) as FieldValues, place.kind, was, is)]),
        ),
      );
    await recordEach(selectionSql({ query, minus: [], plus: [] }), edits, context);
  };

  const record = (entryId: number, before: store.OwnPlaceRecord | null, after: Written | null, tx: Transaction) =>
    recordObject<store.OwnPlaceRecord>(database, entryId, 'own_place', before, after, tx);

  return {
    async saveOwnPlace({ kind: _, placeId, placeKind: kind, rewrite: isRewritten, ...given }, context) {
      const { tx, entryId, accountId } = context;
      const rows = await store.listOwnPlaces(database, tx);
      const own = ownPlacesOf(rows);
      const before = placeId === null ? null : requirePlace(rows, placeId);
      const { parentId, name } = given;
      if (parentId !== null) requirePlace(rows, parentId);
      const refused = (why: string) => new StellinError('placeRefused', { name, why });
      if (placeId !== null && parentId !== null && own.path(parentId).some(({ id }) => id === placeId))
        throw refused('it would lie in itself');
      const problem = placingProblem(kind, own.get(parentId ?? 0) ?? null) ?? belowProblem(own, placeId, kind);
      if (problem) throw refused(problem);
      requireFreeName(rows, { id: placeId, parent_id: parentId, name, name_folded: plainName(name) });
      const after = rowOf({ kind, ...given }, parentId, before ? before.created_by : accountId);
      await record(entryId, before, after, tx);
      if (before && isRewritten) {
        const now = ownPlacesOf(rows.map((row) => (row.id === before.id ? { ...after, id: row.id } : row)));
        await rewrite(before, own.said(before.id), now.said(before.id), context);
      }
      return (photos) =>
        !before
          ? `Add the place “${name}”`
          : before.name === name
            ? `Change the place “${name}”${inPhotos(photos)}`
            : `Rename the place “${before.name}” to “${name}”${inPhotos(photos)}`;
    },

    async mergeOwnPlaces({ placeId, intoId, rewrite: isRewritten }, context) {
      const { tx, entryId } = context;
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
      await record(
        entryId,
        into,
        {
          ...into,
          other_names: [...into.other_names, ...added],
          geonames_id: into.geonames_id ?? from.geonames_id,
          term_id: into.term_id ?? from.term_id,
        },
        tx,
      );
      await record(entryId, from, null, tx);
      if (isRewritten) await rewrite(from, own.said(placeId), own.said(intoId), context);
      return (photos) => `Merge the place “${from.name}” into “${into.name}”${inPhotos(photos)}`;
    },

    async importOwnPlaces({ places }, { tx, entryId, accountId }) {
      const rows = await store.listOwnPlaces(database, tx);
      const keyOf = (parentId: number | null, folded: string) => `${parentId} ${folded}`;
      const known = new Map(rows.map((row) => [keyOf(row.parent_id, row.name_folded), row]));
      const fresh = await store.nextPlaceIds(database, places.length, tx);
      const taken: store.OwnPlaceRecord[] = [];
      const changed: ObjectChange<store.OwnPlaceRecord>[] = [];
      for (const { parent, ...given } of places) {
        const wider = parent === null ? null : (taken[parent] ?? null);
        const key = keyOf(wider?.id ?? null, plainName(given.name));
        const before = known.get(key) ?? null;
        const problem = before ? undefined : placingProblem(given.kind, wider && placeOf(wider));
        if (problem) throw new StellinError('placeRefused', { name: given.name, why: problem });
        const after = before
          ? completed(before, given)
          : { id: fresh.shift() ?? 0, ...rowOf(given, wider?.id ?? null, accountId) };
        known.set(key, after);
        taken.push(after);
        if (after !== before) changed.push({ id: after.id, before, after });
      }
      // One that stands twice in the file is recorded once, as it is in the end.
      const firsts = new Map([...changed].reverse().map((change) => [change.id, change.before]));
      const lasts = new Map(changed.map((change) => [change.id, change.after]));
      const recorded = [...lasts].map(([id, after]) => ({ id, before: firsts.get(id) ?? null, after }));
      await recordObjects(database, entryId, 'own_place', objectRows(recorded), tx);
      const added = recorded.filter(({ before }) => before === null).length;
      return () => `Take in places: ${countText(added, 'new place')} of ${places.length}`;
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

function inPhotos(photos: number): string {
  return photos > 0 ? `, in ${countText(photos, 'photo')} too` : '';
}

/** What makes a photo that says a place say what it is called now; none for one that says another place of that name. */
function renamedEdits(fields: FieldValues, kind: PlaceKind, was: PlaceNamesSaid, is: PlaceNamesSaid): FieldEdit[] {
  const says = (field: FieldId) => plainName(textsOf(fields[field])[0] ?? '');
  const names = Object.entries(was) as [FieldId, string][];
  const isMeant = names.every(([field, name]) => {
    const said = says(field);
    return said === plainName(name) || (said === '' && field !== PLACE_FIELDS[kind]);
  });
  if (!isMeant) return [];
  return names.flatMap(([field, name]): FieldEdit[] => {
    const next = is[field];
    return next === undefined || next === name || says(field) === ''
      ? []
      : [{ target: field, mode: 'replace', value: next }];
  });
}

interface ObjectChange<Row> {
  id: number;
  before: Row | null;
  after: Row;
}

type GivenPlace = Omit<OwnPlace, 'id' | 'parentId' | 'termId'> & { termId?: number | null };

/** A place as a row that is not kept yet. */
function rowOf(
  given: GivenPlace,
  parent_id: number | null,
  created_by: number | null,
): Omit<store.OwnPlaceRecord, 'id'> {
  const { kind, name, otherNames, countryCode, note, point, metres, corners, geonamesId, termId = null } = given;
  return {
    ...{ parent_id, kind, name, name_folded: plainName(name), other_names: otherNames },
    ...{ country_code: countryCode, note, metres, corners, created_by, geonames_id: geonamesId, term_id: termId },
    ...{ latitude: point?.latitude ?? null, longitude: point?.longitude ?? null },
  };
}

/** A place with what it lacks and another says; the same object where that is nothing. */
function completed(row: store.OwnPlaceRecord, given: GivenPlace): store.OwnPlaceRecord {
  const known = new Set([row.name_folded, ...row.other_names.map(({ name }) => plainName(name))]);
  const added = given.otherNames.filter(({ name }) => !known.has(plainName(name)));
  const point = row.latitude === null ? given.point : null;
  const after = {
    ...row,
    ...(added.length > 0 && { other_names: [...row.other_names, ...added] }),
    ...(row.country_code === '' && { country_code: given.countryCode }),
    ...(row.note === '' && { note: given.note }),
    ...(point && { latitude: point.latitude, longitude: point.longitude }),
    ...(row.metres === null && { metres: given.metres }),
    ...(row.corners === null && { corners: given.corners }),
    ...(row.geonames_id === null && { geonames_id: given.geonamesId }),
  };
  return JSON.stringify(after) === JSON.stringify(row) ? row : after;
}
