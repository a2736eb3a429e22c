// What changes to marks, and to which mark photos have, do.

import { foldText } from '@stellin/core/text/words';
import { countText } from '@stellin/contract/wording';
import type { Database, Transaction } from '../database/database';
import { StellinError } from '../errors';
import type { ChangeHandlers } from '../ledger/service';
import { selectionSql } from '../catalogue/selection';
import { recordObject } from '../ledger/recordStore';
import { findMark, photosMarked, recordMark, markLike, type MarkRow } from './store';

export function markChanges(database: Database): Pick<ChangeHandlers, 'setMark' | 'defineMark' | 'removeMark'> {
  return {
    async setMark({ selection, mark }, { tx, entryId }) {
      await recordMark(database, entryId, selectionSql(selection), mark, tx);
      return (photos) =>
        mark === ''
          ? `Take the mark off ${countText(photos, 'photo')}`
          : `Mark “${mark}”: ${countText(photos, 'photo')}`;
    },

    async defineMark({ markId, name, letter, colour }, { tx, entryId }) {
      const before = markId === null ? null : await requireMark(markId, tx);
      const taken = await markLike(database, name, letter, markId, tx);
      if (taken) throw new StellinError('markTaken', { name: taken.name, letter: taken.letter.toUpperCase() });
      if (before && before.name !== name) await recordMark(database, entryId, photosMarked(before.name), name, tx);
      const after = { name, name_folded: foldText(name), letter, colour };
      await recordObject<MarkRow>(database, entryId, 'mark', before, after, tx);
      return () => (before ? `Change the mark “${before.name}”` : `Define the mark “${name}”`);
    },

    async removeMark({ markId }, { tx, entryId }) {
      const before = await requireMark(markId, tx);
      await recordObject<MarkRow>(database, entryId, 'mark', before, null, tx);
      return () => `Remove the mark “${before.name}”; photos keep it as a word`;
    },
  };

  async function requireMark(id: number, tx: Transaction): Promise<MarkRow> {
    const row = await findMark(database, id, tx);
    if (!row) throw new StellinError('notFound', { what: 'such mark (it may have been removed meanwhile)' });
    return row;
  }
}
