// What taking a table in does: each photo that a row is about gets what the row says, all of it in one step.

import { countText } from '@stellin/contract/wording';
import type { Database } from '../database/database';
import type { DescriptionRecorder } from '../describing/service';
import type { ChangeHandlers } from '../ledger/service';
import { editsOf, type IncomingTables } from './service';
import * as store from './store';

interface Parts {
  database: Database;
  tables: Pick<IncomingTables, 'settled'>;
  descriptions: Pick<DescriptionRecorder, 'recordEach' | 'recordGiven'>;
}

export function incomingTableChanges({ database, tables, descriptions }: Parts): Pick<ChangeHandlers, 'takeTable'> {
  return {
    async takeTable({ tableId, name }, context) {
      const { photos, saysOf } = await tables.settled(tableId, context.person, context.tx);
      await descriptions.recordEach(
        photos,
        async (page) => {
          const says = await saysOf(page.map(({ id }) => id));
          await descriptions.recordGiven([...says.values()], context);
          return editsOf(says);
        },
        context,
      );
      await store.changeTable(database, tableId, { entryId: context.entryId }, context.tx);
      return (count) => `Take in the table “${name}”: ${countText(count, 'photo')}`;
    },
  };
}
