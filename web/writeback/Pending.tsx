// Photos whose files are to be written: what each write would do, and conflicts to be settled.

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { WRITE_STATES } from '@stellin/contract/photos';
import { writeBackRoutes, type WriteBackDrive } from '@stellin/contract/writeback';
import { countText, numberText } from '@stellin/contract/wording';
import { call } from '../foundation/api';
import { Button } from '../parts/Button';
import { PendingRow } from './PendingRow';

export type WriteState = (typeof WRITE_STATES)[number];
export interface PendingFilter {
  driveId?: string;
  state?: WriteState;
}

const PAGE = 100;

interface Props {
  filter: PendingFilter;
  onFilter: (filter: PendingFilter) => void;
  drives: readonly WriteBackDrive[];
}

export function Pending({ filter, onFilter, drives }: Props) {
  const [pages, setPages] = useState(1);
  const limit = Math.min(200, PAGE * pages);
  const { data } = useQuery({
    queryKey: ['writeBack', 'pending', filter, limit],
    queryFn: () => call(writeBackRoutes.listPending, { query: { ...filter, limit } }),
    placeholderData: keepPreviousData,
  });
  if (!data?.total && !filter.driveId && !filter.state) return null;
  const drive = drives.find(({ id }) => id === filter.driveId);
  return (
    <section>
      <div className="mb-2 flex items-baseline gap-3">
        <h2 className="font-title text-[16px] font-semibold">What will be written</h2>
        <span className="text-ink-2">
          {countText(data?.total ?? 0, 'photo')}
          {drive && ` on ${drive.label}`}
          {filter.state && `, ${filter.state}`}
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
