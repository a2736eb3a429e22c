// What changes to marks, and to which mark photos have, do.

import { foldText } from '@stellin/core/search/words';
import { countText } from '@stellin/contract/wording';
import type { Database, Transaction } from '../database/database';
import { StellinError } from '../errors';
import type { ChangeHandlers } from '../ledger/service';
import { selectionSql } from '../photos/selection';
import type { SqlCondition } from '../search/compile';

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
      const id = markId ?? (await nextId(tx));
      if (before && before.name !== name)
        await recordMark(entryId, { sql: 'select id from photo where mark = $1', bind: [before.name] }, name, tx);
      await record(entryId, before, { id, name, name_folded: foldText(name), letter, colour }, tx);
      return () => (before ? `Change the mark “${before.name}”` : `Define the mark “${name}”`);
    },

    async removeMark({ markId }, { tx, entryId }) {
      const before = await requireMark(markId, tx);
      await record(entryId, before, null, tx);
      return () => `Remove the mark “${before.name}”; photos keep it as a word`;
    },
  };

  /** Records that photos (a statement with `bind`) get a mark; only those whose mark differs. */
  async function recordMark(entryId: number, photos: SqlCondition, mark: string, tx: Transaction): Promise<void> {
    const bind = [...photos.bind];
    const [entry, wanted, folded] = [`$${bind.push(entryId)}`, `$${bind.push(mark)}`, `$${bind.push(foldText(mark))}`];
    await database.rows(
      `insert into ledger_photo (entry_id, photo_id, aspect, key, before, after)
       select ${entry}::int, p.id, 'mark', 0, jsonb_build_object('name', p.mark, 'folded', p.mark_folded),
         jsonb_build_object('name', ${wanted}::text, 'folded', ${folded}::text)
       from (${photos.sql}) chosen join photo p on p.id = chosen.id where p.mark <> ${wanted}::text`,
      bind,
      tx,
    );
  }

  async function requireMark(id: number, tx: Transaction): Promise<MarkRow> {
    const row = await database.row<MarkRow>('select * from mark where id = $1', [id], tx);
    if (!row) throw new StellinError('notFound', { what: 'such mark (it may have been removed meanwhile)' });
    return row;
  }

  async function nextId(tx: Transaction): Promise<number> {
    const row = await database.row<{ id: string }>(
      `select nextval(pg_get_serial_sequence('mark', 'id')) as id`,
      [],
      tx,
    );
    return Number(row?.id);
  }

  async function record(
    entryId: number,
    before: MarkRow | null,
    after: MarkRow | null,
    tx: Transaction,
  ): Promise<void> {
    await database.rows(
      `insert into ledger_object (entry_id, kind, object_id, before, after) values ($1, 'mark', $2, $3::jsonb, $4::jsonb)`,
      [entryId, (after ?? before)?.id, before && JSON.stringify(before), after && JSON.stringify(after)],
      tx,
    );
  }
}
