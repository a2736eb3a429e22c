// What a query finds as the sheet shows it: photos that are set aside only when they are asked for, and a closed bundle as
// its lead, when any photo of it meets the query.

import { asksForSetAside } from '@stellin/core/search/index/finder';
import { parseQuery } from '@stellin/core/search/language';
import { compileQuery, type SqlCondition } from './compile';

/** The condition on `p` for what a query in text finds, numbering its parameters after those in `bind`. */
export function foundSql(text: string, bind: readonly unknown[] = []): SqlCondition {
  const { query } = parseQuery(text);
  const { sql, bind: values } = compileQuery(query, bind);
  const met = asksForSetAside(query) ? sql : `(p.shown and ${sql})`;
  return {
    sql: `((p.folded_into is null and ${met})
      or p.id in (select p.folded_into from photo p where p.folded_into is not null and ${met}))`,
    bind: values,
  };
}
