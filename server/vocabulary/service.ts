import type { Database, Transaction } from '../database/database';
import type { AfterChange } from '../ledger/service';
import { listIncoming, settleKnown } from './incoming';
import * as store from './store';

export type Vocabulary = ReturnType<typeof vocabularyService>;

export function vocabularyService(database: Database) {
  return {
    list: () => store.listTerms(database),
    incoming: (request: Parameters<typeof listIncoming>[1]) => listIncoming(database, request),
    /** Applies what was decided about incoming keywords to files that were just read. */
    afterReading: (photoIds: readonly number[], tx: Transaction) => settleKnown(database, photoIds, tx),
    /** Keeps the pre-order numbers right after each change. */
    afterChange: ((entryId, tx) => store.renumberIfTouched(database, entryId, tx)) satisfies AfterChange,
  };
}
