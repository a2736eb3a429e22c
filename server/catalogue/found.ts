// What a query finds as the sheet shows it: photos that are set aside only when they are asked for, and a closed bundle as
// its lead, when any photo of it meets the query.

import { asksForSetAside } from '@stellin/core/search/index/finder';
import { parseQuery } from '@stellin/core/search/language';
import { compileQuery, type SqlCondition } from './compile';
import { sightSql } from './sightSql';
import type { Viewer } from './viewer';

/** The condition on `p` for what a query in text finds for somebody, numbering its parameters after those in `bind`. */
export function foundSql(
  text: string,
  { sight, knowsPrivate }: Pick<Viewer, 'sight' | 'knowsPrivate'>,
  bind: readonly unknown[] = [],
): SqlCondition {
  const { query } = parseQuery(text);
  const seen = sightSql(sight, bind);
  const { sql, bind: values } = compileQuery(query, seen.bind, { seen: seen.sql, knowsPrivate });
  const met = asksForSetAside(query) ? sql : `(p.shown and ${sql})`;
  if (sight === null)
    return {
      sql: `((p.folded_into is null and ${met})
        or p.id in (select p.folded_into from photo p where p.folded_into is not null and ${met}))`,
      bind: values,
    };
  // Where the lead does not exist for who asks, a photo stands by itself.
  const leads = `(select p.id from photo p where p.id in (select folded_into from photo) and ${seen.sql})`;
  return {
    sql: `(${seen.sql} and (((p.folded_into is null or p.folded_into not in ${leads}) and ${met})
      or p.id in (select p.folded_into from photo p where p.folded_into is not null and ${seen.sql} and ${met})))`,
    bind: values,
  };
}
