// Changes of very many photos: made by a job, with progress, that can be given up as a whole. All of it happens in one
// transaction, so nobody sees half of it, and a process that is killed leaves nothing.

import { z } from 'zod';
import type { Job } from '@stellin/contract/jobs';
import { change as changeSchema, type Change, type LedgerEntry } from '@stellin/contract/ledger';
import { countText } from '@stellin/contract/wording';
import { PROGRAM, type Person, type Viewer } from '../catalogue/viewer';
import type { Database } from '../database/database';
import type { JobKind, Jobs } from '../jobs/service';
import type { Ledger } from './service';
import * as store from './store';

export const CHANGE_JOB = 'change';
const JOB_FROM_PHOTOS = 20_000;
const LOOK_MS = 400;

const parameters = z.discriminatedUnion('step', [
  z.object({ step: z.literal('do'), change: changeSchema }),
  z.object({ step: z.enum(['undo', 'redo']), entryId: z.number().optional() }),
]);

/** What came of a change that was asked for: its entry, or the job that makes it. */
export type Applied = { entry: LedgerEntry; job: null } | { entry: null; job: Job };

/** How many photos a change is about for somebody. */
type CountPhotos = (change: Change, viewer: Viewer) => Promise<number>;

export type LargeChanges = ReturnType<typeof largeChanges>;

/** Changes of more than `large` photos are made by a job, smaller ones at once. */
export function largeChanges(ledger: Ledger, countPhotos: CountPhotos, jobs: Jobs, large = JOB_FROM_PHOTOS) {
  const byJob = async (title: string, given: z.input<typeof parameters>, accountId: number): Promise<Applied> => ({
    entry: null,
    job: await jobs.start(CHANGE_JOB, title, given, accountId, null),
  });
  const titleOf = (step: 'undo' | 'redo', title: string) => `${step === 'undo' ? 'Undo' : 'Redo'}: ${title}`;
  const stepBack = async (step: 'undo' | 'redo', accountId: number): Promise<Applied> => {
    const next = (await ledger.nextSteps(accountId))[step];
    if (next && next.photos > large) return byJob(titleOf(step, next.title), { step }, accountId);
    return { entry: await ledger[step](accountId), job: null };
  };
  return {
    async apply(change: Change, person: Person): Promise<Applied> {
      const meant = await countPhotos(change, person);
      if (meant > large) return byJob(`Change ${countText(meant, 'photo')}`, { step: 'do', change }, person.accountId);
      return { entry: await ledger.apply(change, person.accountId), job: null };
    },
    undo: (accountId: number) => stepBack('undo', accountId),
    redo: (accountId: number) => stepBack('redo', accountId),

    /** Takes back or repeats any entry that nothing later built on. */
    async reverse(entryId: number, step: 'undo' | 'redo', accountId: number): Promise<Applied> {
      const { title, photos } = await ledger.find(entryId, PROGRAM);
      if (photos > large) return byJob(titleOf(step, title), { step, entryId }, accountId);
      return { entry: await ledger.reverse(entryId, step, accountId), job: null };
    },
  };
}

export function changeJob(database: Database, ledger: Ledger): JobKind {
  return {
    kind: CHANGE_JOB,
    takesRoom: true,
    async run(run) {
      const given = parameters.parse(run.parameters);
      const accountId = run.accountId;
      if (accountId === null) throw new Error('nobody asked for this change');
      let backend: number | undefined;
      const stop: { reason?: unknown } = {};
      // A single statement may take long: while it does, somebody looks whether the job is to stop.
      const watch = async () => {
        try {
          await run.progress({});
        } catch (reason) {
          stop.reason = reason;
          // Only while the work is on: later the same process may work for others.
          if (backend !== undefined) await store.cancelBackend(database, backend);
        }
      };
      const timer = setInterval(() => void (stop.reason === undefined && watch()), LOOK_MS);
      const steps = new Map<string, number>();
      const running = {
        jobId: run.id,
        backend: (pid: number) => (backend = pid),
        progress: async (step: string, photos: number) => {
          if (stop.reason !== undefined) throw stop.reason;
          steps.set(step, (steps.get(step) ?? 0) + photos);
          await run.progress({ done: steps.get(step) ?? 0, current: step });
        },
      };
      try {
        const known = await ledger.doneBy(run.id);
        const entry =
          known ??
          (given.step === 'do'
            ? await ledger.apply(given.change, accountId, running)
            : given.entryId === undefined
              ? await ledger[given.step](accountId, running)
              : await ledger.reverse(given.entryId, given.step, accountId, running));
        return { photos: entry.photos, title: entry.title };
      } catch (error) {
        throw stop.reason ?? error;
      } finally {
        backend = undefined;
        clearInterval(timer);
      }
    },
  };
}
