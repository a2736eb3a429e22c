// A selection as SQL: what a query finds, less some, plus some. Photos are never listed by the caller.

import type { Selection } from '@stellin/contract/photos';
import type { SqlCondition } from './compile';
import { foundSql } from './found';

/**
 * A statement that returns the ids (column `id`) of the photos meant, those in a closed bundle with their lead, numbering
 * its parameters after those in `bind`.
 */
export function selectionSql(selection: Selection, bind: readonly unknown[] = []): SqlCondition {
  const found = selection.query === null ? { sql: 'false', bind: [...bind] } : foundSql(selection.query, bind);
  const values = [...found.bind];
  const minus = `$${values.push(selection.minus)}`;
  const plus = `$${values.push(selection.plus)}`;
  return {
    sql: `with meant as materialized (
        select p.id from photo p where (${found.sql} and p.id <> all(${minus}::int[])) or p.id = any(${plus}::int[]))
      select id from meant union select folded.id from photo folded join meant on folded.folded_into = meant.id`,
    bind: values,
  };
}

/** Photos by their ids, as a statement that returns them. */
export function idsSql(ids: readonly number[]): SqlCondition {
  return { sql: 'select unnest($1::int[]) as id', bind: [ids] };
}

/** All photos. */
export const ALL_PHOTOS: SqlCondition = { sql: 'select id from photo', bind: [] };
