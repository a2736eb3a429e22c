// The SQL of onlookers.

import { GONE_AFTER_MS, type Onlooker } from '@stellin/contract/onlookers';
import type { Database } from '../database/database';
import { sightSql } from '../catalogue/sightSql';
import type { Viewer } from '../catalogue/viewer';

const STILL_HERE = `o.at > now() - interval '${GONE_AFTER_MS / 1000} seconds'`;

interface Looking {
  sessionId: string;
  accountId: number;
  photoIds: readonly number[];
  doing: Onlooker['doing'];
}

/** Notes what somebody looks at; true when that is news for somebody who looks at one of the photos, before or now. */
export async function noteLooking(
  database: Database,
  { sessionId, accountId, photoIds, doing }: Looking,
): Promise<boolean> {
  const row = await database.row<{ news: boolean }>(
    `with before as (select photo_ids, doing from onlooker where session_id = $1),
     noted as (insert into onlooker (session_id, account_id, photo_ids, doing) values ($1, $2, $3::int[], $4)
       on conflict (session_id) do update set photo_ids = excluded.photo_ids, doing = excluded.doing, at = now())
     select coalesce((select photo_ids = $3::int[] and doing = $4 from before), $3::int[] = '{}') is false
       and exists (select 1 from onlooker o where o.account_id <> $2 and ${STILL_HERE}
         and o.photo_ids && ($3::int[] || coalesce((select photo_ids from before), '{}'))) as news`,
    [sessionId, accountId, photoIds, doing],
  );
  return row?.news ?? false;
}

/** Others who are here, with the photos that exist for who asks. */
export async function listOnlookers(database: Database, { accountId, sight }: Viewer): Promise<Onlooker[]> {
  const seen = sightSql(sight, [accountId]);
  const rows = await database.rows<Onlooker>(
    `select a.display_name as name, o.doing, array(select p.id from photo p where p.id = any(o.photo_ids) and ${seen.sql} order by p.id) as "photoIds"
     from onlooker o join account a on a.id = o.account_id where o.account_id <> $1::int and ${STILL_HERE} order by a.display_name, o.doing`,
    seen.bind,
  );
  return rows.filter(({ photoIds }) => photoIds.length > 0);
}
