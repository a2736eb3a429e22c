// Term pads: handfuls of terms on single keys, everybody's or one's own.

import { PAD_KEYS } from '@stellin/contract/termChanges';
import type { TermPad } from '@stellin/contract/vocabulary';
import { mayAlter, type Person } from '../catalogue/viewer';
import type { Database, Transaction } from '../database/database';
import { StellinError } from '../errors';
import type { ChangeHandlers } from '../ledger/service';
import { nameOf } from './naming';
import { requireAssignable } from './required';
import type { VocabularyIndex } from '../catalogue/vocabularySnapshot';
import { recordObject } from '../ledger/recordStore';
import { findPad, givenToday, padNamed, visiblePads, type PadRow } from './padStore';

/** The pads that somebody may use; behind them one that fills itself with the terms they gave today. */
export async function listPads(database: Database, index: VocabularyIndex, person: Person): Promise<TermPad[]> {
  const { tree } = await index.current();
  const [rows, today] = await Promise.all([
    visiblePads(database, person.accountId),
    givenToday(database, person.accountId, PAD_KEYS.length),
  ]);
  const terms = today.filter((id) => {
    const term = tree.get(id);
    return term !== undefined && !term.deprecated && !term.heading;
  });
  const ofToday: TermPad = {
    ...{ id: TODAY, name: 'Given today', shared: true, mine: false, mayChange: false },
    // In the order in which they were given first: so a term stays on its key.
    keys: terms.flatMap((id, i) => {
      const key = PAD_KEYS[i];
      return key === undefined ? [] : [{ key, term: nameOf(tree, id) }];
    }),
  };
  const kept = rows.map(({ keys, ...pad }) => ({
    id: pad.id,
    name: pad.name,
    shared: pad.owner_id === null,
    mine: pad.owner_id === person.accountId,
    mayChange: mayAlter(person, pad),
    keys: PAD_KEYS.flatMap((key) => {
      const termId = keys[key];
      return termId !== undefined && tree.get(termId) ? [{ key, term: nameOf(tree, termId) }] : [];
    }),
  }));
  return terms.length > 0 ? [...kept, ofToday] : kept;
}

/** The number of the pad that fills itself: no pad that is kept has it. */
const TODAY = 0;

export function padChanges(database: Database): Pick<ChangeHandlers, 'definePad' | 'removePad'> {
  return {
    async definePad({ padId, name, shared, keys: given }, { tx, entryId, accountId, person }) {
      const keys = Object.fromEntries(
        Object.entries(given).flatMap(([key, id]) => (id === undefined ? [] : [[key, id]])),
      );
      const before = padId === null ? null : await requirePad(padId, person, tx);
      const ids = Object.values(keys);
      await requireAssignable(database, ids, tx);
      const owner = shared ? null : accountId;
      const taken = await padNamed(database, name, owner, padId, tx);
      if (taken) throw new StellinError('padExists', { name });
      await recordObject<PadRow>(
        database,
        entryId,
        'term_pad',
        before,
        { name, owner_id: owner, keys, created_by: before ? before.created_by : accountId },
        tx,
      );
      return () => (before ? `Change the pad “${name}”` : `Make the pad “${name}”`);
    },

    async removePad({ padId }, { tx, entryId, person }) {
      const before = await requirePad(padId, person, tx);
      await recordObject<PadRow>(database, entryId, 'term_pad', before, null, tx);
      return () => `Remove the pad “${before.name}”`;
    },
  };

  /** A pad that somebody may change. */
  async function requirePad(id: number, person: Person, tx: Transaction): Promise<PadRow> {
    const pad = await findPad(database, id, person.accountId, tx);
    if (!pad) throw new StellinError('notFound', { what: 'such pad (it may have been removed meanwhile)' });
    if (!mayAlter(person, pad)) throw new StellinError('notYours', { name: pad.name });
    return pad;
  }
}
