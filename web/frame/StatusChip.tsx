// On a short line: jobs and drives as one status with a count, which opens a panel with both.

import { Popover } from 'radix-ui';
import { NavLink } from 'react-router';
import { intakeRoutes } from '@stellin/contract/intake';
import { countText } from '@stellin/contract/wording';
import { useMayCall } from '../foundation/session';
import { useDriveCounts } from './DrivesChip';
import { ChipPanel, Jobs, useJobs } from './JobsChip';

export function StatusChip({ className }: { className: string }) {
  const drives = useDriveCounts();
  const jobs = useJobs();
  const mayTakeIn = useMayCall(intakeRoutes.takeIn);
  if (!drives) return null;
  const { open, problems } = jobs;
  const said =
    open.length > 0 ? countText(open.length, 'job') : problems > 0 ? countText(problems, 'problem') : drives.attached;
  return (
    <Popover.Root>
      <Popover.Trigger className={className} aria-label={`Status: ${said}`}>
        {said}
      </Popover.Trigger>
      <ChipPanel label="Status">
        <p className="flex items-baseline gap-2 px-1">
          {drives.attached} attached · {drives.others}
          {mayTakeIn && (
            <NavLink to="/intake" className="ml-auto text-slate hover:underline">
              Intake
            </NavLink>
          )}
        </p>
        <Jobs jobs={jobs} />
      </ChipPanel>
    </Popover.Root>
  );
}
