// A job on the screen: progress, rate, time left; pause, resume, cancel; what could not be done.

import { Meter } from './Meter';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { jobRoutes, type Job } from '@stellin/contract/jobs';
import { resultSentence } from '@stellin/contract/jobKinds';
import { countText, numberText } from '@stellin/contract/wording';
import { call } from '../foundation/api';
import { showError } from '../foundation/changes';
import { useMayControl } from '../foundation/session';
import { Button } from './Button';
import { Dialog } from './Dialog';
import { useState, type ReactNode } from 'react';

const STATE_TEXTS: Record<Job['state'], string> = {
  queued: 'about to start',
  running: '',
  paused: 'paused',
  waiting: 'waiting',
  done: 'done',
  failed: 'failed',
  cancelled: 'cancelled',
};

/** `children`: what else can be done with the job. */
export function JobProgress({ job, children }: { job: Job; children?: ReactNode }) {
  const client = useQueryClient();
  const mayControl = useMayControl(job);
  const control = useMutation({
    mutationFn: (wish: 'run' | 'pause' | 'cancel') =>
      call(jobRoutes.controlJob, { params: { id: job.id }, body: { wish } }),
    onError: showError,
    onSettled: () => client.invalidateQueries({ queryKey: ['jobs'] }),
  });
  const share = job.state === 'done' ? 1 : job.total ? job.done / job.total : 0;
  const ended = job.finishedAt !== null;
  return (
    <section aria-label={job.title} className="rounded-md border border-line bg-card p-3">
      <div className="flex items-center gap-3">
        <h3 className="font-semibold">{job.title}</h3>
        <span
          className={
            job.state === 'failed'
              ? 'text-red'
              : job.state === 'waiting' || job.state === 'paused'
                ? 'text-amber'
                : 'text-ink-2'
          }
        >
          {STATE_TEXTS[job.state]}
        </span>
        <span className="figures ml-auto text-ink-2">{ended ? '' : timing(job)}</span>
        {mayControl && !ended && (
          <>
            {job.state === 'paused' ? (
              <Button onClick={() => control.mutate('run')}>Resume</Button>
            ) : (
              <Button onClick={() => control.mutate('pause')}>Pause</Button>
            )}
            <Button look="quiet" onClick={() => control.mutate('cancel')}>
              Cancel
            </Button>
          </>
        )}
        {children}
        {job.failures > 0 && <Failures job={job} />}
      </div>
      <Meter label={job.title} share={share} fill={job.state === 'failed' ? 'red' : 'spruce'} className="mt-2 h-2" />
      <p className="mt-1.5 truncate text-[12px] text-ink-2">
        {job.current || (job.state === 'done' && resultSentence(job)) || ' '}
      </p>
    </section>
  );
}

function timing({ done, total, secondsActive, state }: Job): string {
  if (total === 0) return '';
  const shown = `${numberText(done)} of ${numberText(total)}`;
  if (state !== 'running' || secondsActive < 1 || done === 0) return shown;
  const rate = done / secondsActive;
  return `${shown} · ${numberText(Math.round(rate))} a second · ${durationText((total - done) / rate)} left`;
}

function durationText(seconds: number): string {
  if (seconds < 90) return `${Math.ceil(seconds)} s`;
  return seconds < 5400 ? `${Math.ceil(seconds / 60)} min` : `${(seconds / 3600).toFixed(1)} h`;
}

function Failures({ job }: { job: Job }) {
  const [open, setOpen] = useState(false);
  const { data } = useQuery({
    queryKey: ['jobs', 'failures', job.id],
    queryFn: () => call(jobRoutes.listFailures, { params: { id: job.id } }),
    enabled: open,
  });
  return (
    <>
      <button type="button" className="text-red underline underline-offset-2" onClick={() => setOpen(true)}>
        {countText(job.failures, 'problem')}
      </button>
      <Dialog open={open} onOpenChange={setOpen} title={`${job.title}: what could not be done`} wide>
        <ul className="divide-y divide-line">
          {data?.failures.map(({ subject, message }) => (
            <li key={subject} className="py-1.5">
              <span className="font-mono text-[12px]">{subject}</span>
              <span className="block text-ink-2">{message}</span>
            </li>
          ))}
        </ul>
      </Dialog>
    </>
  );
}
