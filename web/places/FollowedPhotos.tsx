// Photos before they follow tracks: how many come to what, and each with where it comes to lie or why it gets no position.

import { ChevronLeft, ChevronRight } from 'lucide-react';
import { FOLLOWED, FOLLOWED_ROWS, type FollowedRow, type FollowedState } from '@stellin/contract/tracks';
import { numberText } from '@stellin/contract/wording';
import { Button } from '../parts/Button';
import { DataTable, type Column } from '../parts/DataTable';
import { PHOTO_COLUMNS } from './photoColumns';
import { pointText } from './placeText';

const STATES: Readonly<Record<FollowedState, string>> = {
  placed: 'placed',
  kept: 'with a position',
  before: 'taken before the track begins',
  after: 'taken after the track ends',
  gap: 'taken in a gap of the track',
  timeless: 'without a time',
};

const COLUMNS: readonly Column<FollowedRow>[] = [
  ...PHOTO_COLUMNS,
  { id: 'clock', title: 'Clock', cell: ({ clock }) => clock?.replace('T', ' ') ?? '–' },
  { id: 'before', title: 'Before', cell: ({ before }) => (before ? pointText(before) : 'nowhere') },
  {
    id: 'after',
    title: 'After',
    cell: ({ after, state }) =>
      after ? <b>{pointText(after)}</b> : <span className="text-ink-2">{STATES[state]}</span>,
  },
];

/** Which rows are listed: those of a state, or all, from one on. */
export interface Listed {
  state: FollowedState | null;
  offset: number;
}

interface Props {
  counts: Readonly<Record<FollowedState, number>>;
  looked: number;
  rows: readonly FollowedRow[];
  listed: Listed;
  onListed: (listed: Listed) => void;
}

export function FollowedPhotos({ counts, looked, rows, listed: { state, offset }, onListed }: Props) {
  const listable = state === null ? looked : counts[state];
  return (
    <>
      <div className="figures mt-3 mb-1 flex flex-wrap items-center gap-1.5">
        {looked === 0 && 'There is no photo to be placed.'}
        {FOLLOWED.filter((each) => counts[each] > 0 || each === state).map((each) => (
          <Button
            key={each}
            className="!h-7"
            aria-pressed={each === state}
            look={each === state ? 'primary' : 'plain'}
            onClick={() => onListed({ state: each === state ? null : each, offset: 0 })}
          >
            {numberText(counts[each])} {STATES[each]}
          </Button>
        ))}
        {listable > FOLLOWED_ROWS && (
          <span className="ml-auto flex items-center gap-1 text-[12px] text-ink-2">
            <Button
              aria-label="Rows before"
              disabled={offset === 0}
              onClick={() => onListed({ state, offset: Math.max(0, offset - FOLLOWED_ROWS) })}
            >
              <ChevronLeft size={14} />
            </Button>
            {numberText(offset + 1)} to {numberText(Math.min(listable, offset + FOLLOWED_ROWS))} of{' '}
            {numberText(listable)}
            <Button
              aria-label="Rows behind"
              disabled={offset + FOLLOWED_ROWS >= listable}
              onClick={() => onListed({ state, offset: offset + FOLLOWED_ROWS })}
            >
              <ChevronRight size={14} />
            </Button>
          </span>
        )}
      </div>
      <div tabIndex={0} role="group" aria-label="Photos" className="h-72 overflow-auto border border-line">
        <DataTable<FollowedRow>
          small
          label="Photos and where they come to lie"
          rows={rows}
          keyOf={({ photoId }) => photoId}
          columns={COLUMNS}
        />
      </div>
    </>
  );
}
