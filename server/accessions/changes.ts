// What changes to what is said of accessions do.

import type { Database } from '../database/database';
import { StellinError } from '../errors';
import { recordObject } from '../ledger/recordStore';
import type { ChangeHandlers } from '../ledger/service';
import * as store from './store';

export function accessionChanges(database: Database): Pick<ChangeHandlers, 'describeAccession'> {
  return {
    async describeAccession({ accessionId, kind: _, ...said }, { tx, entryId }) {
      if (!(await store.isAccession(database, accessionId, tx)))
        throw new StellinError('notFound', { what: 'such accession' });
      const before = (await store.provenanceOf(database, accessionId, tx)) ?? null;
      const after = { ...said, accession_id: accessionId };
      await recordObject<store.ProvenanceRow>(
        database,
        entryId,
        'provenance',
        before,
        before ? { ...before, ...after } : after,
        tx,
      );
      return () => `Say where accession ${said.number || accessionId} comes from`;
    },
  };
}
