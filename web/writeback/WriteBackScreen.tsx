// Write-back: what waits, by drive; what each write will do; writing it.

import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { jobRoutes } from '@stellin/contract/jobs';
import type { WriteBackDrive } from '@stellin/contract/writeback';
import { countText, numberText } from '@stellin/contract/wording';
import { call } from '../api';
import { useMay } from '../app/session';
import { Button } from '../parts/Button';
import { JobProgress } from '../parts/JobProgress';
import { Conflicts } from './Conflicts';
import { Pending, type PendingFilter, type WriteState } from './Pending';
import { PoliciesDialog } from './PoliciesDialog';
import { useOverview, useRun } from './queries';

export function WriteBackScreen() {
  const { data } = useOverview();
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
        <table className="w-full">
          <thead className="border-b border-line text-left text-[12px] text-ink-2">
            <tr>
              <th className="px-3 py-1.5 font-semibold">Drive</th>
              {['Waiting', 'In conflict', 'Failed', 'Written'].map((title) => (
                <th key={title} className="px-3 text-right font-semibold">
                  {title}
                </th>
              ))}
              <th />
            </tr>
          </thead>
          <tbody>
            {drives.map((drive) => (
              <DriveRow
                key={drive.id}
                drive={drive}
                filter={filter}
                onFilter={setFilter}
                busy={running !== undefined}
              />
            ))}
          </tbody>
        </table>
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
  const mayChange = useMay('cataloguer');
  const run = useRun();
  if (!mayChange) return null;
  return (
    <Button look="primary" disabled={disabled || run.isPending} onClick={() => run.mutate({})}>
      {label}
    </Button>
  );
}

interface DriveRowProps {
  drive: WriteBackDrive;
  filter: PendingFilter;
  onFilter: (filter: PendingFilter) => void;
  busy: boolean;
}

function DriveRow({ drive, filter, onFilter, busy }: DriveRowProps) {
  const mayChange = useMay('cataloguer');
  const run = useRun();
  const chosen = filter.driveId === drive.id;
  const figure = (state: WriteState, look: string) => (
    <td className="px-3 text-right">
      <button
        type="button"
        disabled={drive[state] === 0}
        className={`figures ${drive[state] ? `${look} underline-offset-2 hover:underline` : 'text-ink-3'}`}
        onClick={() => onFilter({ driveId: drive.id, state })}
      >
        {numberText(drive[state])}
      </button>
    </td>
  );
  return (
    <tr className={`border-b border-line/60 ${chosen ? 'bg-spruce-pale/50' : ''}`}>
      <td className="px-3 py-1.5">
        <span className="flex items-center gap-2.5">
          <span
            aria-hidden="true"
            className={`size-2.5 rounded-xs ${drive.attached ? 'bg-spruce' : 'border border-dashed border-ink-3'}`}
          />
          {drive.label}
          {!drive.attached && <span className="text-ink-2">away</span>}
        </span>
      </td>
      {figure('waiting', 'text-amber font-semibold')}
      {figure('conflict', 'text-red font-semibold')}
      {figure('failed', 'text-red font-semibold')}
      <td className="figures px-3 text-right text-ink-2">{numberText(drive.written)}</td>
      <td className="w-64 px-3 text-right">
        {mayChange && drive.attached && drive.waiting > 0 && (
          <Button className="!h-7" disabled={busy || run.isPending} onClick={() => run.mutate({ driveId: drive.id })}>
            Write {countText(drive.waiting, 'photo')}
          </Button>
        )}
        {mayChange && drive.attached && drive.failed > 0 && (
          <Button
            className="ml-2 !h-7"
            disabled={busy || run.isPending}
            onClick={() => run.mutate({ driveId: drive.id, retryFailed: true })}
          >
            Try failed again
          </Button>
        )}
      </td>
    </tr>
  );
}
