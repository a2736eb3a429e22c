// What Stellin is busy with, and what of it went wrong lately.

import { useQuery } from '@tanstack/react-query';
import { Popover } from 'radix-ui';
import { jobRoutes, type Job } from '@stellin/contract/jobs';
import { countText } from '@stellin/contract/wording';
import { call } from '../foundation/api';
import { JobProgress } from '../parts/JobProgress';

const MAX_SHOWN = 6;
/** How long a job that has ended with problems is still shown. */
const LATELY_MS = 15 * 60_000;

export function JobsChip({ className }: { className: string }) {
  const { data } = useQuery({ queryKey: ['jobs', 'list'], queryFn: () => call(jobRoutes.listJobs, {}) });
  const open = data?.jobs.filter(({ finishedAt }) => finishedAt === null) ?? [];
  const troubled = data?.jobs.filter(hadTroubleLately) ?? [];
  const [first] = open;
  const problems = troubled.reduce((sum, { failures }) => sum + Math.max(1, failures), 0);
  if (!first && problems === 0) return null;
  return (
    <Popover.Root>
      <Popover.Trigger className={`${className} max-w-36 truncate xl:max-w-44 2xl:max-w-72`}>
        {first ? `${first.title} · ${shortState(first)}` : countText(problems, 'problem')}
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={6}
          aria-label="Jobs"
          className="z-40 max-h-[70vh] w-[520px] space-y-2 overflow-y-auto rounded-md border border-line bg-sheet p-2 text-ink shadow-lg"
        >
          {[...open, ...troubled].slice(0, MAX_SHOWN).map((job) => (
            <JobProgress key={job.id} job={job} />
          ))}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function hadTroubleLately({ finishedAt, failures, state }: Job): boolean {
  const isTrouble = failures > 0 || state === 'failed';
  return isTrouble && finishedAt !== null && Date.now() - Date.parse(finishedAt) < LATELY_MS;
}

function shortState(job: Job): string {
  return job.state === 'running' ? `${Math.floor((100 * job.done) / Math.max(1, job.total))}%` : job.state;
}
