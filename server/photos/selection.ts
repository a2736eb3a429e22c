// A selection as SQL: what a query finds, less some, plus some. Photos are never listed by the caller.

import { parseQuery } from '@stellin/core/search/language';
import type { Selection } from '@stellin/contract/photos';
import { compileQuery, type SqlCondition } from '../search/compile';

/** A statement that returns the ids (column `id`) of the photos meant, numbering its parameters after those in `bind`. */
export function selectionSql(selection: Selection, bind: readonly unknown[] = []): SqlCondition {
  const found =
    selection.query === null
      ? { sql: 'false', bind: [...bind] }
      : compileQuery(parseQuery(selection.query).query, bind);
  const values = [...found.bind];
  const minus = `$${values.push(selection.minus)}`;
  const plus = `$${values.push(selection.plus)}`;
  return {
    sql: `select p.id from photo p where (${found.sql} and p.id <> all(${minus}::int[])) or p.id = any(${plus}::int[])`,
    bind: values,
  };
}
