import type { Database } from '../database/database';
import type { AfterChange } from '../ledger/service';
import * as store from './store';

export type Vocabulary = ReturnType<typeof vocabularyService>;

export function vocabularyService(database: Database) {
  return {
    list: () => store.listTerms(database),
    /** Keeps the pre-order numbers right after each change. */
    afterChange: ((entryId, tx) => store.renumberIfTouched(database, entryId, tx)) satisfies AfterChange,
  };
}
