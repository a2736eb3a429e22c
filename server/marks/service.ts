import type { Mark } from '@stellin/contract/marks';
import type { Database } from '../database/database';

export type Marks = ReturnType<typeof markService>;

export function markService(database: Database) {
  return {
    list: (): Promise<Mark[]> =>
      database.rows<Mark>(
        `select m.id, m.name, m.letter, m.colour, (select count(*)::int from photo p where p.mark = m.name and p.shown) as photos
         from mark m order by m.id`,
      ),
  };
}
