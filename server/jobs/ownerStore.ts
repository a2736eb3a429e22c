// The locks by which processes own jobs.

import type { Client } from 'pg';
import type { Database } from '../database/database';

/** Names these locks among PostgreSQL's advisory locks. */
const OWNERS = 7_351_002;

/** Takes the lock of an owner for as long as the connection lives; false when another has it. */
export async function lockOwner(client: Client, key: number): Promise<boolean> {
  const { rows } = await client.query<{ taken: boolean }>('select pg_try_advisory_lock($1, $2) as taken', [
    OWNERS,
    key,
  ]);
  return rows[0]?.taken === true;
}

/** A condition on a column with owners: nobody holds the lock of that one any more. Whoever gets it knows that; it is let go with the transaction. */
export function isGoneSql(owner: string): string {
  return `case when ${owner} ~ '^[0-9]{1,10}$' then pg_try_advisory_xact_lock(${OWNERS}, ${owner}::int) else true end`;
}

/** Puts jobs back into the queue whose owner's connection is gone, and those named. Returns their ids. */
export async function requeueOrphans(database: Database, others: readonly string[]): Promise<string[]> {
  const running = await database.row(`select 1 as found from job_run where state = 'running' limit 1`);
  if (!running) return [];
  return database.transaction(async (tx) => {
    const requeued = await database.rows<{ id: string }>(
      `with owners as materialized (select distinct owner from job_run where state = 'running' and owner is not null),
       gone as materialized (select owner from owners where ${isGoneSql('owner')})
       update job_run set state = 'queued', owner = null
       where state = 'running' and (owner is null or owner in (select owner from gone) or id = any($1::uuid[])) returning id`,
      [others],
      tx,
    );
    return requeued.map(({ id }) => id);
  });
}
