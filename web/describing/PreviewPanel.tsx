// Before and after of every photo that a description changes, with those that are to be left out.

import { fieldText } from '@stellin/core/metadata/fieldText';
import type { FieldValue } from '@stellin/core/metadata/fields';
import type { Selection } from '@stellin/contract/photos';
import { countText, numberText } from '@stellin/contract/wording';
import { useChosenDescription } from '../desk/queries';
import { Button } from '../parts/Button';
import { RowPicture } from '../parts/RowPicture';
import type { usePreview } from './queries';

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
          <table className="w-full table-fixed text-[12px]">
            <thead className="sticky top-0 bg-sheet text-left text-ink-2">
              <tr>
                <th className="w-8 py-1 pl-2">
                  <span className="sr-only">Changes</span>
                </th>
                <th className="w-56 py-1 font-normal">Photo</th>
                <th className="w-28 py-1 font-normal">Field</th>
                <th className="py-1 font-normal">Before</th>
                <th className="py-1 pl-2 font-normal">After</th>
              </tr>
            </thead>
            <tbody>
              {data.photos.flatMap(({ photoId, name, previewVersion, fields }) =>
                fields.map(({ field, label, before, after, cut }, i) => (
                  <tr
                    key={`${photoId} ${field}`}
                    className={`border-t border-line align-top ${leftOut.has(photoId) ? 'text-ink-3 line-through' : ''}`}
                  >
                    <td className="py-1 pl-2">
                      {i === 0 && (
                        <input
                          type="checkbox"
                          className="accent-spruce"
                          aria-label={`Change ${name}`}
                          checked={!leftOut.has(photoId)}
                          onChange={(event) => set(photoId, !event.target.checked)}
                        />
                      )}
                    </td>
                    <td className="truncate py-1 pr-2 font-mono" title={name}>
                      {i === 0 && (
                        <>
                          <RowPicture photoId={photoId} previewVersion={previewVersion} className="mr-2" />
                          {name}
                        </>
                      )}
                    </td>
                    <td className="truncate py-1 pr-2 text-ink-2">{label}</td>
                    <td className="py-1 pr-2 break-words whitespace-pre-wrap">{shown(before)}</td>
                    <td className="py-1 pr-2 pl-2 break-words whitespace-pre-wrap">
                      {shown(after)}
                      {cut && <span className="ml-1.5 rounded bg-amber-pale px-1 text-amber">IIM cuts</span>}
                    </td>
                  </tr>
                )),
              )}
            </tbody>
          </table>
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

function shown(value: FieldValue | null) {
  return value === null ? <span className="text-ink-3">nothing</span> : fieldText(value);
}
