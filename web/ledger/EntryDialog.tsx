// What an entry of the ledger changed, before and after, and its Take back: of any entry that nothing later built on.

import { useQuery, useQueryClient } from '@tanstack/react-query';
import { Redo2, Undo2 } from 'lucide-react';
import { useState } from 'react';
import { ledgerRoutes, type LedgerEntry } from '@stellin/contract/ledger';
import { countText, numberText } from '@stellin/contract/wording';
import { call } from '../api';
import { useReverse } from '../app/changes';
import { Button } from '../parts/Button';
import { dateTimeText } from '../parts/dateTimeText';
import { Dialog } from '../parts/Dialog';
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
  const { data, error } = useQuery({
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
      {error && <p className="rounded bg-red-pale px-2.5 py-1.5 text-red">{error.message}</p>}
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

function Changes({ photos, objects }: Pick<Shown, 'photos' | 'objects'>) {
  return (
    <table className="w-full table-fixed">
      <thead className="border-b border-line text-left text-[12px] text-ink-2">
        <tr>
          <th className="w-64 py-1 font-semibold">{photos.length > 0 ? 'Photo' : 'Of'}</th>
          <th className="w-48 font-semibold">What</th>
          <th className="font-semibold">Before</th>
          <th className="pl-3 font-semibold">After</th>
        </tr>
      </thead>
      <tbody>
        {objects.map(({ object, what, before, after }, i) => (
          <Row key={`${object} ${what}`} {...{ what, before, after }}>
            {objects[i - 1]?.object !== object && <span className="break-words">{object}</span>}
          </Row>
        ))}
        {photos.map(({ photoId, name, previewVersion, what, before, after }, i) => (
          <Row key={`${photoId} ${what}`} {...{ what, before, after }}>
            {photos[i - 1]?.photoId !== photoId && (
              <span className="flex items-center gap-2.5">
                <RowPicture photoId={photoId} previewVersion={previewVersion} />
                <span className="min-w-0 truncate font-mono text-[12px]" title={name}>
                  {name}
                </span>
              </span>
            )}
          </Row>
        ))}
      </tbody>
    </table>
  );
}

function Row({
  what,
  before,
  after,
  children,
}: {
  what: string;
  before: string;
  after: string;
  children: React.ReactNode;
}) {
  return (
    <tr className="border-b border-line/60 align-middle">
      <td className="py-1 pr-4">{children}</td>
      <td className="py-1 pr-4 break-words">{what}</td>
      <td className="py-1 break-words whitespace-pre-wrap text-ink-2">{before}</td>
      <td className="py-1 pl-3 break-words whitespace-pre-wrap">{after}</td>
    </tr>
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
