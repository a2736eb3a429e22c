// A selection as SQL: what a query finds, less some, plus some. Photos are never listed by the caller.

import type { Selection } from '@stellin/contract/photos';
import type { SqlCondition } from './compile';
import { foundSql } from './found';
import { sightSql } from './sightSql';
import { PROGRAM, type Viewer } from './viewer';

/** A selection as changes and reports take it: its query says by itself what it means. */
export interface SettledSelection extends Selection {
  /** What exists for who made it; everything, where it is not there. */
  by?: Pick<Viewer, 'sight' | 'knowsPrivate'>;
}

/**
 * A statement that returns the ids (column `id`) of the photos meant, those in a closed bundle with their lead, numbering
 * its parameters after those in `bind`.
 */
export function selectionSql(selection: SettledSelection, bind: readonly unknown[] = []): SqlCondition {
  const { by = PROGRAM } = selection;
  const seen = sightSql(by.sight, bind);
  const found = selection.query === null ? { sql: 'false', bind: seen.bind } : foundSql(selection.query, by, seen.bind);
  const values = [...found.bind];
  const minus = `$${values.push(selection.minus)}`;
  const plus = `$${values.push(selection.plus)}`;
  return {
    sql: `with meant as materialized (
        select p.id from photo p where (${found.sql} and p.id <> all(${minus}::int[])) or (p.id = any(${plus}::int[]) and ${seen.sql}))
      select id from meant union select p.id from photo p join meant on p.folded_into = meant.id where ${seen.sql}`,
    bind: values,
  };
}

/** Photos by their ids, as a statement that returns them. */
export function idsSql(ids: readonly number[]): SqlCondition {
  return { sql: 'select unnest($1::int[]) as id', bind: [ids] };
}

/** All photos. */
export const ALL_PHOTOS: SqlCondition = { sql: 'select id from photo', bind: [] };
