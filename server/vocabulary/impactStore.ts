// Which photos a change to terms touches.

import type { Database, Transaction } from '../database/database';
import type { ChangeOf } from '@stellin/contract/ledger';
import type { Impact } from '@stellin/contract/vocabulary';
import { selectionSql } from '../catalogue/selection';
import type { Plan } from '@stellin/core/vocabulary/editor';

/** The photos that a split gives a narrower term: each gains a keyword, so its file is to be written. */
export async function dividedPhotos(
  database: Database,
  { termId, into }: ChangeOf<'splitTerm'>,
  tx: Transaction,
): Promise<Pick<Impact, 'photos' | 'both' | 'drives'>> {
  let bind: unknown[] = [termId];
  const parts = into.map(({ selection }) => {
    const { sql, bind: more } = selectionSql(selection, bind);
    bind = more;
    return `select id from (${sql}) part`;
  });
  const drives = await database.rows<Impact['drives'][number]>(
    `select d.label, not d.attached as away, count(*)::int as files from photo_term g join photo p on p.id = g.photo_id join drive d on d.id = p.drive_id
     where g.term_id = $1 and g.photo_id in (${parts.join(' union ')}) group by d.id order by d.attached desc, d.label`,
    bind,
    tx,
  );
  return { photos: drives.reduce((sum, { files }) => sum + files, 0), both: 0, drives };
}

/** Photos that get another term or lose one, and of them those that have the other already. */
export async function regivenPhotos(
  database: Database,
  plan: Plan,
  tx: Transaction,
): Promise<{ photos: number; both: number }> {
  if (plan.regiven.length === 0) return { photos: 0, both: 0 };
  const row = await database.row<{ photos: number; both: number }>(
    `select count(distinct g.photo_id)::int as photos,
       (count(distinct g.photo_id) filter (where exists (select 1 from photo_term o where o.photo_id = g.photo_id and o.term_id = r."to")))::int as both
     from jsonb_to_recordset($1::jsonb) as r ("from" int, "to" int) join photo_term g on g.term_id = r."from"`,
    [JSON.stringify(plan.regiven)],
    tx,
  );
  return row ?? { photos: 0, both: 0 };
}

export async function photosWithin(database: Database, ids: readonly number[], tx: Transaction): Promise<number> {
  // One term alone is counted already.
  const row = await database.row<{ photos: number }>(
    ids.length === 1
      ? 'select photos_within as photos from term_use where term_id = any($1)'
      : `select count(*)::int as photos from (select distinct g.photo_id from (select distinct term_id from term_above where above_id = any($1)) a
         join photo_term g on g.term_id = a.term_id) within`,
    [ids],
    tx,
  );
  return row?.photos ?? 0;
}
