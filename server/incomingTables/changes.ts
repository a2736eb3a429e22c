// What taking a table in does: each photo that a row is about gets what the row says, all of it in one step.

import { foldText } from '@stellin/core/text/words';
import { countText } from '@stellin/contract/wording';
import type { FieldEdit } from '@stellin/core/describing/editing';
import type { SqlCondition } from '../catalogue/compile';
import type { Database, Transaction } from '../database/database';
import type { ChangeContext, ChangeHandlers } from '../ledger/service';
import type { PhotoSays } from './says';
import { editsOf, type IncomingTables } from './service';
import * as store from './store';

interface Parts {
  database: Database;
  tables: Pick<IncomingTables, 'settled'>;
  /** Records edits of photos (a statement), worked out page by page. */
  recordEach: (
    photos: SqlCondition,
    editsOf: (page: readonly { id: number }[]) => Promise<ReadonlyMap<number, readonly FieldEdit[]>>,
    context: ChangeContext,
  ) => Promise<void>;
  /** Makes keywords known, so that they can be recorded. */
  noteKeywords: (keywords: readonly string[], tx: Transaction) => Promise<void>;
}

export function incomingTableChanges({
  database,
  tables,
  recordEach,
  noteKeywords,
}: Parts): Pick<ChangeHandlers, 'takeTable'> {
  const recordOthers = async (says: readonly PhotoSays[], { entryId, tx }: ChangeContext) => {
    const terms = says.flatMap(({ photoId, terms: { given, taken } }) => [
      ...given.map((termId) => ({ photoId, termId, given: true })),
      ...taken.map((termId) => ({ photoId, termId, given: false })),
    ]);
    const keywords = says.flatMap(({ photoId, keywords: { given, taken } }) => [
      ...given.map((keyword) => ({ photoId, keyword, given: true })),
      ...taken.map((keyword) => ({ photoId, keyword, given: false })),
    ]);
    await store.recordTerms(database, entryId, terms, tx);
    if (keywords.length > 0) await noteKeywords([...new Set(keywords.map(({ keyword }) => keyword))], tx);
    await store.recordKeywords(database, entryId, keywords, tx);
    const rated = says.flatMap(({ photoId, rating }) => (rating === undefined ? [] : [{ photoId, rating }]));
    await store.recordRatings(database, entryId, rated, tx);
    const marked = says.flatMap(({ photoId, mark }) =>
      mark === undefined ? [] : [{ photoId, name: mark, folded: foldText(mark) }],
    );
    await store.recordMarks(database, entryId, marked, tx);
  };

  return {
    async takeTable({ tableId, name }, context) {
      const { photos, saysOf } = await tables.settled(tableId, context.person, context.tx);
      await recordEach(
        photos,
        async (page) => {
          const says = await saysOf(page.map(({ id }) => id));
          await recordOthers([...says.values()], context);
          return editsOf(says);
        },
        context,
      );
      await store.changeTable(database, tableId, { entryId: context.entryId }, context.tx);
      return (count) => `Take in the table “${name}”: ${countText(count, 'photo')}`;
    },
  };
}
