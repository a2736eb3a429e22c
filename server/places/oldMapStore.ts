// The SQL of old maps.

import type { MapPin } from '@stellin/core/timeplace/pinning';
import type { OldMapRow } from '@stellin/contract/oldMaps';
import type { Database } from '../database/database';
import { isoSql } from '../database/isoSql';

export function listOldMaps(database: Database): Promise<OldMapRow[]> {
  return database.rows<OldMapRow>(
    `select m.id, m.name, m.note, m.width, m.height, m.pins, ${isoSql('m.added_at')} as "addedAt", a.display_name as "addedBy"
     from old_map m left join account a on a.id = m.added_by order by lower(m.name), m.id`,
  );
}

/** Keeps a picture; gives its number. */
export async function keepOldMap(
  database: Database,
  {
    name,
    picture,
    width,
    height,
    accountId,
  }: { name: string; picture: Buffer; width: number; height: number; accountId: number },
): Promise<number> {
  const row = await database.row<{ id: number }>(
    'insert into old_map (name, picture, width, height, added_by) values ($1, $2, $3, $4, $5) returning id',
    [name, picture, width, height, accountId],
  );
  if (!row) throw new Error('the old map was not kept');
  return row.id;
}

/** Whether it was there. */
export async function changeOldMap(
  database: Database,
  id: number,
  { name, note, pins }: { name: string; note: string; pins: readonly MapPin[] },
): Promise<boolean> {
  const rows = await database.rows(
    'update old_map set name = $2, note = $3, pins = $4::jsonb where id = $1 returning id',
    [id, name, note, JSON.stringify(pins)],
  );
  return rows.length > 0;
}

/** Whether it was there. */
export async function removeOldMap(database: Database, id: number): Promise<boolean> {
  return (await database.rows('delete from old_map where id = $1 returning id', [id])).length > 0;
}

export async function pictureOf(database: Database, id: number): Promise<Buffer | undefined> {
  return (await database.row<{ picture: Buffer }>('select picture from old_map where id = $1', [id]))?.picture;
}
