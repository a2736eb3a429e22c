// What a restored catalogue still has to do: its drives have moved on since the backup, and are looked through before anything
// is written to them by itself.

import { z } from 'zod';
import type { Database } from '../database/database';
import { readSetting } from '../database/settings';

/** The setting that says when the catalogue was restored. */
export const RESTORED = 'restored';

const setting = z.object({ at: z.iso.datetime() });

export interface DriveToLookThrough {
  id: string;
  label: string;
}

/** Attached drives that were not looked through since the catalogue was restored; none where it never was. */
export async function drivesToLookThrough(database: Database): Promise<DriveToLookThrough[]> {
  const restored = setting.safeParse(await readSetting(database, RESTORED));
  if (!restored.success) return [];
  return database.rows<DriveToLookThrough>(
    `select d.id, d.label from drive d
     where d.attached and (d.last_checked_at is null or d.last_checked_at < $1::timestamptz)
       and exists (select 1 from photo p where p.drive_id = d.id)`,
    [restored.data.at],
  );
}
