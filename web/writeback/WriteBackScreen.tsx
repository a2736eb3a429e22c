// Write-back: what waits, by drive; what each write will do; writing it.

import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { jobRoutes } from '@stellin/contract/jobs';
import type { WRITE_STATES } from '@stellin/contract/photos';
import { intakeRoutes } from '@stellin/contract/intake';
import { writeBackRoutes, type PendingWrite, type WriteBackDrive } from '@stellin/contract/writeback';
import { countText, numberText } from '@stellin/contract/wording';
import { call, previewUrl } from '../api';
import { showError } from '../app/changes';
import { useMay } from '../app/session';
import { Button } from '../parts/Button';
import { JobProgress } from '../parts/JobProgress';

type WriteState = (typeof WRITE_STATES)[number];
const PAGE = 100;

export function WriteBackScreen() {
  const { data } = useQuery({ queryKey: ['writeBack', 'overview'], queryFn: () => call(writeBackRoutes.overview, {}) });
  const { data: jobs } = useQuery({
    queryKey: ['jobs', 'list'],
    queryFn: () => call(jobRoutes.listJobs, {}),
    select: (all) => all.jobs.filter(({ kind }) => kind === 'writeBack'),
  });
  const [filter, setFilter] = useState<{ driveId?: string; state?: WriteState }>({});
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
          Terms, ratings and marks go into JPEG, TIFF, DNG, PNG, WebP and PSD themselves, for all other kinds into a
          sidecar.
        </p>
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
      <Pending filter={filter} onFilter={setFilter} drives={drives} />
    </div>
  );
}

function sum(drives: readonly WriteBackDrive[], state: 'waiting' | 'conflict' | 'failed' | 'written'): number {
  return drives.reduce((total, drive) => total + drive[state], 0);
}

function useRun() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: { driveId?: string; retryFailed?: boolean }) => call(writeBackRoutes.run, { body }),
    onError: showError,
    onSuccess: () => Promise.all(['jobs', 'writeBack'].map((topic) => client.invalidateQueries({ queryKey: [topic] }))),
  });
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
  filter: { driveId?: string; state?: WriteState };
  onFilter: (filter: { driveId?: string; state?: WriteState }) => void;
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

const STATE_LOOKS: Record<WriteState, string> = {
  waiting: 'bg-amber-pale text-amber',
  conflict: 'bg-red-pale text-red',
  failed: 'bg-red-pale text-red',
};
const STATE_NAMES: Record<WriteState, string> = { waiting: 'waiting', conflict: 'conflict', failed: 'failed' };

function Pending({ filter, onFilter, drives }: Omit<DriveRowProps, 'drive' | 'busy'> & { drives: WriteBackDrive[] }) {
  const [pages, setPages] = useState(1);
  const limit = Math.min(200, PAGE * pages);
  const { data } = useQuery({
    queryKey: ['writeBack', 'pending', filter, limit],
    queryFn: () => call(writeBackRoutes.listPending, { query: { ...filter, limit } }),
    placeholderData: keepPreviousData,
  });
  if (!data?.total && !filter.driveId) return null;
  const drive = drives.find(({ id }) => id === filter.driveId);
  return (
    <section>
      <div className="mb-2 flex items-baseline gap-3">
        <h2 className="font-title text-[16px] font-semibold">What will be written</h2>
        <span className="text-ink-2">
          {countText(data?.total ?? 0, 'photo')}
          {drive && ` on ${drive.label}`}
          {filter.state && `, ${STATE_NAMES[filter.state]}`}
        </span>
        {drive && (
          <button type="button" className="text-slate hover:underline" onClick={() => onFilter({})}>
            Show all
          </button>
        )}
      </div>
      <ul className="divide-y divide-line/60 rounded-md border border-line bg-card">
        {data?.photos.map((write) => (
          <PendingRow key={write.photoId} write={write} />
        ))}
      </ul>
      {data && data.total > data.photos.length && (
        <p className="mt-2 flex items-center gap-3 text-ink-2">
          The first {numberText(data.photos.length)} are shown.
          {limit < 200 && <Button onClick={() => setPages(pages + 1)}>Show more</Button>}
        </p>
      )}
    </section>
  );
}

function PendingRow({ write }: { write: PendingWrite }) {
  return (
    <li className="flex items-center gap-3 px-3 py-1.5">
      <span className="flex h-9 w-13 shrink-0 items-center justify-center overflow-hidden bg-ground">
        {write.previewVersion > 0 && (
          <img
            src={previewUrl(write.photoId, write.previewVersion)}
            alt=""
            loading="lazy"
            className={`max-h-full max-w-full ${write.attached ? '' : 'opacity-55'}`}
          />
        )}
      </span>
      <span className="w-72 min-w-0 shrink-0">
        <span className="block truncate font-mono text-[12px]">{write.name}</span>
        <span className="block truncate text-[11px] text-ink-2">
          {write.driveLabel}
          {write.folderPath && ` › ${write.folderPath.replaceAll('/', ' › ')}`}
        </span>
      </span>
      <span className={`w-18 shrink-0 rounded px-1.5 text-center text-[11px] ${STATE_LOOKS[write.state]}`}>
        {STATE_NAMES[write.state]}
      </span>
      <span className="flex min-w-0 flex-1 flex-wrap gap-x-2 text-[12px]">
        {write.message && <span className="text-red">{write.message}</span>}
        {write.add.map((keyword) => (
          <span key={keyword} className="whitespace-nowrap text-spruce">
            + {keyword}
          </span>
        ))}
        {write.remove.map((keyword) => (
          <span key={keyword} className="whitespace-nowrap text-red line-through">
            {keyword}
          </span>
        ))}
        {write.rating && (
          <span className="whitespace-nowrap text-ink-2">
            rating {write.rating.before} → {write.rating.after}
          </span>
        )}
        {write.mark && (
          <span className="whitespace-nowrap text-ink-2">
            mark {write.mark.before || 'none'} → {write.mark.after || 'none'}
          </span>
        )}
      </span>
      {write.state === 'conflict' && write.attached && <ReadAgain write={write} />}
    </li>
  );
}

/** A file that another program changed is read again; what the catalogue says on top of it then waits anew. */
function ReadAgain({ write }: { write: PendingWrite }) {
  const mayChange = useMay('cataloguer');
  const client = useQueryClient();
  const read = useMutation({
    mutationFn: () =>
      call(intakeRoutes.takeIn, { body: { driveKey: write.driveId, folder: write.folderPath, subFolders: false } }),
    onError: showError,
    onSuccess: () => client.invalidateQueries({ queryKey: ['jobs'] }),
  });
  if (!mayChange) return null;
  return (
    <Button
      className="!h-7 shrink-0"
      disabled={read.isPending}
      onClick={() => read.mutate()}
      title="Reads the folder again; what was said here is kept and waits to be written on top"
    >
      Read the file again
    </Button>
  );
}
