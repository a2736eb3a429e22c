// Settling conflicts: where the catalogue and another program have both changed a field, which of them stands.

import { FIELDS, type FieldId } from '@stellin/core/metadata/fields';
import { countText } from '@stellin/contract/wording';
import type { Database } from '../database/database';
import { StellinError } from '../errors';
import type { ChangeHandlers } from '../ledger/service';
import { selectionSql } from '../catalogue/selection';
import { recordSettled } from './conflictStore';

export function conflictChanges(database: Database): Pick<ChangeHandlers, 'settleConflicts'> {
  return {
    async settleConflicts({ selection, field, keep }, { tx, entryId }) {
      const known = FIELDS.find(({ id }) => id === (field as FieldId));
      if (field !== undefined && !known) throw new StellinError('notFound', { what: 'such field' });
      await recordSettled(database, entryId, selectionSql(selection), { field: known?.id, keep }, tx);
      const what = known ? ` on “${known.label}”` : '';
      return (photos) =>
        `Settle ${countText(photos, 'conflict')}${what}: keep what the ${keep === 'file' ? 'files say' : 'catalogue says'}`;
    },
  };
}
