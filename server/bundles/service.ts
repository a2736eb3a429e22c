// Bundles that make themselves: raw and JPEG of one shutter press, known by their name in one folder.

import type { Database, Transaction } from '../database/database';
import { baseNameSql } from '../catalogue/baseName';
import { setState, derivedStates } from './states';
import { kindsWhere, type FileKind } from '@stellin/core/metadata/containers/index';

export type Bundles = ReturnType<typeof bundleService>;

const BASE = baseNameSql('p.name');
const RAW = sqlList(kindsWhere(({ raw }) => raw));
/** What a program shows at once beside them. */
const SHOWN: FileKind = 'jpeg';

function sqlList(kinds: readonly FileKind[]): string {
  return `(${kinds.map((kind) => `'${kind}'`).join(', ')})`;
}

export function bundleService(database: Database) {
  return {
    /** Bundles what was just read with what belongs to it. What is in a bundle, or was taken out of one by hand, stays as it is. */
    async afterReading(photoIds: readonly number[], tx: Transaction): Promise<void> {
      await database.rows(
        `with read as materialized (
           select distinct p.folder_id, ${BASE} as base from photo p where p.id = any($1)
             and exists (select 1 from photo r where r.folder_id = p.folder_id and r.kind in ${RAW})),
         pairs as materialized (
           select array_agg(p.id) as ids from read join photo p on p.folder_id = read.folder_id and ${BASE} = read.base
           where (p.kind = '${SHOWN}' or p.kind in ${RAW}) and p.shown group by read.folder_id, read.base
           having bool_or(p.kind = '${SHOWN}') and bool_or(p.kind in ${RAW}) and bool_and(p.bundle is null and not p.unbundled)),
         numbered as materialized (select ids, nextval('bundle_number')::int as number from pairs),
         derived as (${derivedStates(
           `select p.id, p.kind, p.shown, p.leads, n.number as bundle, false as unbundled, true as closed, false as wish
            from numbered n cross join unnest(n.ids) as one (id) join photo p on p.id = one.id`,
         )})
         update photo p set ${setState('d.state')} from derived d where p.id = d.id`,
        [photoIds],
        tx,
      );
    },

    /** Puts bundles right that an undo could reach only in part: one photo leads, and the others are folded into that one. */
    async afterChange(entryId: number, tx: Transaction): Promise<void> {
      await database.rows(
        `with touched as materialized (
           select distinct number from ledger_photo l cross join lateral (values ((l.before ->> 'bundle')::int), ((l.after ->> 'bundle')::int)) as v (number)
           where l.entry_id = $1 and l.aspect = 'bundle' and number is not null),
         derived as (${derivedStates(
           `select p.id, p.kind, p.shown, p.leads, p.bundle, p.unbundled, bool_or(p.folded_into is not null) over (partition by p.bundle) as closed, false as wish
            from photo p where p.bundle in (select number from touched)`,
         )})
         update photo p set ${setState('d.state')} from derived d
         where p.id = d.id and (p.bundle, p.leads, p.folded_into) is distinct from ((d.state ->> 'bundle')::int, (d.state ->> 'leads')::boolean, (d.state ->> 'foldedInto')::int)`,
        [entryId],
        tx,
      );
    },
  };
}
