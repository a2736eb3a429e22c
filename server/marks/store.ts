// The table of marks.

import { foldText } from '@stellin/core/text/words';
import type { SqlCondition } from '../catalogue/compile';
import { recordPhotos } from '../ledger/recordStore';
import { sightSql } from '../catalogue/sightSql';
import type { Viewer } from '../catalogue/viewer';
import type { Database, Transaction } from '../database/database';
import type { Mark } from '@stellin/contract/marks';

/** Another mark with a name or letter. */
export function markLike(
  database: Database,
  name: string,
  letter: string,
  markId: number | null,
  tx: Transaction,
): Promise<{ name: string; letter: string } | undefined> {
  return database.row<{ name: string; letter: string }>(
    'select name, letter from mark where (name = $1 or letter = $2) and id is distinct from $3::int limit 1',
    [name, letter, markId],
    tx,
  );
}

/** A mark. */
export function findMark(database: Database, id: number, tx: Transaction): Promise<MarkRow | undefined> {
  return database.row<MarkRow>('select * from mark where id = $1', [id], tx);
}

/** All marks, with how many photos that exist for somebody have them. */
export function listMarks(database: Database, { sight }: Viewer): Promise<Mark[]> {
  const seen = sightSql(sight);
  return database.rows<Mark>(
    `select m.id, m.name, m.letter, m.colour,
       (select count(*)::int from photo p where p.mark = m.name and p.shown and ${seen.sql}) as photos
     from mark m order by m.id`,
    seen.bind,
  );
}

export interface MarkRow {
  id: number;
  name: string;
  name_folded: string;
  letter: string;
  colour: string;
}

/** Records that photos (a statement with `bind`) get a mark; only those whose mark differs. */
export async function recordMark(
  database: Database,
  entryId: number,
  photos: SqlCondition,
  mark: string,
  tx: Transaction,
): Promise<void> {
  const bind = [...photos.bind];
  const [wanted, folded] = [`$${bind.push(mark)}::text`, `$${bind.push(foldText(mark))}::text`];
  const sql = `select p.id, 0, jsonb_build_object('name', p.mark, 'folded', p.mark_folded),
      jsonb_build_object('name', ${wanted}, 'folded', ${folded})
    from (${photos.sql}) chosen join photo p on p.id = chosen.id where p.mark <> ${wanted}`;
  await recordPhotos(database, entryId, 'mark', { sql, bind }, tx);
}

/** Photos that have a mark. */
export function photosMarked(mark: string): SqlCondition {
  return { sql: 'select id from photo where mark = $1', bind: [mark] };
}
