// What Stellin is busy with, and what of it went wrong lately.

import { useQuery } from '@tanstack/react-query';
import { Popover } from 'radix-ui';
import type { ReactNode } from 'react';
import { jobRoutes, type Job } from '@stellin/contract/jobs';
import { countText } from '@stellin/contract/wording';
import { call } from '../foundation/api';
import { JobProgress } from '../parts/JobProgress';

const MAX_SHOWN = 6;
/** How long a job that has ended with problems is still shown. */
const LATELY_MS = 15 * 60_000;

/** Jobs that are open, those that had trouble lately, and how many problems these had. */
export function useJobs(): { open: Job[]; troubled: Job[]; problems: number } {
  const { data } = useQuery({ queryKey: ['jobs', 'list'], queryFn: () => call(jobRoutes.listJobs, {}) });
  const open = data?.jobs.filter(({ finishedAt }) => finishedAt === null) ?? [];
  const troubled = data?.jobs.filter(hadTroubleLately) ?? [];
  return { open, troubled, problems: troubled.reduce((sum, { failures }) => sum + Math.max(1, failures), 0) };
}

export function JobsChip({ className }: { className: string }) {
  const jobs = useJobs();
  const [first] = jobs.open;
  if (!first && jobs.problems === 0) return null;
  return (
    <Popover.Root>
      <Popover.Trigger className={`${className} max-w-36 truncate 2xl:max-w-72`}>
        {first ? `${first.title} · ${shortState(first)}` : countText(jobs.problems, 'problem')}
      </Popover.Trigger>
      <ChipPanel label="Jobs">
        <Jobs jobs={jobs} />
      </ChipPanel>
    </Popover.Root>
  );
}

/** What opens below a chip of the top line. */
export function ChipPanel({ label, children }: { label: string; children: ReactNode }) {
  return (
    <Popover.Portal>
      <Popover.Content
        align="end"
        sideOffset={6}
        aria-label={label}
        className="z-40 max-h-[70vh] w-[520px] max-w-[95vw] space-y-2 overflow-y-auto rounded-md border border-line bg-sheet p-2 text-ink shadow-lg"
      >
        {children}
      </Popover.Content>
    </Popover.Portal>
  );
}

/** The first of them, each with how far it is. */
export function Jobs({ jobs: { open, troubled } }: { jobs: ReturnType<typeof useJobs> }) {
  return [...open, ...troubled].slice(0, MAX_SHOWN).map((job) => <JobProgress key={job.id} job={job} />);
}

function hadTroubleLately({ finishedAt, failures, state }: Job): boolean {
  const isTrouble = failures > 0 || state === 'failed';
  return isTrouble && finishedAt !== null && Date.now() - Date.parse(finishedAt) < LATELY_MS;
}

function shortState(job: Job): string {
  return job.state === 'running' ? `${Math.floor((100 * job.done) / Math.max(1, job.total))}%` : job.state;
}
