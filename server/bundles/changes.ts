// What changes to bundles do.

import type { Selection } from '@stellin/contract/photos';
import { countText } from '@stellin/contract/wording';
import type { Database } from '../database/database';
import { StellinError } from '../errors';
import type { ChangeContext, ChangeHandlers } from '../ledger/service';
import { selectionSql } from '../catalogue/selection';
import { AS_IT_IS, countInBundle, nextBundleNumber, recordBundles, type Wanted } from './store';

type Kinds = 'bundlePhotos' | 'unbundlePhotos' | 'chooseLead' | 'openBundles' | 'closeBundles';

export function bundleChanges(database: Database): Pick<ChangeHandlers, Kinds> {
  const record = (selection: Selection, wanted: Wanted, { tx, entryId }: ChangeContext): Promise<void> =>
    recordBundles(database, entryId, selectionSql(selection), wanted, tx);
  const opening =
    (closed: boolean, verb: string): ChangeHandlers['openBundles'] & ChangeHandlers['closeBundles'] =>
    async ({ selection }, context) => {
      await record(selection, { ...AS_IT_IS, closed: String(closed) }, context);
      return (photos) => `${verb} bundles of ${countText(photos, 'photo')}`;
    };

  return {
    async bundlePhotos({ selection }, context) {
      const number = await nextBundleNumber(database, context.tx);
      await record(
        selection,
        {
          bundle: `case when meant then ${number} else bundle end`,
          closed: 'meant or was_closed',
          wish: 'false',
          unbundled: 'unbundled and not meant',
        },
        context,
      );
      const made = await countInBundle(database, context.entryId, number, context.tx);
      if (made === 0) throw new StellinError('nothingToDo', { why: 'A bundle needs two photos at least.' });
      return () => `Bundle ${countText(made, 'photo')}`;
    },

    async unbundlePhotos({ selection }, context) {
      await record(
        selection,
        {
          ...AS_IT_IS,
          bundle: 'case when meant then null::int else bundle end',
          unbundled: 'unbundled or (meant and bundle is not null)',
        },
        context,
      );
      return (photos) => `Unbundle ${countText(photos, 'photo')}`;
    },

    async chooseLead({ photoId }, context) {
      // Only the photo itself is meant: in a closed bundle it may be one that is folded away.
      const selection = { query: null, minus: [], plus: [photoId] };
      await record(selection, { ...AS_IT_IS, wish: `id = ${photoId}` }, context);
      return () => 'Choose the lead of a bundle';
    },

    openBundles: opening(false, 'Open'),
    closeBundles: opening(true, 'Close'),
  };
}
