// What the change that puts a good copy back does: it records where the other file is kept, and a job exchanges them.

import type { Database } from '../database/database';
import { StellinError } from '../errors';
import type { ChangeHandlers } from '../ledger/service';
import { COPY_BACK_JOB } from './copyingBack';
import { dropAbandonedCopies, recordCopyBack } from './store';

/** The hidden folder of a drive in which files are kept whose place another took. */
const KEPT_FOLDER = '.stellin-kept';

export function fixityChanges(database: Database): Pick<ChangeHandlers, 'putCopyBack'> {
  return {
    async putCopyBack({ photoId, copyId }, { tx, entryId }) {
      await dropAbandonedCopies(database, COPY_BACK_JOB, tx);
      const kept = `${KEPT_FOLDER}/${photoId}-${entryId}`;
      if (!(await recordCopyBack(database, entryId, { photoId, copyId, kept }, tx)))
        throw new StellinError('noCopyOfIt');
      return () => 'Put a good copy back in the place of a damaged file';
    },
  };
}
