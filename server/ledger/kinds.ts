// What the ledger knows of the things that changes touch. Each subject describes its own: aspects of photos, and kinds of
// objects (tables whose rows changes make, alter and remove). How they take effect and how a person reads them is said there.

import { z } from 'zod';
import type { FieldValue } from '@stellin/core/metadata/fields';
import { fieldText } from '@stellin/core/metadata/fieldText';

/** An object by its kind and number, or by the id of its row where it has no kind (drive, account, photo). */
export type Reference = readonly [kind: string, id: number | string];
/** The name of an object that was referred to; of one that is gone the last name that the ledger recorded. */
export type NameOf = (kind: string, id: number | string) => string;

/** A row of ledger_photo without the photo. */
export interface RecordedRow {
  key: number;
  before: unknown;
  after: unknown;
}

/** What a person reads of a change: of which property, before and after. */
export interface ShownChange {
  what: string;
  before: string;
  after: string;
}

/** One aspect of a photo that changes can touch. In the SQL, `l` is the row of ledger_photo. */
export interface PhotoAspect {
  /**
   * Puts an entry's rows of this aspect into effect: what `after` says. The condition picks the rows `l` of the entry, of all
   * photos or of some.
   */
  effect: (isMeant: string) => readonly string[];
  /** Of very many photos it takes effect for some at a time: what else follows from it would take more than its share of time. */
  inSlices?: boolean;
  /** Whether the photo is now what `before` says. */
  stillBefore: string;
  /** The kind of object whose number the key is. */
  keyOf?: string;
  /** Objects that a value speaks of besides. */
  refersTo?: (value: unknown) => readonly Reference[];
  /** The row as a person reads it. */
  show: (row: RecordedRow, nameOf: NameOf) => readonly ShownChange[];
}

interface ShownColumn {
  label: string;
  /** The kind of object whose number (or numbers) it holds. */
  refersTo?: string;
  /** A value that is not empty as a person reads it, where text, number, yes or no and lists of these would not do. */
  show?: (value: unknown, nameOf: NameOf) => string;
}
/** A column that follows from others and is not shown. */
export const DERIVED = 'derived';
export type ObjectColumn = ShownColumn | typeof DERIVED;

/** A kind of object; its name is that of the table, whose rows have an `id`. */
export interface ObjectKind {
  /** What it is called: “Term”. */
  label: string;
  /** The column that names one of them. */
  named: string | null;
  /** All columns besides the id. */
  columns: Readonly<Record<string, ObjectColumn>>;
}

export interface LedgerKinds {
  aspects: Readonly<Record<string, PhotoAspect>>;
  /** In the order in which they are made; they are removed the other way round. */
  objects: Readonly<Record<string, ObjectKind>>;
  /** Where names of rows stand that are no objects of the ledger: by table the type of its id and the column of the name. */
  names: Readonly<Record<string, { id: 'int' | 'uuid'; column: string }>>;
}

export const NOTHING = '–';

/** A value of a metadata field as one line; null is nothing. */
export function shownFieldValue(value: unknown): string {
  return value === null || value === undefined || value === '' ? NOTHING : fieldText(value as FieldValue);
}

/** A value as a person reads it. */
export function shownValue(value: unknown): string {
  if (isEmpty(value)) return NOTHING;
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  if (Array.isArray(value)) return value.map(shownValue).join(', ');
  if (typeof value === 'object')
    return Object.entries(value as object)
      .filter(([, item]) => !isEmpty(item))
      .map(([name, item]) => `${name}: ${shownValue(item)}`)
      .join(', ');
  return String(value);
}

/** Whether a value says nothing: null, an empty text, an empty list. */
export function isEmpty(value: unknown): boolean {
  return value === null || value === undefined || value === '' || (Array.isArray(value) && value.length === 0);
}

/** An aspect that is one value under one label. */
export function showAs(label: string): PhotoAspect['show'] {
  return ({ before, after }) => [{ what: label, before: shownValue(before), after: shownValue(after) }];
}

/** An aspect that is there or not (false), of the object that its key numbers. */
export function showGiven(label: string, kind: string): PhotoAspect['show'] {
  const given = (value: unknown) => (value === false ? NOTHING : 'given');
  return ({ key, before, after }, nameOf) => [
    { what: `${label} “${nameOf(kind, key)}”`, before: given(before), after: given(after) },
  ];
}

const record = z.record(z.string(), z.unknown());

/** A recorded object of named values; of anything else none. */
export function recordedValues(value: unknown): Record<string, unknown> {
  return record.safeParse(value).data ?? {};
}

/** What an entry has recorded. */
export interface Recorded<Aspect extends string = string, Kind extends string = string> {
  entryId: number;
  /** It takes another one back, or repeats it. */
  reverses: boolean;
  photos: number;
  aspects: ReadonlySet<Aspect>;
  objects: ReadonlySet<Kind>;
}

/** Something that follows from entries, and from which: others need no look at it. */
export interface Follower<Run, Aspect extends string = string, Kind extends string = string> {
  /** Of entries that recorded one of these, any aspect of photos, or that reverse another one. */
  of: { aspects?: readonly Aspect[] | 'any'; objects?: readonly Kind[]; reversals?: true };
  run: Run;
}

/** Those that follow from an entry. */
export function followersOf<Run>(followers: readonly Follower<Run>[], recorded: Recorded): Run[] {
  return followers.flatMap(({ of: { aspects = [], objects = [], reversals = false }, run }) => {
    const isMeant =
      (aspects === 'any' ? recorded.aspects.size > 0 : aspects.some((aspect) => recorded.aspects.has(aspect))) ||
      objects.some((kind) => recorded.objects.has(kind)) ||
      (reversals && recorded.reverses);
    return isMeant ? [run] : [];
  });
}
