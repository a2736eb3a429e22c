// The tables of jobs.

import { double, integer, json, moment, table, text, uuid } from './table';

/** Jobs: the queue, what runs, and what has run. */
export const JOB_RUN = table('job_run', {
  id: uuid({ key: true }),
  kind: text(),
  title: text(),
  state: text({ preset: true }),
  /** run, pause or cancel: what people want of it. */
  wish: text({ preset: true }),
  /** As its kind understands them. */
  parameters: json(),
  accountId: integer({ orNull: true, of: 'account' }),
  done: integer({ preset: true }),
  total: integer({ preset: true }),
  /** What it is doing, as people read it. */
  current: text({ preset: true }),
  /** The drive it waits for. */
  waitsFor: uuid({ orNull: true }),
  /** Counts, see contract/jobKinds. */
  result: json({ preset: true }),
  /** The process that works on it, by the number of the lock that it holds. */
  owner: text({ orNull: true }),
  /** Time worked, without pauses. */
  secondsActive: double({ preset: true }),
  createdAt: moment({ preset: true }),
  startedAt: moment({ orNull: true }),
  finishedAt: moment({ orNull: true }),
});

/** What a job could not do. */
export const JOB_FAILURE = table('job_failure', {
  id: integer({ key: true, preset: true }),
  jobId: uuid({ of: 'job_run' }),
  subject: text(),
  message: text(),
});
