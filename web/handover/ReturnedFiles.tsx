// What came back of a handover: pictures beside their originals, what is said otherwise, and taking it in.

import { toast } from 'sonner';
import { useState } from 'react';
import type { Handover, ReturnedFile } from '@stellin/contract/handover';
import { returnedPicturePath } from '@stellin/contract/handover';
import { sizeText } from '@stellin/contract/sizeText';
import { countText } from '@stellin/contract/wording';
import { Button } from '../parts/Button';
import { shownValue } from '../parts/changeColumns';
import { DataTable, type Column } from '../parts/DataTable';
import { Pager } from '../parts/Pager';
import { Queried } from '../parts/Queried';
import { RowPicture } from '../parts/RowPicture';
import {
  RETURNED_SHOWN,
  useEndHandover,
  useLeaveReturned,
  useLookForReturned,
  useReturned,
  useTakeReturned,
} from './queries';

const KIND_LABELS: Record<ReturnedFile['kind'], string> = {
  picture: 'another picture',
  words: 'what is said of it',
};
const STATE_LABELS: Record<ReturnedFile['state'], string> = {
  waiting: '',
  taken: 'taken in',
  left: 'left where it is',
};

interface Props {
  id: string;
  handover: Handover;
}

export function ReturnedFiles({ id, handover }: Props) {
  const [offset, setOffset] = useState(0);
  const returned = useReturned(id, offset);
  const take = useTakeReturned(id);
  const leave = useLeaveReturned(id);
  const columns: readonly Column<ReturnedFile>[] = [
    {
      id: 'back',
      title: 'Came back',
      width: 'w-28',
      cell: ({ id: fileId, kind, path, problem }) =>
        kind === 'picture' &&
        problem === null && (
          <img
            src={returnedPicturePath(id, fileId)}
            alt={path}
            loading="lazy"
            className="h-16 w-24 rounded-sm bg-ground object-contain"
          />
        ),
    },
    { id: 'file', title: 'File', width: 'w-60', cell: (file) => <File file={file} /> },
    { id: 'original', title: 'Original', width: 'w-40', cell: ({ original }) => <Original original={original} /> },
    { id: 'differs', title: 'Says otherwise', cell: (file) => <Differences file={file} /> },
    {
      id: 'decision',
      title: '',
      width: 'w-40',
      cell: ({ id: fileId, state, problem, path }) =>
        state === 'waiting' && !handover.closed ? (
          <span className="flex flex-col items-start gap-1">
            {problem === null && (
              <Button aria-label={`Take in ${path}`} disabled={take.isPending} onClick={() => take.mutate([fileId])}>
                Take in
              </Button>
            )}
            <Button look="quiet" aria-label={`Leave ${path}`} onClick={() => leave.mutate([fileId])}>
              Leave it there
            </Button>
          </span>
        ) : (
          <span className="text-ink-2">{STATE_LABELS[state]}</span>
        ),
    },
  ];
  return (
    <>
      {!handover.closed && <Decisions id={id} handover={handover} />}
      <Queried query={returned}>
        {({ files, total }) => (
          <>
            <DataTable
              label="Files that came back"
              rows={files}
              keyOf={({ id: fileId }) => fileId}
              columns={columns}
              rowClass={() => 'align-top'}
              empty={
                <p className="max-w-140 p-4 text-ink-2">
                  Nothing has come back yet. What is saved in the folder shows here by itself: pictures by the names
                  that they went out by, or names that begin with these; and files and sidecars that say something else
                  than before.
                </p>
              }
            />
            <Pager offset={offset} page={RETURNED_SHOWN} total={total} onMove={setOffset} />
          </>
        )}
      </Queried>
    </>
  );
}

/** What is done with all of it. */
function Decisions({ id, handover }: Props) {
  const take = useTakeReturned(id);
  const look = useLookForReturned(id);
  const end = useEndHandover(id);
  return (
    <div className="flex items-center gap-2 border-b border-line px-4 py-2">
      <Button look="primary" disabled={handover.waiting === 0 || take.isPending} onClick={() => take.mutate(null)}>
        Take in {handover.waiting > 0 ? countText(handover.waiting, 'file') : ''}
      </Button>
      <Button disabled={look.isPending} onClick={() => look.mutate()}>
        Look now
      </Button>
      <Button
        look="quiet"
        className="ml-auto"
        onClick={() =>
          end.mutate(undefined, {
            onSuccess: ({ removed, kept }) =>
              toast(
                `${countText(removed, 'file')} deleted from the folder${kept > 0 ? `, ${countText(kept, 'other')} left there` : ''}`,
              ),
          })
        }
      >
        End it, and clear the folder
      </Button>
    </div>
  );
}

function File({ file: { path, kind, bytes, goesTo, problem } }: { file: ReturnedFile }) {
  return (
    <span className="block min-w-0">
      <span className="block font-mono text-[12px] break-all">{path}</span>
      <span className="block text-[12px] text-ink-2">
        {KIND_LABELS[kind]}
        {kind === 'picture' && `, ${sizeText(bytes)}`}
      </span>
      {goesTo !== null && problem === null && <span className="block text-[12px] text-ink-2">goes to {goesTo}</span>}
      {problem !== null && <span className="block text-[12px] text-red">{problem}</span>}
    </span>
  );
}

function Original({ original }: Pick<ReturnedFile, 'original'>) {
  if (original === null) return null;
  const { photoId, previewVersion, name } = original;
  return (
    <span className="block min-w-0">
      <RowPicture photoId={photoId} previewVersion={previewVersion} />
      <span className="block truncate font-mono text-[12px]" title={name}>
        {name}
      </span>
    </span>
  );
}

function Differences({ file: { state, kind, fields, contested, problem } }: { file: ReturnedFile }) {
  if (problem !== null || state !== 'waiting') return null;
  if (fields.length === 0)
    return (
      <span className="text-ink-3">
        {kind === 'picture' ? 'nothing: it gets what its original says' : 'nothing any more'}
      </span>
    );
  return (
    <dl className="space-y-1">
      {fields.map(({ field, label, before, after }) => (
        <div key={field} className="flex flex-wrap gap-x-2">
          <dt className="w-24 shrink-0 text-ink-2">{label}</dt>
          <dd className="min-w-0 break-words">
            <del className="text-ink-2">{shownValue(before)}</del>{' '}
            <ins className="no-underline">{shownValue(after)}</ins>
          </dd>
        </div>
      ))}
      {contested.length > 0 && (
        <div className="text-amber">Changed here meanwhile as well: {contested.join(', ')}. What came back stands.</div>
      )}
    </dl>
  );
}
