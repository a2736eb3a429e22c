// What changes to bundles do.

import type { Selection } from '@stellin/contract/photos';
import { countText } from '@stellin/contract/wording';
import type { Database } from '../database/database';
import { StellinError } from '../errors';
import type { ChangeContext, ChangeHandlers } from '../ledger/service';
import { selectionSql } from '../catalogue/selection';
import { BUNDLE_STATE, derivedStates } from './states';
import { recordPhotos } from '../ledger/recording';

type Kinds = 'bundlePhotos' | 'unbundlePhotos' | 'chooseLead' | 'openBundles' | 'closeBundles';

/** What is wanted of the photos of all bundles concerned; `meant` tells whether a photo was chosen itself. */
interface Wanted {
  bundle: string;
  closed: string;
  wish: string;
  unbundled: string;
}

const AS_IT_IS: Wanted = { bundle: 'bundle', closed: 'was_closed', wish: 'false', unbundled: 'unbundled' };

export function bundleChanges(database: Database): Pick<ChangeHandlers, Kinds> {
  const record = async (selection: Selection, wanted: Wanted, { tx, entryId }: ChangeContext): Promise<void> => {
    const chosen = selectionSql(selection);
    const bind = [...chosen.bind];
    const sql = `with meant as materialized (select id from (${chosen.sql}) chosen),
       concerned as (
         select p.id, p.kind, p.shown, p.leads, p.bundle, p.unbundled, m.id is not null as meant,
           bool_or(p.folded_into is not null) over (partition by p.bundle) as was_closed
         from photo p left join meant m on m.id = p.id
         where m.id is not null or p.bundle in (select o.bundle from photo o join meant on meant.id = o.id where o.bundle is not null)),
       derived as (${derivedStates(
         `select id, kind, shown, leads, ${wanted.bundle} as bundle, ${wanted.unbundled} as unbundled, ${wanted.closed} as closed, ${wanted.wish} as wish from concerned`,
       )})
       select p.id, 0, ${BUNDLE_STATE}, d.state from derived d join photo p on p.id = d.id where ${BUNDLE_STATE} <> d.state`;
    await recordPhotos(database, entryId, 'bundle', { sql, bind }, tx);
  };
  const opening =
    (closed: boolean, verb: string): ChangeHandlers['openBundles'] & ChangeHandlers['closeBundles'] =>
    async ({ selection }, context) => {
      await record(selection, { ...AS_IT_IS, closed: String(closed) }, context);
      return (photos) => `${verb} bundles of ${countText(photos, 'photo')}`;
    };

  return {
    async bundlePhotos({ selection }, context) {
      const row = await database.row<{ number: number }>(
        `select nextval('bundle_number')::int as number`,
        [],
        context.tx,
      );
      const number = row?.number ?? 0;
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
      const made = await database.row<{ photos: number }>(
        `select count(*)::int as photos from ledger_photo where entry_id = $1 and aspect = 'bundle' and (after ->> 'bundle')::int = $2`,
        [context.entryId, number],
        context.tx,
      );
      if (!made?.photos) throw new StellinError('nothingToDo', { why: 'A bundle needs two photos at least.' });
      return () => `Bundle ${countText(made.photos, 'photo')}`;
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
