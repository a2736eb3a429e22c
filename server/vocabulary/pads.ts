// Term pads: handfuls of terms on single keys, everybody's or one's own.

import { PAD_KEYS } from '@stellin/contract/termChanges';
import type { TermPad } from '@stellin/contract/vocabulary';
import type { Database, Transaction } from '../database/database';
import { StellinError } from '../errors';
import type { ChangeHandlers } from '../ledger/service';
import { nameOf } from './naming';
import { requireAssignable } from './required';
import type { VocabularyIndex } from '../catalogue/vocabularySnapshot';
import { recordObject } from '../ledger/recording';

interface PadRow {
  id: number;
  name: string;
  owner_id: number | null;
  keys: Record<string, number>;
}

/** The pads that somebody may use. */
export async function listPads(database: Database, index: VocabularyIndex, accountId: number): Promise<TermPad[]> {
  const { tree } = await index.current();
  const rows = await database.rows<PadRow>(
    'select id, name, owner_id, keys from term_pad where owner_id is null or owner_id = $1 order by owner_id is not null, name',
    [accountId],
  );
  return rows.map(({ id, name, owner_id, keys }) => ({
    id,
    name,
    shared: owner_id === null,
    mine: owner_id === accountId,
    keys: PAD_KEYS.flatMap((key) => {
      const termId = keys[key];
      return termId !== undefined && tree.get(termId) ? [{ key, term: nameOf(tree, termId) }] : [];
    }),
  }));
}

export function padChanges(database: Database): Pick<ChangeHandlers, 'definePad' | 'removePad'> {
  return {
    async definePad({ padId, name, shared, keys: given }, { tx, entryId, accountId }) {
      const keys = Object.fromEntries(
        Object.entries(given).flatMap(([key, id]) => (id === undefined ? [] : [[key, id]])),
      );
      const before = padId === null ? null : await requirePad(padId, accountId, tx);
      const ids = Object.values(keys);
      await requireAssignable(database, ids, tx);
      const owner = shared ? null : accountId;
      const taken = await database.row(
        'select 1 as taken from term_pad where name = $1 and owner_id is not distinct from $2::int and id is distinct from $3::int',
        [name, owner, padId],
        tx,
      );
      if (taken) throw new StellinError('padExists', { name });
      await recordObject<PadRow>(database, entryId, 'term_pad', before, { name, owner_id: owner, keys }, tx);
      return () => (before ? `Change the pad “${name}”` : `Make the pad “${name}”`);
    },

    async removePad({ padId }, { tx, entryId, accountId }) {
      const before = await requirePad(padId, accountId, tx);
      await recordObject<PadRow>(database, entryId, 'term_pad', before, null, tx);
      return () => `Remove the pad “${before.name}”`;
    },
  };

  async function requirePad(id: number, accountId: number, tx: Transaction): Promise<PadRow> {
    const pad = await database.row<PadRow>(
      'select id, name, owner_id, keys from term_pad where id = $1 and (owner_id is null or owner_id = $2)',
      [id, accountId],
      tx,
    );
    if (!pad) throw new StellinError('notFound', { what: 'such pad (it may have been removed meanwhile)' });
    return pad;
  }
}
