// The jobs table: progress, wishes and results as data.

import type { Job } from '@stellin/contract/jobs';
import type { Database, Rows, Transaction } from '../database/database';
import { isoSql } from '../database/isoSql';

export interface JobRow extends Job {
  wish: 'run' | 'pause' | 'cancel';
  parameters: unknown;
  accountId: number | null;
}

const COLUMNS = `
  id, kind, title, state, done, total, current, result, wish, parameters, account_id as "accountId",
  (select count(*)::int from job_failure f where f.job_id = job_run.id) as failures,
  ${isoSql('created_at')} as "createdAt", ${isoSql('started_at')} as "startedAt", ${isoSql('finished_at')} as "finishedAt",
  seconds_active as "secondsActive"`;

export async function insertJob(
  database: Database,
  job: { id: string; kind: string; title: string; parameters: unknown; accountId: number | null },
  tx?: Transaction,
): Promise<void> {
  await database.rows(
    'insert into job_run (id, kind, title, parameters, account_id) values ($1, $2, $3, $4, $5)',
    [job.id, job.kind, job.title, JSON.stringify(job.parameters), job.accountId],
    tx,
  );
}

export async function findJob(database: Database, id: string, tx?: Transaction): Promise<JobRow | undefined> {
  return database.row<JobRow>(`select ${COLUMNS} from job_run where id = $1`, [id], tx);
}

/** Jobs that have not ended, and those that ended within the last day: of an account, or all. */
export async function recentJobs(database: Database, accountId: number | null): Promise<JobRow[]> {
  return database.rows<JobRow>(
    `select ${COLUMNS} from job_run
     where (finished_at is null or finished_at > now() - interval '1 day') and ($1::int is null or account_id = $1)
     order by created_at desc limit 100`,
    [accountId],
  );
}

/** A job `j` of a drive is for those who see the drive ($1); of one that nobody sees, or of none, for anybody. */
const REACHABLE = `(j.parameters ->> 'driveId' is null or not exists (select 1 from drive_seen s where s.drive_id::text = j.parameters ->> 'driveId')
  or exists (select 1 from drive_seen s where s.drive_id::text = j.parameters ->> 'driveId' and s.seer = $1))`;

/** Takes the oldest queued job of some kinds for this process. Undefined when there is none that nobody else has. */
export async function claimNext(
  database: Database,
  owner: string,
  kinds: readonly string[],
): Promise<string | undefined> {
  const claimed = await database.row<{ id: string }>(
    `update job_run set state = 'running', owner = $1, started_at = coalesce(started_at, now()), current = '', waits_for = null
     where id = (select id from job_run j where state = 'queued' and wish = 'run' and kind = any($2) and ${REACHABLE}
       order by created_at, id limit 1 for update skip locked)
     returning id`,
    [owner, kinds],
  );
  return claimed?.id;
}

/** Says of queued jobs of some kinds what they wait for. */
export async function noteWaitingForRoom(database: Database, why: string, kinds: readonly string[]): Promise<void> {
  const rows = await database.rows(
    `update job_run set current = $1 where state = 'queued' and wish = 'run' and kind = any($2) and current <> $1 returning id`,
    [why, kinds],
  );
  if (rows.length > 0) await database.notify(['jobs']);
}

/** Writes progress and tells what a person wishes meanwhile; undefined when the job is no longer this process's. */
export async function reportProgress(
  database: Rows,
  id: string,
  owner: string,
  progress: { done: number; total: number; current: string; seconds: number },
): Promise<JobRow['wish'] | undefined> {
  const row = await database.row<{ wish: JobRow['wish'] }>(
    `update job_run set done = $3, total = $4, current = $5, seconds_active = seconds_active + $6
     where id = $1 and owner = $2 and state = 'running' returning wish`,
    [id, owner, progress.done, progress.total, progress.current, progress.seconds],
  );
  return row?.wish;
}

export interface Ending {
  state: 'queued' | 'paused' | 'waiting' | 'done' | 'failed' | 'cancelled';
  current?: string;
  waitsFor?: string;
  result?: Job['result'];
}

export async function leaveJob(database: Database, id: string, owner: string, ending: Ending): Promise<void> {
  await database.rows(
    `update job_run set state = $3, current = $4, waits_for = $5, result = result || $6::jsonb, owner = null,
       finished_at = case when $3 in ('done', 'failed', 'cancelled') then now() end
     where id = $1 and owner = $2`,
    [id, owner, ending.state, ending.current ?? '', ending.waitsFor ?? null, JSON.stringify(ending.result ?? {})],
  );
}

export async function setWish(database: Database, id: string, wish: JobRow['wish']): Promise<void> {
  await database.rows('update job_run set wish = $2 where id = $1 and finished_at is null', [id, wish]);
  // A job that nobody is running has nobody to hear the wish.
  await database.rows(
    `update job_run set state = case $2 when 'pause' then 'paused' when 'cancel' then 'cancelled' else 'queued' end,
       finished_at = case when $2 = 'cancel' then now() end, waits_for = null
     where id = $1 and state in ('queued', 'paused', 'waiting')`,
    [id, wish],
  );
}

/** The jobs that a process is said to work on. */
export async function jobsOwnedBy(database: Database, owner: string): Promise<string[]> {
  const rows = await database.rows<{ id: string }>(`select id from job_run where state = 'running' and owner = $1`, [
    owner,
  ]);
  return rows.map(({ id }) => id);
}

/** Queues jobs that waited for a drive that is there now. */
/** Lets jobs go on that wait for a drive which a process sees. */
export async function releaseWaiting(database: Database, owner: string): Promise<void> {
  await database.rows(
    `update job_run set state = 'queued', waits_for = null
     where state = 'waiting' and waits_for in (select drive_id from drive_seen where seer = $1)`,
    [owner],
  );
}

export async function recordFailure(database: Database, id: string, subject: string, message: string): Promise<void> {
  await database.rows(
    `insert into job_failure (job_id, subject, message) values ($1, $2, $3)
     on conflict (job_id, subject) do update set message = excluded.message`,
    [id, subject, message],
  );
}

export async function failuresOf(database: Database, id: string): Promise<{ subject: string; message: string }[]> {
  return database.rows('select subject, message from job_failure where job_id = $1 order by id limit 1000', [id]);
}

/** A job of this kind that has not ended, if its parameters hold the given ones. */
export async function openJob(database: Database, kind: string, parameters: unknown): Promise<JobRow | undefined> {
  return database.row<JobRow>(
    `select ${COLUMNS} from job_run where kind = $1 and finished_at is null and parameters @> $2::jsonb limit 1`,
    [kind, JSON.stringify(parameters)],
  );
}
