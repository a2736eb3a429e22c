// Jobs: long work that survives the process. The table of jobs is the queue as well: whoever works takes the oldest that
// nobody has, and owns it as long as its connection lives. A job is made of small steps that can be repeated, so one that was cut off
// anywhere goes on by being run again.

import { randomUUID } from 'node:crypto';
import type { Logger } from 'pino';
import type { JobKindName } from '@stellin/contract/jobKinds';
import type { Job } from '@stellin/contract/jobs';
import { notifyOver, type Database } from '../database/database';
import { messageOf, StellinError, systemCode } from '../errors';
import { presenceAt, type Presence } from './presence';
import { requeueOrphans } from './ownerStore';
import type { RoomLeft } from './room';
import * as store from './store';

/** What a running job is given. */
export interface JobRun {
  readonly id: string;
  readonly parameters: unknown;
  readonly accountId: number | null;
  /** Progress as it was set last. */
  readonly done: number;
  readonly total: number;
  /** Sets progress. Throws when the job is to stop: let it pass through. Call it between steps. */
  progress(progress: { done?: number; total?: number; current?: string }): Promise<void>;
  /** Notes something that could not be done; the job goes on. */
  failure(subject: string, message: string): Promise<void>;
}

/** A kind of job. `run` returns figures that are kept as its result. */
export interface JobKind<Name extends string = JobKindName> {
  kind: Name;
  /** It takes room on the disk of the catalogue, and waits when there is none. */
  takesRoom?: true;
  run(run: JobRun): Promise<Job['result']>;
}

/** Thrown by a job whose drive has gone away: it waits and goes on when the drive returns. */
export class DriveGone extends Error {
  constructor(
    readonly driveId: string,
    label: string,
  ) {
    super(`waits for the drive “${label}”`);
  }
}

/** What a job needs of a drive: where that is away, the job waits for it. Other errors pass through. */
export async function orWaitFor<Result>(driveId: string, label: string, needed: Promise<Result>): Promise<Result> {
  try {
    return await needed;
  } catch (error) {
    throw systemCode(error) === 'driveAway' ? new DriveGone(driveId, label) : error;
  }
}

/** Starts a job, unless one like it is running already: then that one does. Other errors pass through. */
export async function unlessRunning(started: Promise<unknown>): Promise<void> {
  try {
    await started;
  } catch (error) {
    if (systemCode(error) !== 'alreadyRunning') throw error;
  }
}

class Stopped extends Error {
  constructor(readonly state: 'paused' | 'cancelled' | 'lost' | 'closing' | 'noRoom') {
    super(state);
  }
}

/** Whether a job ends because it was told to. */
export const isStop = (error: unknown): boolean => error instanceof Stopped;

export type Jobs = ReturnType<typeof jobService>;

/** Ends after which a job is taken up again. */
const GOES_ON: ReadonlySet<Stopped['state']> = new Set(['closing', 'lost', 'noRoom']);
const WAITS_FOR_ROOM = 'waits for room on the disk of the catalogue';

const takingRoom = (kinds: readonly JobKind<string>[]) =>
  kinds.filter(({ takesRoom }) => takesRoom).map(({ kind }) => kind);

/** Jobs that one process works on at a time. */
const MAX_RUNNING = 2;
const REPORT_MS = 250;
const TEND_MS = 1000;

interface JobOptions {
  /** Calls back when other processes may have queued a job; returns the way to stop. Else it is looked for every second. */
  onQueued?: (listener: () => void) => () => void;
  /** How much room there is for what jobs make; as much as they like if not given. */
  room?: RoomLeft;
  /** By which this process owns jobs, shared with others, who close it. */
  presence?: Presence;
}

export function jobService(database: Database, log: Logger, { onQueued, room, presence: shared }: JobOptions = {}) {
  // One closure for what its functions share; each of them fits a screen.
  const byKind = new Map<string, JobKind<string>>();
  const presence = shared ?? presenceAt(database.url);
  const running = new Map<string, Promise<void>>();
  let working = false;
  let closing = false;
  let stopListening: (() => void) | undefined;

  /** Takes jobs up until none is left or as many run as may. Asked for while it looks, it looks once more. */
  let looking: Promise<void> | undefined;
  let lookAgain = false;
  const takeUp = (): void => {
    lookAgain = true;
    looking ??= (async () => {
      while (lookAgain && working && !closing && running.size < MAX_RUNNING) {
        lookAgain = false;
        const { owner } = await presence.current();
        const id = await store.claimNext(database, owner, await kindsNow());
        if (id === undefined) continue;
        lookAgain = true;
        const performed = perform(id, owner)
          .catch((error: unknown) => log.error(error, 'job'))
          .finally(() => {
            running.delete(id);
            takeUp();
          });
        running.set(id, performed);
      }
    })()
      .catch((error: unknown) => log.warn(`jobs: ${messageOf(error)}`))
      .finally(() => {
        looking = undefined;
        // Asked for in the moment between the last look and this.
        if (lookAgain && working && !closing && running.size < MAX_RUNNING) takeUp();
      });
  };

  /** Kinds of jobs that can be worked on now. */
  const kindsNow = async (): Promise<string[]> => {
    const kinds = [...byKind.values()];
    const isFull = (await room?.())?.state === 'none';
    if (isFull) await store.noteWaitingForRoom(database, WAITS_FOR_ROOM, takingRoom(kinds));
    return kinds.filter(({ takesRoom }) => !isFull || !takesRoom).map(({ kind }) => kind);
  };

  const perform = async (id: string, owner: string): Promise<void> => {
    const row = await requireRow(database, id);
    const kind = byKind.get(row.kind);
    if (!kind) return;
    const ending = await endingOf(kind, () => openRun(row, owner, kind.takesRoom ?? false));
    await store.leaveJob(database, id, owner, ending);
    await database.notify(['jobs']);
  };

  const openRun = async (
    row: store.JobRow,
    owner: string,
    takesRoom: boolean,
  ): Promise<JobRun & { flush(): Promise<void> }> => {
    const now = { done: row.done, total: row.total, current: '' };
    let reported = performance.now();
    const report = async () => {
      const at = performance.now();
      const seconds = (at - reported) / 1000;
      // Beside what the job itself does: it may be in the middle of a transaction.
      const wish = await database.beside(async (connection) => {
        await notifyOver(connection, ['jobs']);
        return store.reportProgress(connection, row.id, owner, { ...now, seconds });
      });
      reported = at;
      if (wish === undefined) throw new Stopped('lost');
      if (takesRoom && (await room?.())?.state === 'none') throw new Stopped('noRoom');
      if (wish !== 'run') throw new Stopped(wish === 'pause' ? 'paused' : 'cancelled');
    };
    await report();
    return {
      id: row.id,
      parameters: row.parameters,
      accountId: row.accountId,
      get done() {
        return now.done;
      },
      get total() {
        return now.total;
      },
      async progress(progress) {
        Object.assign(now, progress);
        if (closing) throw new Stopped('closing');
        if (presence.last()?.owner !== owner || presence.last()?.isLost) throw new Stopped('lost');
        if (performance.now() - reported >= REPORT_MS) await report();
      },
      failure: (subject, message) => store.recordFailure(database, row.id, subject, message),
      flush: report,
    };
  };

  const endingOf = async (kind: JobKind<string>, open: () => ReturnType<typeof openRun>): Promise<store.Ending> => {
    try {
      // It may be that somebody wants it to stop before it has begun.
      const run = await open();
      const result = await kind.run(run);
      await run.flush();
      return { state: 'done', result };
    } catch (error) {
      if (error instanceof Stopped) {
        // When the server closes, the next one goes on; a job that was taken away is no longer ours to change.
        return GOES_ON.has(error.state) ? { state: 'queued' } : { state: error.state as 'paused' | 'cancelled' };
      }
      if (error instanceof DriveGone) return { state: 'waiting', current: error.message, waitsFor: error.driveId };
      log.error(error, `job ${kind.kind} failed`);
      return { state: 'failed', current: messageOf(error) };
    }
  };

  /** Jobs that are said to be worked on here and are not, twice in a row: their ending could not be written down. */
  let suspects: ReadonlySet<string> = new Set();
  const unendedOf = async (): Promise<string[]> => {
    const owner = presence.last()?.owner;
    if (owner === undefined) return [];
    const idle = (await store.jobsOwnedBy(database, owner)).filter((id) => !running.has(id));
    const unended = idle.filter((id) => suspects.has(id));
    suspects = new Set(idle);
    return unended;
  };

  /** Looks after jobs whose process died and drives that came back. */
  const tend = async (): Promise<void> => {
    const orphans = await requeueOrphans(database, await unendedOf());
    if (orphans.length) log.info(`jobs: ${orphans.length} taken up again`);
    await store.releaseWaiting(database, (await presence.current()).owner);
    takeUp();
  };

  let timer: NodeJS.Timeout | undefined;
  const tendAgain = async () => {
    try {
      await tend();
    } catch (error) {
      log.warn(`jobs: ${messageOf(error)}`);
    }
    if (!closing) timer = setTimeout(() => void tendAgain(), TEND_MS);
  };

  return {
    /** Starts working on jobs of some kinds in this process. */
    async work(kinds: readonly JobKind<string>[]): Promise<void> {
      for (const kind of kinds) byKind.set(kind.kind, kind);
      working = true;
      stopListening = onQueued?.(takeUp);
      await tendAgain();
    },

    /** Queues a job. Refused while one like it (same kind, same `unique` parameters) has not ended; null: there may be many alike. */
    async start(
      kind: string,
      title: string,
      parameters: object,
      accountId: number | null,
      unique: object | null = parameters,
    ): Promise<Job> {
      const like = unique && (await store.openJob(database, kind, unique));
      if (like) throw new StellinError('alreadyRunning', { job: like.title });
      const id = randomUUID();
      await store.insertJob(database, { id, kind, title, parameters, accountId });
      await database.notify(['jobs']);
      takeUp();
      return requireJob(database, id);
    },

    async control(id: string, wish: store.JobRow['wish']): Promise<Job> {
      await requireJob(database, id);
      await store.setWish(database, id, wish);
      await database.notify(['jobs']);
      takeUp();
      return requireJob(database, id);
    },

    /** Jobs that have not ended or ended lately: all, or those of an account. */
    list: (accountId: number | null = null): Promise<Job[]> => store.recentJobs(database, accountId),
    /** Refuses a job that is not an account’s, where it is asked for by one, as one that is not there. */
    async requireOf(id: string, accountId: number | null): Promise<void> {
      const job = await requireRow(database, id);
      if (accountId !== null && job.accountId !== accountId) throw new StellinError('notFound', { what: 'such job' });
    },
    /** Refuses a job that somebody else has started, or the program itself. */
    async requireMine(id: string, accountId: number, role: string): Promise<void> {
      if ((await requireRow(database, id)).accountId !== accountId) throw new StellinError('notAllowed', { role });
    },
    find: (id: string): Promise<Job> => requireJob(database, id),
    /** What a job was started with. */
    parametersOf: async (id: string): Promise<unknown> => (await requireRow(database, id)).parameters,
    failures: (id: string) => store.failuresOf(database, id),

    async close(): Promise<void> {
      closing = true;
      clearTimeout(timer);
      stopListening?.();
      await looking;
      await Promise.all(running.values());
      if (!shared) await presence.close();
    },
  };
}

function requireJob(database: Database, id: string): Promise<Job> {
  return requireRow(database, id);
}

async function requireRow(database: Database, id: string): Promise<store.JobRow> {
  const job = await store.findJob(database, id);
  if (!job) throw new StellinError('notFound', { what: 'such job' });
  return job;
}
