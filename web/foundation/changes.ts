// Changing things from the screen: every change goes through the ledger, and what was done is said with its undo.

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import { CHANGED_TOPICS, type Topic } from '@stellin/contract/events';
import { ledgerRoutes, type ChangeInput, type LedgerEntry } from '@stellin/contract/ledger';
import type { Job } from '@stellin/contract/jobs';
import { call } from './api';

/** Shows an error to the person. */
export function showError(error: unknown): void {
  toast.error(error instanceof Error ? error.message : String(error));
}

type Applied = { entry: LedgerEntry; job: null } | { entry: null; job: Job };

function useLedgerStep<Input>(step: (input: Input) => Promise<Applied>) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: step,
    // One after the other, in the order in which they were asked for.
    scope: { id: 'ledger' },
    onError: showError,
    onSuccess: ({ entry, job }) => {
      if (entry) toast.success(entry.title);
      else toast(`${job.title}: under way, see the jobs above`);
      for (const topic of [...CHANGED_TOPICS, 'jobs' satisfies Topic])
        void client.invalidateQueries({ queryKey: [topic] });
    },
  });
}

export function useChange() {
  return useLedgerStep((change: ChangeInput) => call(ledgerRoutes.apply, { body: { change } }));
}

export function useUndo() {
  return useLedgerStep((_: undefined) => call(ledgerRoutes.undo, {}));
}

export function useRedo() {
  return useLedgerStep((_: undefined) => call(ledgerRoutes.redo, {}));
}

/** Takes back or repeats any entry that nothing later built on. */
export function useReverse() {
  return useLedgerStep(({ id, step }: { id: number; step: 'undo' | 'redo' }) =>
    call(step === 'undo' ? ledgerRoutes.takeBackEntry : ledgerRoutes.repeatEntry, { params: { id } }),
  );
}

/** What undo and redo would do, by name. */
export function useNextSteps() {
  return useQuery({ queryKey: ['ledger', 'next'], queryFn: () => call(ledgerRoutes.nextSteps, {}) });
}

/** Something done that is no change of the ledger; what is read of the topics is read anew after. */
export function useAction<Input, Output>(action: (input: Input) => Promise<Output>, topics: readonly string[]) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: action,
    onError: showError,
    onSettled: () => Promise.all(topics.map((topic) => client.invalidateQueries({ queryKey: [topic] }))),
  });
}
