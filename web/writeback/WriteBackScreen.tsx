// Write-back: what waits, by drive; what each write will do; writing it.

import { writeBackRoutes } from '@stellin/contract/writeback';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { jobRoutes } from '@stellin/contract/jobs';
import type { WriteBackDrive } from '@stellin/contract/writeback';
import { countText, numberText } from '@stellin/contract/wording';
import { call } from '../foundation/api';
import { useMayCall } from '../foundation/session';
import { Button } from '../parts/Button';
import { DataTable, type Column } from '../parts/DataTable';
import { JobProgress } from '../parts/JobProgress';
import { Queried } from '../parts/Queried';
import { Conflicts } from './Conflicts';
import { Pending, type PendingFilter, type WriteState } from './Pending';
import { PoliciesDialog } from './PoliciesDialog';
import { useOverview, useRun } from './queries';

export function WriteBackScreen() {
  const overview = useOverview();
  const { data } = overview;
  const { data: jobs } = useQuery({
    queryKey: ['jobs', 'list'],
    queryFn: () => call(jobRoutes.listJobs, {}),
    select: (all) => all.jobs.filter(({ kind }) => kind === 'writeBack'),
  });
  const [filter, setFilter] = useState<PendingFilter>({});
  const drives =
    data?.drives.filter((drive) => drive.waiting + drive.conflict + drive.failed + drive.written > 0) ?? [];
  const running = jobs?.find(({ finishedAt }) => finishedAt === null);
  const shown = running ?? jobs?.[0];
  const ready = sum(
    drives.filter(({ attached }) => attached),
    'waiting',
  );
  const figure = (state: WriteState, title: string, look: string): Column<WriteBackDrive> => ({
    id: state,
    title,
    isNumber: true,
    sortBy: (drive) => drive[state],
    cell: (drive) => (
      <button
        type="button"
        disabled={drive[state] === 0}
        className={drive[state] ? `${look} font-semibold underline-offset-2 hover:underline` : 'text-ink-3'}
        onClick={() => setFilter({ driveId: drive.id, state })}
      >
        {numberText(drive[state])}
      </button>
    ),
  });
  const columns: readonly Column<WriteBackDrive>[] = [
    { id: 'drive', title: 'Drive', sortBy: ({ label }) => label, cell: (drive) => <DriveName drive={drive} /> },
    figure('waiting', 'Waiting', 'text-amber'),
    figure('conflict', 'In conflict', 'text-red'),
    figure('failed', 'Failed', 'text-red'),
    {
      id: 'written',
      title: 'Written',
      isNumber: true,
      className: 'text-ink-2',
      sortBy: ({ written }) => written,
      cell: ({ written }) => numberText(written),
    },
    {
      id: 'run',
      title: '',
      className: 'w-64 text-right',
      cell: (drive) => <RunDrive drive={drive} busy={running !== undefined} />,
    },
  ];
  return (
    <div className="h-full space-y-5 overflow-y-auto p-5">
      <div className="flex items-center gap-4">
        <h1 className="font-title text-[19px] font-semibold">Write-back</h1>
        <p className="text-ink-2">
          Descriptions go into JPEG, TIFF, DNG, PNG, WebP and PSD themselves, for all other kinds into a sidecar.
        </p>
        <PoliciesDialog />
      </div>
      <section className="rounded-md border border-line bg-card">
        <Queried query={overview}>
          {() => (
            <DataTable
              label="Drives"
              rows={drives}
              keyOf={({ id }) => id}
              columns={columns}
              rowClass={({ id }) => (filter.driveId === id ? 'bg-spruce-pale/50' : '')}
              empty=""
            />
          )}
        </Queried>
        {data && drives.length === 0 && (
          <p className="p-4 text-ink-2">
            Nothing waits. Give terms to photos on the Desk, and what their files lack shows up here.
          </p>
        )}
      </section>
      <div className="flex items-center gap-3">
        <RunButton
          count={ready}
          label={`Write ${countText(ready, 'photo')} on attached drives`}
          disabled={running !== undefined || ready === 0}
        />
        {sum(
          drives.filter(({ attached }) => !attached),
          'waiting',
        ) > 0 && (
          <span className="text-amber">
            {countText(
              sum(
                drives.filter(({ attached }) => !attached),
                'waiting',
              ),
              'write',
            )}{' '}
            on drives that are away will wait until they are attached.
          </span>
        )}
      </div>
      {shown && <JobProgress job={shown} />}
      <Conflicts onShow={() => setFilter({ state: 'conflict' })} />
      <Pending filter={filter} onFilter={setFilter} drives={drives} />
    </div>
  );
}

function sum(drives: readonly WriteBackDrive[], state: 'waiting' | 'conflict' | 'failed' | 'written'): number {
  return drives.reduce((total, drive) => total + drive[state], 0);
}

function RunButton({ label, disabled }: { count: number; label: string; disabled: boolean }) {
  const mayChange = useMayCall(writeBackRoutes.run);
  const run = useRun();
  if (!mayChange) return null;
  return (
    <Button look="primary" disabled={disabled || run.isPending} onClick={() => run.mutate({})}>
      {label}
    </Button>
  );
}

function DriveName({ drive: { label, attached } }: { drive: WriteBackDrive }) {
  return (
    <span className="flex items-center gap-2.5">
      <span
        aria-hidden="true"
        className={`size-2.5 rounded-xs ${attached ? 'bg-spruce' : 'border border-dashed border-ink-3'}`}
      />
      {label}
      {!attached && <span className="text-ink-2">away</span>}
    </span>
  );
}

function RunDrive({ drive, busy }: { drive: WriteBackDrive; busy: boolean }) {
  const mayChange = useMayCall(writeBackRoutes.run);
  const run = useRun();
  if (!mayChange || !drive.attached) return null;
  const disabled = busy || run.isPending;
  return (
    <>
      {drive.waiting > 0 && (
        <Button className="!h-7" disabled={disabled} onClick={() => run.mutate({ driveId: drive.id })}>
          Write {countText(drive.waiting, 'photo')}
        </Button>
      )}
      {drive.failed > 0 && (
        <Button
          className="ml-2 !h-7"
          disabled={disabled}
          onClick={() => run.mutate({ driveId: drive.id, retryFailed: true })}
        >
          Try failed again
        </Button>
      )}
    </>
  );
}
