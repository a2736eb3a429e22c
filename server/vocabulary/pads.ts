// Term pads: handfuls of terms on single keys, everybody's or one's own.

import { PAD_KEYS } from '@stellin/contract/termChanges';
import type { TermPad } from '@stellin/contract/vocabulary';
import type { Database, Transaction } from '../database/database';
import { StellinError } from '../errors';
import type { ChangeHandlers } from '../ledger/service';
import { nameOf } from './naming';
import { requireAssignable } from './required';
import type { VocabularyIndex } from '../catalogue/vocabularySnapshot';
import { recordObject } from '../ledger/recordStore';
import { findPad, padNamed, visiblePads, type PadRow } from './padStore';

/** The pads that somebody may use. */
export async function listPads(database: Database, index: VocabularyIndex, accountId: number): Promise<TermPad[]> {
  const { tree } = await index.current();
  const rows = await visiblePads(database, accountId);
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
      const taken = await padNamed(database, name, owner, padId, tx);
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
    const pad = await findPad(database, id, accountId, tx);
    if (!pad) throw new StellinError('notFound', { what: 'such pad (it may have been removed meanwhile)' });
    return pad;
  }
}
