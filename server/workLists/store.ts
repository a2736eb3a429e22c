// The SQL of work lists.

import type { Database } from '../database/database';
import { isoSql } from '../database/isoSql';

/** Says that a photo is done with on a list, for everybody. */
export async function insertDone(
  database: Database,
  done: { photoId: number; list: string; accountId: number },
): Promise<void> {
  await database.rows(
    'insert into work_done (photo_id, list, account_id) values ($1, $2, $3) on conflict (photo_id, list) do nothing',
    [done.photoId, done.list, done.accountId],
  );
}

export async function insertLater(
  database: Database,
  later: { photoId: number; list: string; accountId: number; until: Date },
): Promise<void> {
  await database.rows(
    `insert into work_later (account_id, list, photo_id, until) values ($1, $2, $3, $4)
     on conflict (account_id, list, photo_id) do update set until = excluded.until`,
    [later.accountId, later.list, later.photoId, later.until],
  );
}

/** Neither done with nor put off by somebody. */
export async function forgetOutcome(
  database: Database,
  { photoId, list, accountId }: { photoId: number; list: string; accountId: number },
): Promise<void> {
  await database.rows('delete from work_done where photo_id = $1 and list = $2', [photoId, list]);
  await database.rows('delete from work_later where photo_id = $1 and list = $2 and account_id = $3', [
    photoId,
    list,
    accountId,
  ]);
}

/** The photos that somebody has put off on a list, so far; what is over is forgotten. */
export async function putOff(database: Database, list: string, accountId: number): Promise<number[]> {
  await database.rows('delete from work_later where account_id = $1 and until <= now()', [accountId]);
  const rows = await database.rows<{ id: number }>(
    'select photo_id as id from work_later where account_id = $1 and list = $2 order by photo_id',
    [accountId, list],
  );
  return rows.map(({ id }) => id);
}

/** Keeps how many were on lists on a day; what was kept of that day is replaced. */
export async function keepCounts(
  database: Database,
  day: string,
  counts: readonly { list: string; photos: number }[],
): Promise<void> {
  await database.rows(
    `insert into work_count (list, day, photos) select list, $1, photos from unnest($2::text[], $3::int[]) as given (list, photos)
     on conflict (list, day) do update set photos = excluded.photos`,
    [day, counts.map(({ list }) => list), counts.map(({ photos }) => photos)],
  );
}

/** How many were on each list on the first day since one of which something is known, but not on `today`. */
export async function countsSince(database: Database, since: string, today: string): Promise<Map<string, number>> {
  const rows = await database.rows<{ list: string; photos: number }>(
    `select distinct on (list) list, photos from work_count where day >= $1 and day < $2 order by list, day`,
    [since, today],
  );
  return new Map(rows.map(({ list, photos }) => [list, photos]));
}

/** Drops what is kept of days before one. */
export async function dropCountsBefore(database: Database, day: string): Promise<void> {
  await database.rows('delete from work_count where day < $1', [day]);
}

export interface GivenRow {
  id: number;
  list: string;
  query: string;
  accountId: number;
  note: string;
  due: string;
  to: string;
  byId: number | null;
  by: string | null;
  givenAt: string;
  photos: number;
  doneAt: string | null;
}

const GIVEN = `select w.id, w.list, w.query, w.account_id as "accountId", w.note, w.due, a.display_name as "to", w.given_by as "byId",
    b.display_name as by, ${isoSql('w.given_at')} as "givenAt", w.photos, ${isoSql('w.done_at')} as "doneAt"
  from work_given w join account a on a.id = w.account_id left join account b on b.id = w.given_by`;

/** What was given to somebody or by them: what is open by its day, those without one last; then what was done, the latest first. */
export function givenOf(database: Database, accountId: number, mostDone: number): Promise<GivenRow[]> {
  return database.rows<GivenRow>(
    `(${GIVEN} where $1 in (w.account_id, w.given_by) and w.done_at is null
        order by w.account_id <> $1, w.due = '', w.due, w.id)
     union all
     (${GIVEN} where $1 in (w.account_id, w.given_by) and w.done_at is not null order by w.done_at desc limit $2)`,
    [accountId, mostDone],
  );
}

/** How many lists that were given to somebody are done. */
export async function countDone(database: Database, accountId: number): Promise<number> {
  const row = await database.row<{ count: number }>(
    'select count(*)::int as count from work_given where account_id = $1 and done_at is not null',
    [accountId],
  );
  return row?.count ?? 0;
}

export async function insertGiven(
  database: Database,
  given: { list: string; query: string; accountId: number; note: string; due: string; by: number; photos: number },
): Promise<void> {
  await database.rows(
    'insert into work_given (list, query, account_id, note, due, given_by, photos) values ($1, $2, $3, $4, $5, $6, $7)',
    [given.list, given.query, given.accountId, given.note, given.due, given.by, given.photos],
  );
}

/** Says that a list given to or by somebody is done, or not. Returns whether there is such a one. */
export async function setDone(database: Database, id: number, accountId: number, isDone: boolean): Promise<boolean> {
  const rows = await database.rows(
    `update work_given set done_at = case when $3 then coalesce(done_at, now()) end where id = $1 and $2 in (account_id, given_by) returning id`,
    [id, accountId, isDone],
  );
  return rows.length > 0;
}

/** Takes back a list that somebody has given, or was given. Returns whether there is such a one. */
export async function removeGiven(database: Database, id: number, accountId: number): Promise<boolean> {
  const rows = await database.rows(
    'delete from work_given where id = $1 and $2 in (account_id, given_by) returning id',
    [id, accountId],
  );
  return rows.length > 0;
}

/** Accounts that may sign in, by name. */
export function workers(database: Database): Promise<{ id: number; name: string }[]> {
  return database.rows<{ id: number; name: string }>(
    'select id, display_name as name from account where disabled_at is null order by display_name, id',
  );
}
