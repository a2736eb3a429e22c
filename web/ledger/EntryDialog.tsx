// What an entry of the ledger changed, before and after, and its Take back: of any entry that nothing later built on.

import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Redo2, Undo2 } from 'lucide-react';
import { useState } from 'react';
import { ledgerRoutes, type LedgerEntry } from '@stellin/contract/ledger';
import { countText, numberText } from '@stellin/contract/wording';
import { call } from '../foundation/api';
import { useReverse } from '../foundation/changes';
import { Button } from '../parts/Button';
import { dateTimeText } from '../parts/dateTimeText';
import { DataTable, type Column } from '../parts/DataTable';
import { Dialog } from '../parts/Dialog';
import { Failure } from '../parts/Queried';
import { RowPicture } from '../parts/RowPicture';

interface Props {
  entry: LedgerEntry;
  /** Only what it changed of this photo is shown. */
  photo?: { id: number; name: string } | undefined;
  onClose: () => void;
}

export function EntryDialog({ entry: first, photo, onClose }: Props) {
  // Entries that stand in the way are looked at in the same dialog.
  const [entry, setEntry] = useState(first);
  const { data, error, refetch } = useQuery({
    queryKey: ['ledger', 'entry', entry.id, photo?.id],
    queryFn: () => call(ledgerRoutes.showEntry, { params: { id: entry.id }, query: { photoId: photo?.id } }),
  });
  return (
    <Dialog open onOpenChange={(isOpen) => !isOpen && onClose()} title={entry.title} wide>
      <p className="-mt-2 mb-3 text-ink-2">
        {entry.by}, {dateTimeText(entry.at)}
        {entry.state === 'undone' && ', taken back since'}
        {photo && entry.photos > 1 && (
          <>
            . What it did to <span className="font-mono text-[12px]">{photo.name}</span>, one of{' '}
            {countText(entry.photos, 'photo')}:
          </>
        )}
      </p>
      {error && <Failure error={error} onRetry={() => void refetch()} />}
      {!data && !error && <p className="text-ink-2">Looking it up …</p>}
      {data && <Changes {...data} />}
      {data && !photo && entry.photos > 0 && shownPhotos(data.photos) < entry.photos && (
        <p className="mt-2 text-ink-2">
          {numberText(shownPhotos(data.photos))} of {countText(entry.photos, 'photo')} are shown.
        </p>
      )}
      {data?.standing.step && (
        <Standing
          entry={entry}
          step={data.standing.step}
          later={data.standing.later}
          laterCount={data.standing.laterCount}
          onLook={setEntry}
          onDone={onClose}
        />
      )}
    </Dialog>
  );
}

const shownPhotos = (rows: readonly { photoId: number }[]) => new Set(rows.map(({ photoId }) => photoId)).size;

type Shown = Awaited<ReturnType<typeof call<typeof ledgerRoutes.showEntry>>>;

type ShownRow = Shown['photos'][number] | Shown['objects'][number];

const COLUMNS: readonly Column<ShownRow>[] = [
  {
    id: 'of',
    title: 'Of',
    width: 'w-64',
    cell: (row, above) => {
      if ('object' in row)
        return above && 'object' in above && above.object === row.object ? (
          ''
        ) : (
          <span className="break-words">{row.object}</span>
        );
      if (above && 'photoId' in above && above.photoId === row.photoId) return '';
      return (
        <span className="flex items-center gap-2.5">
          <RowPicture photoId={row.photoId} previewVersion={row.previewVersion} />
          <span className="min-w-0 truncate font-mono text-[12px]" title={row.name}>
            {row.name}
          </span>
        </span>
      );
    },
  },
  { id: 'what', title: 'What', width: 'w-48', className: 'break-words', cell: ({ what }) => what },
  {
    id: 'before',
    title: 'Before',
    className: 'break-words whitespace-pre-wrap text-ink-2',
    cell: ({ before }) => before,
  },
  { id: 'after', title: 'After', className: 'break-words whitespace-pre-wrap', cell: ({ after }) => after },
];

function Changes({ photos, objects }: Pick<Shown, 'photos' | 'objects'>) {
  return (
    <DataTable
      label="Before and after"
      rows={[...objects, ...photos]}
      keyOf={(row) => ('object' in row ? `${row.object} ${row.what}` : `${row.photoId} ${row.what}`)}
      columns={COLUMNS}
    />
  );
}

interface StandingProps {
  entry: LedgerEntry;
  step: 'undo' | 'redo';
  later: readonly LedgerEntry[];
  laterCount: number;
  onLook: (entry: LedgerEntry) => void;
  onDone: () => void;
}

function Standing({ entry, step, later, laterCount, onLook, onDone }: StandingProps) {
  const client = useQueryClient();
  const reverse = useReverse();
  const what = step === 'undo' ? 'taken back' : 'repeated';
  return (
    <section className="mt-4 border-t border-line pt-3">
      {laterCount > 0 && (
        <div className="mb-3 rounded bg-amber-pale px-2.5 py-1.5 text-amber">
          <p>
            It can’t be {what}: {laterCount === 1 ? 'a later entry' : 'later entries'} built on it. Take{' '}
            {laterCount === 1 ? 'that' : 'these'} back first:
          </p>
          <ul className="mt-1">
            {later.map((each) => (
              <li key={each.id}>
                <button type="button" className="text-left underline" onClick={() => onLook(each)}>
                  {each.title}
                </button>
                , {each.by}, {dateTimeText(each.at)}
              </li>
            ))}
          </ul>
          {laterCount > later.length && <p>and {numberText(laterCount - later.length)} more</p>}
        </div>
      )}
      <div className="flex justify-end">
        <Button
          disabled={laterCount > 0 || reverse.isPending}
          onClick={() =>
            reverse.mutate(
              { id: entry.id, step },
              { onSuccess: onDone, onError: () => void client.invalidateQueries({ queryKey: ['ledger'] }) },
            )
          }
        >
          {step === 'undo' ? <Undo2 size={14} /> : <Redo2 size={14} />}
          {step === 'undo' ? 'Take back' : 'Repeat'}
        </Button>
      </div>
    </section>
  );
}
