// What an entry changed, as a person reads it: of photos and of objects, with the names of what values refer to.

import type { Viewer } from '../catalogue/viewer';
import type { Database } from '../database/database';
import {
  isEmpty,
  recordedValues,
  shownValue,
  NOTHING,
  DERIVED,
  type LedgerKinds,
  type NameOf,
  type ObjectColumn,
  type Reference,
  type ShownChange,
} from './kinds';
import { listNames, listObjectChanges, listPhotoChanges, type PhotoRow, type ObjectRow } from './store';

export interface ShownPhotoChange extends ShownChange {
  photoId: number;
  name: string;
  previewVersion: number;
}

export interface ShownObjectChange extends ShownChange {
  /** Which object: Term “Delta”. */
  object: string;
}

/** What an entry changed of photos, by their names, and of objects: the first of each. With a photo only what it changed of that. */
export async function shownChanges(
  database: Database,
  kinds: LedgerKinds,
  asked: { entryId: number; photoId?: number; viewer: Viewer },
): Promise<{ photos: ShownPhotoChange[]; objects: ShownObjectChange[] }> {
  const seesAll = asked.viewer.sight === null;
  const [rows, objects] = await Promise.all([
    listPhotoChanges(database, asked),
    seesAll ? listObjectChanges(database, asked.entryId) : [],
  ]);
  const photos = seesAll ? rows : rows.filter(({ aspect }) => isOfItself(kinds, aspect));
  const nameOf = await namesOf(database, kinds, [
    ...photos.flatMap((row) => referencesOfPhoto(kinds, row)),
    ...objects.flatMap((row) => referencesOfObject(kinds, row)),
  ]);
  return {
    photos: photos.flatMap(({ photoId: id, name, previewVersion, aspect, ...row }) =>
      (kinds.aspects[aspect]?.show(row, nameOf) ?? []).map((shown) => ({
        photoId: id,
        name,
        previewVersion,
        ...shown,
      })),
    ),
    objects: objects.flatMap((row) => shownObject(kinds, row, nameOf)),
  };
}

/** Whether an aspect speaks of nothing but the photo and of terms: other things may not exist for who asks. */
function isOfItself({ aspects }: LedgerKinds, aspect: string): boolean {
  const { keyOf, refersTo } = aspects[aspect] ?? {};
  return refersTo === undefined && (keyOf === undefined || keyOf === 'term');
}

function referencesOfPhoto({ aspects }: LedgerKinds, { aspect, key, before, after }: PhotoRow): Reference[] {
  const { keyOf, refersTo } = aspects[aspect] ?? {};
  return [
    ...(keyOf === undefined ? [] : [[keyOf, key] as const]),
    ...(refersTo ? [...refersTo(before), ...refersTo(after)] : []),
  ];
}

function referencesOfObject({ objects }: LedgerKinds, { kind, before, after }: ObjectRow): Reference[] {
  return Object.entries(objects[kind]?.columns ?? {}).flatMap(([column, shown]) => {
    if (shown === DERIVED || shown.refersTo === undefined) return [];
    const { refersTo } = shown;
    const ids = [recordedValues(before)[column], recordedValues(after)[column]].flatMap(idsIn);
    return ids.map((id): Reference => [refersTo, id]);
  });
}

/** The ids in a value: one, a list, or those that stand under names. */
function idsIn(value: unknown): (number | string)[] {
  if (typeof value === 'number' || typeof value === 'string') return [value];
  return typeof value === 'object' && value !== null ? Object.values(value).flatMap(idsIn) : [];
}

/** The columns of an object that an entry changed; of one that it made or removed those that say anything. */
function shownObject(
  { objects }: LedgerKinds,
  { kind, before, after }: ObjectRow,
  nameOf: NameOf,
): ShownObjectChange[] {
  const known = objects[kind];
  if (!known) return [];
  const [was, is] = [recordedValues(before), recordedValues(after)];
  const name = known.named === null ? undefined : (is[known.named] ?? was[known.named]);
  const object = name === undefined ? known.label : `${known.label} “${shownValue(name)}”`;
  const shown = Object.entries<ObjectColumn>(known.columns).flatMap(([column, how]) => {
    if (how === DERIVED) return [];
    const text = (value: unknown) => textOf(value, how, nameOf);
    const change = { object, what: how.label, before: text(was[column]), after: text(is[column]) };
    const saysNothing = before === null || after === null ? isPlain(was[column]) && isPlain(is[column]) : false;
    return change.before === change.after || saysNothing ? [] : [change];
  });
  if (shown.length > 0) return shown;
  const there = (value: unknown) => (value === null ? NOTHING : 'there');
  return [{ object, what: known.label, before: there(before), after: there(after) }];
}

/** What a new object says of itself without having been told. */
function isPlain(value: unknown): boolean {
  return isEmpty(value) || value === false || value === 0;
}

function textOf(value: unknown, { refersTo, show }: Exclude<ObjectColumn, typeof DERIVED>, nameOf: NameOf): string {
  if (isEmpty(value)) return NOTHING;
  if (show) return show(value, nameOf) || NOTHING;
  return refersTo === undefined ? shownValue(value) : nameOf(refersTo, value as number | string);
}

/** Looks names up, a statement for each kind of object; of objects that are gone the last name that the ledger recorded. */
async function namesOf(
  database: Database,
  { objects, names }: LedgerKinds,
  references: readonly Reference[],
): Promise<NameOf> {
  const wanted = new Map<string, Set<string>>();
  for (const [kind, id] of references) wanted.set(kind, (wanted.get(kind) ?? new Set()).add(String(id)));
  const found = new Map<string, string>();
  await Promise.all(
    [...wanted].map(async ([kind, ids]) => {
      const named = objects[kind]?.named;
      const { column, id: type } = names[kind] ?? { column: named, id: 'int' };
      if (column === undefined || column === null) throw new Error(`the ledger knows no names of ${kind}`);
      const rows = await listNames(database, kind, { column, type }, [...ids]);
      for (const { id, name } of rows) if (name !== null) found.set(`${kind} ${id}`, name);
    }),
  );
  return (kind, id) => found.get(`${kind} ${id}`) ?? 'removed';
}
