// What settles doubts about places.

import { namesTold } from '@stellin/core/describing/placing';
import type { Database } from '../database/database';
import { StellinError } from '../errors';
import { recordObject } from '../ledger/recordStore';
import type { ChangeHandlers } from '../ledger/service';
import { keyOfNames, namesLeft } from './doubtStore';

/** Names that are left, as a row. */
interface LeftNames {
  id: number;
  names: string;
  names_key: string;
  created_by: number | null;
}

export function doubtChanges(database: Database): Pick<ChangeHandlers, 'leavePlaceNames'> {
  return {
    async leavePlaceNames({ names: said }, { tx, entryId, accountId }) {
      const names = namesTold(said).join(', ');
      const left = { names, names_key: keyOfNames(said), created_by: accountId };
      if ((await namesLeft(database, tx)).has(left.names_key))
        throw new StellinError('placeRefused', { name: names, why: 'it is left as it is already' });
      await recordObject<LeftNames>(database, entryId, 'place_name_left', null, left, tx);
      return () => `Leave the names “${names}” as they are`;
    },
  };
}
