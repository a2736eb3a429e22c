// Whether a photo exists for somebody: asked by whatever is told its number.

import type { Database } from '../database/database';
import { StellinError } from '../errors';
import { sightSql } from './sightSql';
import type { Viewer } from './viewer';

/** Refuses a photo that does not exist for somebody as one that is not there. Of whom all exist nothing is asked. */
export async function requireSeen(database: Database, { sight }: Viewer, photoId: number): Promise<void> {
  if (sight === null) return;
  const { sql, bind } = sightSql(sight, [photoId]);
  const [seen] = await database.rows(`select 1 from photo p where p.id = $1::int and ${sql}`, bind);
  if (!seen) throw new StellinError('notFound', { what: 'such photo' });
}
