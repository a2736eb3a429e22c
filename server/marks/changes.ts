// What changes to marks, and to which mark photos have, do.

import { foldText } from '@stellin/core/text/words';
import { countText } from '@stellin/contract/wording';
import type { Database, Transaction } from '../database/database';
import { StellinError } from '../errors';
import type { ChangeHandlers } from '../ledger/service';
import { selectionSql } from '../catalogue/selection';
import type { SqlCondition } from '../catalogue/compile';
import { recordObject, recordPhotos } from '../ledger/recording';

interface MarkRow {
  id: number;
  name: string;
  name_folded: string;
  letter: string;
  colour: string;
}

export function markChanges(database: Database): Pick<ChangeHandlers, 'setMark' | 'defineMark' | 'removeMark'> {
  return {
    async setMark({ selection, mark }, { tx, entryId }) {
      await recordMark(entryId, selectionSql(selection), mark, tx);
      return (photos) =>
        mark === ''
          ? `Take the mark off ${countText(photos, 'photo')}`
          : `Mark “${mark}”: ${countText(photos, 'photo')}`;
    },

    async defineMark({ markId, name, letter, colour }, { tx, entryId }) {
      const before = markId === null ? null : await requireMark(markId, tx);
      const taken = await database.row<{ name: string; letter: string }>(
        'select name, letter from mark where (name = $1 or letter = $2) and id is distinct from $3::int limit 1',
        [name, letter, markId],
        tx,
      );
      if (taken) throw new StellinError('markTaken', { name: taken.name, letter: taken.letter.toUpperCase() });
      if (before && before.name !== name)
        await recordMark(entryId, { sql: 'select id from photo where mark = $1', bind: [before.name] }, name, tx);
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

  /** Records that photos (a statement with `bind`) get a mark; only those whose mark differs. */
  async function recordMark(entryId: number, photos: SqlCondition, mark: string, tx: Transaction): Promise<void> {
    const bind = [...photos.bind];
    const [wanted, folded] = [`$${bind.push(mark)}::text`, `$${bind.push(foldText(mark))}::text`];
    const sql = `select p.id, 0, jsonb_build_object('name', p.mark, 'folded', p.mark_folded),
        jsonb_build_object('name', ${wanted}, 'folded', ${folded})
      from (${photos.sql}) chosen join photo p on p.id = chosen.id where p.mark <> ${wanted}`;
    await recordPhotos(database, entryId, 'mark', { sql, bind }, tx);
  }

  async function requireMark(id: number, tx: Transaction): Promise<MarkRow> {
    const row = await database.row<MarkRow>('select * from mark where id = $1', [id], tx);
    if (!row) throw new StellinError('notFound', { what: 'such mark (it may have been removed meanwhile)' });
    return row;
  }
}
