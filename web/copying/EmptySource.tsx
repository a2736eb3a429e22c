// Emptying the card that a job has copied in: first what of it is proven to be elsewhere, then the question.

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { copyingRoutes } from '@stellin/contract/copying';
import { jobRoutes, type Job } from '@stellin/contract/jobs';
import { countText } from '@stellin/contract/wording';
import { call } from '../foundation/api';
import { showError } from '../foundation/changes';
import { Button } from '../parts/Button';
import { Dialog } from '../parts/Dialog';
import { FormActions } from '../parts/FormActions';
import { JobProgress } from '../parts/JobProgress';

export function EmptySource({ job }: { job: Job }) {
  const [asks, setAsks] = useState(false);
  const client = useQueryClient();
  const prove = useMutation({
    mutationFn: () => call(copyingRoutes.proveSource, { body: { jobId: job.id } }),
    onError: (error) => {
      setAsks(false);
      showError(error);
    },
  });
  const empty = useMutation({
    mutationFn: () => call(copyingRoutes.emptySource, { body: { jobId: job.id } }),
    onError: showError,
    onSettled: () => {
      setAsks(false);
      void client.invalidateQueries({ queryKey: ['jobs'] });
    },
  });
  const open = () => {
    setAsks(true);
    prove.mutate();
  };
  const proof = useProof(prove.data);
  return (
    <>
      <Button onClick={open}>Empty the source …</Button>
      <Dialog open={asks} onOpenChange={setAsks} title="Empty the source">
        <p className="mb-3">
          Every file is read once more and compared with its copy, also right before it is deleted. Only what is proven
          to be elsewhere, with its sidecar, is deleted from the card or folder it came from.
        </p>
        {proof?.state === 'done' ? <Found proof={proof} /> : proof && <JobProgress job={proof} />}
        <FormActions
          onCancel={() => setAsks(false)}
          action={proof?.state === 'done' ? `Delete ${countText(count(proof, 'proven'), 'file')}` : 'Delete'}
          disabled={empty.isPending || proof?.state !== 'done' || count(proof, 'proven') === 0}
          onAction={() => empty.mutate()}
        />
      </Dialog>
    </>
  );
}

/** The job that proves, as it is now. */
function useProof(started: Job | undefined): Job | undefined {
  const { data } = useQuery({
    queryKey: ['jobs', 'list'],
    queryFn: () => call(jobRoutes.listJobs, {}),
    enabled: started !== undefined,
  });
  return data?.jobs.find(({ id }) => id === started?.id) ?? started;
}

function count({ result }: Job, name: string): number {
  return Number(result[name] ?? 0);
}

/** What can go, and what stays with the reason. */
function Found({ proof }: { proof: Job }) {
  const [proven, unproven] = [count(proof, 'proven'), count(proof, 'unproven')];
  const { data } = useQuery({
    queryKey: ['jobs', 'failures', proof.id],
    queryFn: () => call(jobRoutes.listFailures, { params: { id: proof.id } }),
    enabled: unproven > 0,
  });
  return (
    <div className="space-y-2">
      <p className="rounded bg-amber-pale px-3 py-2">
        <b className="figures">{countText(proven, 'file')}</b> {proven === 1 ? 'is' : 'are'} proven to be elsewhere and
        can go. <b>This can’t be undone.</b>
      </p>
      {unproven > 0 && (
        <>
          <p>
            <b className="figures">{countText(unproven, 'file')}</b> {unproven === 1 ? 'has' : 'have'} no proof and{' '}
            {unproven === 1 ? 'stays' : 'stay'}:
          </p>
          <ul className="max-h-40 overflow-y-auto text-[12px]">
            {data?.failures.map(({ subject, message }) => (
              <li key={subject}>
                <span className="font-mono">{subject}</span> <span className="text-ink-2">{message}</span>
              </li>
            ))}
          </ul>
        </>
      )}
    </div>
  );
}
