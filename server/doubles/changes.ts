// Saying that photos which look alike are different pictures: they are not offered as doubles any more.

import { countText } from '@stellin/contract/wording';
import type { Database } from '../database/database';
import type { ChangeHandlers } from '../ledger/service';
import { recordApart } from './store';

export function doubleChanges(database: Database): Pick<ChangeHandlers, 'tellApart'> {
  return {
    async tellApart({ photoIds }, { tx, entryId }) {
      await recordApart(database, entryId, photoIds, tx);
      return () => `Tell ${countText(photoIds.length, 'photo')} apart: different pictures`;
    },
  };
}
