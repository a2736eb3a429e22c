// What changes to presets do.

import type { Database, Transaction } from '../database/database';
import { StellinError } from '../errors';
import { recordObject } from '../ledger/recordStore';
import type { ChangeHandlers } from '../ledger/service';
import * as store from './store';

export function deliveringChanges(database: Database): Pick<ChangeHandlers, 'savePreset' | 'removePreset'> {
  /** A preset that somebody may use, and so change: those for everybody are everybody’s. */
  const requirePreset = async (id: number, accountId: number | null, tx: Transaction): Promise<store.PresetRow> => {
    const row = (await store.listPresets(database, accountId, tx)).find((preset) => preset.id === id);
    if (!row) throw new StellinError('notFound', { what: 'such preset (it may have been removed meanwhile)' });
    return row;
  };
  return {
    async savePreset({ kind: _, presetId, shared, ...given }, { tx, entryId, accountId }) {
      const before = presetId === null ? null : await requirePreset(presetId, accountId, tx);
      const owner_id = shared ? null : accountId;
      const all = await store.listPresets(database, accountId, tx);
      if (all.some((other) => other.id !== presetId && other.owner_id === owner_id && other.name === given.name))
        throw new StellinError('preparedExists', { what: 'a preset', name: given.name });
      await recordObject<store.PresetRow>(
        database,
        entryId,
        'preset',
        before,
        {
          ...given,
          owner_id,
          version: (before?.version ?? 0) + 1,
          created_by: before ? before.created_by : accountId,
        },
        tx,
      );
      return () => `${before ? 'Change' : 'Make'} the preset “${given.name}”`;
    },

    async removePreset({ presetId }, { tx, entryId, accountId }) {
      const before = await requirePreset(presetId, accountId, tx);
      await recordObject<store.PresetRow>(database, entryId, 'preset', before, null, tx);
      return () => `Remove the preset “${before.name}”`;
    },
  };
}
