// What changes to the clocks of cameras do.

import type { Database, Transaction } from '../database/database';
import { StellinError } from '../errors';
import { recordObject } from '../ledger/recordStore';
import type { ChangeHandlers } from '../ledger/service';
import { listClocks, type CameraClockRecord } from './clockStore';

export function clockChanges(database: Database): Pick<ChangeHandlers, 'saveCameraClock' | 'removeCameraClock'> {
  const requireClock = async (id: number, tx: Transaction): Promise<CameraClockRecord> => {
    const found = (await listClocks(database, tx)).find((clock) => clock.id === id);
    if (!found) throw new StellinError('notFound', { what: 'such clock (it may have been removed meanwhile)' });
    return found;
  };

  return {
    async saveCameraClock({ clockId, camera, from, until, aheadSeconds, note }, { tx, entryId, accountId }) {
      if (from > until)
        throw new StellinError('clockRefused', { name: camera, why: 'its last day lies before the first' });
      const before = clockId === null ? null : await requireClock(clockId, tx);
      const after = {
        ...{ camera, from_day: from, until_day: until, ahead_seconds: aheadSeconds, note },
        created_by: before ? before.created_by : accountId,
      };
      await recordObject<CameraClockRecord>(database, entryId, 'camera_clock', before, after, tx);
      return () => `${before ? 'Change' : 'Note'} the clock of “${camera}”`;
    },

    async removeCameraClock({ clockId }, { tx, entryId }) {
      const before = await requireClock(clockId, tx);
      await recordObject<CameraClockRecord>(database, entryId, 'camera_clock', before, null, tx);
      return () => `Forget the clock of “${before.camera}”`;
    },
  };
}
