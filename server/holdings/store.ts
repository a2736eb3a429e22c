// The SQL of holdings.

import type { WorkDone } from '@stellin/contract/holdings';
import type { Database } from '../database/database';
import { localSql } from '../catalogue/clock';

/** What people have changed since a day, by week and who; what was undone counts for nothing, nor what takes back or repeats. */
export function workSince(database: Database, since: string, kinds: readonly string[]): Promise<WorkDone[]> {
  return database.rows<WorkDone>(
    `select to_char(date_trunc('week', ${localSql('e.at')}), 'YYYY-MM-DD') as week, a.display_name as by,
       count(*)::int as changes, sum(e.photos)::int as photos
     from ledger_entry e join account a on a.id = e.account_id
     where ${localSql('e.at')} >= $1::timestamp and e.kind = any($2::text[]) and e.step = 'do' and not e.undone and e.photos > 0
     group by 1, 2 order by 1, 2`,
    [since, kinds],
  );
}

/** Notes that somebody is here now. Returns the day on which they were before (`YYYY-MM-DD`); null: never. Within hours it is one visit. */
export async function noteVisit(database: Database, accountId: number, hours: number): Promise<string | null> {
  const row = await database.row<{ day: string | null }>(
    `insert into account_visit as v (account_id) values ($1) on conflict (account_id) do update set last_at = now(),
       before_at = case when v.last_at < now() - make_interval(hours => $2) then v.last_at else v.before_at end
     returning to_char(${localSql('v.before_at')}, 'YYYY-MM-DD') as day`,
    [accountId, hours],
  );
  return row?.day ?? null;
}
