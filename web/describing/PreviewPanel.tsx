// Before and after of every photo that a description changes, with those that are to be left out.

import type { Selection } from '@stellin/contract/photos';
import { countText, numberText } from '@stellin/contract/wording';
import { useChosenDescription } from '../photos/queries';
import { Button } from '../parts/Button';
import { BEFORE_COLUMN, FIELD_COLUMN, PHOTO_COLUMN, shownValue } from '../parts/changeColumns';
import { DataTable, type Column } from '../parts/DataTable';
import type { usePreview } from './queries';
import { Checkbox } from '../parts/Checkbox';

interface Props {
  selection: Selection;
  /** What `usePreview` has found; undefined while nothing is asked. */
  preview: ReturnType<typeof usePreview> | undefined;
  onMore: (() => void) | undefined;
  leftOut: ReadonlySet<number>;
  onLeaveOut: (leftOut: ReadonlySet<number>) => void;
}

export function PreviewPanel({ selection, preview, onMore, leftOut, onLeaveOut }: Props) {
  const { data: described } = useChosenDescription(selection);
  if (!preview) return null;
  const { data, error, isFetching } = preview;
  if (error) return <p className="rounded bg-red-pale px-2.5 py-1.5 text-red">{error.message}</p>;
  if (!data) return <p className="text-ink-2">Working out what would change …</p>;
  if (data.problem)
    return (
      <p role="alert" className="rounded bg-red-pale px-2.5 py-1.5 text-red">
        {data.problem.charAt(0).toUpperCase() + data.problem.slice(1)}
      </p>
    );
  const set = (id: number, out: boolean) => {
    const next = new Set(leftOut);
    if (out) next.add(id);
    else next.delete(id);
    onLeaveOut(next);
  };
  const rows = data.photos.flatMap(({ fields, ...photo }) => fields.map((change) => ({ ...photo, ...change })));
  const columns: readonly Column<(typeof rows)[number]>[] = [
    {
      id: 'changes',
      title: <span className="sr-only">Changes</span>,
      width: 'w-8',
      cell: ({ photoId, name }, above) =>
        above?.photoId !== photoId && (
          <Checkbox
            label={`Change ${name}`}
            checked={!leftOut.has(photoId)}
            onChange={(checked) => set(photoId, !checked)}
          />
        ),
    },
    PHOTO_COLUMN,
    FIELD_COLUMN,
    BEFORE_COLUMN,
    {
      id: 'after',
      title: 'After',
      className: 'break-words whitespace-pre-wrap',
      cell: ({ after, cut }) => (
        <>
          {shownValue(after)}
          {cut && <span className="ml-1.5 rounded bg-amber-pale px-1 text-amber">IIM cuts</span>}
        </>
      ),
    },
  ];
  const beyond = data.looked < data.meant;
  return (
    <section aria-label="Before and after" aria-busy={isFetching} className="min-h-0">
      <p aria-live="polite" className="figures rounded bg-amber-pale px-2.5 py-1.5 text-amber">
        {data.changing === 0
          ? 'Nothing would change: all of it is so already.'
          : `${countText(data.changing - leftOut.size, 'photo')} of ${numberText(data.looked)} will change`}
        {leftOut.size > 0 && `, ${numberText(leftOut.size)} left out`}
        {beyond &&
          `. These are the first ${numberText(data.looked)} of ${countText(data.meant, 'photo')}; all are meant`}
        {described && data.changing > 0 && ` (${drivesText(described.drives)})`}
        {data.cuts > 0 && `. IIM will cut texts of ${countText(data.cuts, 'photo')}; XMP keeps them whole`}
      </p>
      {data.photos.length > 0 && (
        <div className="mt-2 max-h-[42vh] overflow-y-auto rounded border border-line" tabIndex={0}>
          <DataTable
            label="Before and after"
            small
            rows={rows}
            keyOf={({ photoId, field }) => `${photoId} ${field}`}
            columns={columns}
            rowClass={({ photoId }) => `align-top ${leftOut.has(photoId) ? 'text-ink-3 line-through' : ''}`}
          />
          {data.photos.length < data.changing && (
            <p className="flex items-center gap-3 p-2 text-ink-2">
              The first {numberText(data.photos.length)} are shown.
              {onMore && <Button onClick={onMore}>Show more</Button>}
            </p>
          )}
        </div>
      )}
    </section>
  );
}

/** Where the photos are, and which of them are written only later. */
function drivesText(drives: readonly { label: string; away: boolean; photos: number }[]): string {
  return drives
    .map(
      ({ label, away, photos }) => `${numberText(photos)} on ${label}${away ? ', away: written when it returns' : ''}`,
    )
    .join('; ');
}
