// Saying that photos which look alike are different pictures: they are not offered as doubles any more.

import { countText } from '@stellin/contract/wording';
import type { Database } from '../database/database';
import { recordObjects } from '../ledger/recording';
import type { ChangeHandlers } from '../ledger/service';

export function doubleChanges(database: Database): Pick<ChangeHandlers, 'tellApart'> {
  return {
    async tellApart({ photoIds }, { tx, entryId }) {
      const sql = `select pair.id, null, to_jsonb(pair) from (
          select nextval(pg_get_serial_sequence('told_apart', 'id'))::int as id, a.id as photo_id, b.id as other_id
          from photo a join photo b on a.id < b.id where a.id = any($1) and b.id = any($1)
            and not exists (select 1 from told_apart t where t.photo_id = a.id and t.other_id = b.id)) pair`;
      await recordObjects(database, entryId, 'told_apart', { sql, bind: [photoIds] }, tx);
      return () => `Tell ${countText(photoIds.length, 'photo')} apart: different pictures`;
    },
  };
}
