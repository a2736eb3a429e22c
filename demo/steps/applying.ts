// Doing things in the demo as one of its persons, through the same changes and jobs that people start.

import { change as changeSchema, type ChangeInput } from '@stellin/contract/ledger';
import type { Job } from '@stellin/contract/jobs';
import { StellinError } from '@stellin/server/errors';
import type { Services } from '@stellin/server/services';

/** Who does what is done behind the open demo. */
export const ARCHIVIST = 'archivist';

/** What each step of preparing is given. */
export interface Preparing {
  services: Services;
  progress(done: number, total: number, note?: string): void;
  /** Whether the program is to end: a step then throws as soon as it can. */
  isStopped(): boolean;
}

/** The id of an account by its sign-in name. */
export async function accountId(services: Services, name: string): Promise<number> {
  const account = await services.accounts.find(name);
  if (!account) throw new Error(`there is no account ${name}`);
  return account.id;
}

/** Applies a change as somebody; one that would change nothing is passed over, since a step may run again. */
export async function apply(services: Services, name: string, input: ChangeInput): Promise<void> {
  try {
    await services.ledger.apply(changeSchema.parse(input), await accountId(services, name));
  } catch (error) {
    if (
      !(error instanceof StellinError) ||
      !['nothingToDo', 'termExists', 'searchExists', 'padExists', 'dossierExists', 'preparedExists'].includes(
        error.code,
      )
    )
      throw error;
  }
}

/** Waits until a job has ended. */
export async function finish({ services, progress, isStopped }: Preparing, { id }: Job): Promise<void> {
  const changed = nextChange(services);
  for (;;) {
    const job = await services.jobs.find(id);
    progress(job.done, job.total, job.current);
    if (job.state === 'done') return changed.end();
    if (job.finishedAt !== null || isStopped()) {
      changed.end();
      throw new Error(isStopped() ? 'stopped' : `${job.title}: ${job.current}`);
    }
    await changed.wait();
  }
}

/** Resolves at the next commit anywhere, or after a second. */
function nextChange(services: Services): { wait(): Promise<void>; end(): void } {
  let wake: () => void = () => undefined;
  const unsubscribe = services.events.subscribe(() => wake());
  return {
    wait: () =>
      new Promise((resolve) => {
        const timer = setTimeout(resolve, 1000);
        wake = () => {
          clearTimeout(timer);
          resolve();
        };
      }),
    end: unsubscribe,
  };
}
