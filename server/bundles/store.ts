// The tables’ side of bundles.

import { kindsWhere, type FileKind } from '@stellin/core/metadata/containers/index';
import { baseNameSql } from '../catalogue/baseName';
import type { SqlCondition } from '../catalogue/compile';
import { recordPhotos } from '../ledger/recordStore';
import { BUNDLE_STATE, derivedStates, setState } from './states';
import type { Database, Transaction } from '../database/database';

/** The number of a bundle that is made. */
export async function nextBundleNumber(database: Database, tx: Transaction): Promise<number> {
  const row = await database.row<{ number: number }>(`select nextval('bundle_number')::int as number`, [], tx);
  if (!row) throw new Error('there is no next number of a bundle');
  return row.number;
}

/** How many photos an entry puts into a bundle. */
export async function countInBundle(
  database: Database,
  entryId: number,
  number: number,
  tx: Transaction,
): Promise<number> {
  const row = await database.row<{ photos: number }>(
    `select count(*)::int as photos from ledger_photo where entry_id = $1 and aspect = 'bundle' and (after ->> 'bundle')::int = $2`,
    [entryId, number],
    tx,
  );
  return row?.photos ?? 0;
}

/** What is wanted of the photos of all bundles concerned; `meant` tells whether a photo was chosen itself. */
export interface Wanted {
  bundle: string;
  closed: string;
  wish: string;
  unbundled: string;
}

export const AS_IT_IS: Wanted = { bundle: 'bundle', closed: 'was_closed', wish: 'false', unbundled: 'unbundled' };

/** Records what becomes of photos that are chosen, and of the others in their bundles. */
export async function recordBundles(
  database: Database,
  entryId: number,
  chosen: SqlCondition,
  wanted: Wanted,
  tx: Transaction,
): Promise<void> {
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
}

/** Records that photos come into the bundles of others, which are made where there are none. A bundle that is open stays so. */
export async function recordJoining(
  database: Database,
  entryId: number,
  pairs: readonly { photoId: number; originalId: number }[],
  tx: Transaction,
): Promise<void> {
  if (pairs.length === 0) return;
  const numbers = await database.rows<{ id: number; number: number }>(
    `with pairs as (select * from jsonb_to_recordset($1::jsonb) x ("photoId" int, "originalId" int)),
       bundles as materialized (select o.id, coalesce(o.bundle, nextval('bundle_number')::int) as number
         from (select distinct p.id, p.bundle from photo p join pairs on pairs."originalId" = p.id) o)
     select id, number from bundles union all select x."photoId", b.number from pairs x join bundles b on b.id = x."originalId"`,
    [JSON.stringify(pairs)],
    tx,
  );
  const ids = numbers.map(({ id }) => id);
  await recordBundles(
    database,
    entryId,
    { sql: 'select unnest($1::int[]) as id', bind: [ids, JSON.stringify(numbers)] },
    {
      bundle: `coalesce((select n.number from jsonb_to_recordset($2::jsonb) n (id int, number int) where n.id = concerned.id), bundle)`,
      closed: `coalesce(was_closed, true) or bundle is null`,
      wish: 'false',
      unbundled: 'unbundled and not meant',
    },
    tx,
  );
}

const BASE = baseNameSql('p.name');
const RAW = sqlList(kindsWhere(({ raw }) => raw));
/** What a program shows at once beside them. */
const SHOWN: FileKind = 'jpeg';

function sqlList(kinds: readonly FileKind[]): string {
  return `(${kinds.map((kind) => `'${kind}'`).join(', ')})`;
}

/** Bundles raw files and JPEGs of one name in one folder, around photos that were just read, unless somebody decided otherwise. */
export async function bundleRead(database: Database, photoIds: readonly number[], tx: Transaction): Promise<void> {
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
}

/** Puts the bundles right that an entry touched: one photo leads, and the others are folded into that one. */
export async function settleBundles(database: Database, entryId: number, tx: Transaction): Promise<void> {
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
}
