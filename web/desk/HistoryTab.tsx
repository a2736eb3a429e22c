// The History tab: what was done to the photo in focus, and what was written into its files.

import { dateTimeText } from '../parts/dateTimeText';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Undo2 } from 'lucide-react';
import { useState } from 'react';
import { Link } from 'react-router';
import type { LedgerEntry } from '@stellin/contract/ledger';
import type { Photo } from '@stellin/contract/photos';
import { countText } from '@stellin/contract/wording';
import { writeBackRoutes, type MetadataVersion } from '@stellin/contract/writeback';
import { call } from '../foundation/api';
import { showError } from '../foundation/changes';
import { useMayCall } from '../foundation/session';
import { EntryDialog } from '../ledger/EntryDialog';
import { EntryList } from '../ledger/EntryList';
import { Button } from '../parts/Button';
import { Queried } from '../parts/Queried';
import { deskLink } from '../parts/deskLink';
import { usePhoto } from '../photos/queries';
import { useHistory, useLooks, useVersions } from './queries';

interface Props {
  photo: Photo | undefined;
  /** How many photos are chosen; the history is that of the one in focus. */
  count: number;
}

export function HistoryTab({ photo, count }: Props) {
  const history = useHistory(photo?.id);
  const written = useVersions(photo?.id);
  const [open, setOpen] = useState<LedgerEntry | null>(null);
  if (photo === undefined) return <p className="p-3 text-ink-2">Choose a photo to see what was done to it.</p>;
  return (
    <div className="grid grid-cols-[2fr_1fr] gap-6">
      <div>
        <p className="px-3 pt-2 text-ink-2">
          What was done to <span className="font-mono text-[12px] text-ink">{photo.name}</span>
          {count > 1 && `, the one in focus of ${countText(count, 'photo')} that are chosen`}
        </p>
        <Queried query={history}>
          {(entries) =>
            entries.length ? (
              <EntryList entries={entries} onOpen={setOpen} />
            ) : (
              <p className="p-3 text-ink-2">Nothing was changed on this photo yet.</p>
            )
          }
        </Queried>
        <Beginning photoId={photo.id} />
      </div>
      <div>
        <Queried query={written}>{(versions) => <Writes photoId={photo.id} versions={versions} />}</Queried>
        <Looks photoId={photo.id} />
      </div>
      {open && <EntryDialog key={open.id} entry={open} photo={photo} onClose={() => setOpen(null)} />}
    </div>
  );
}

/** With what it came: where the history begins. */
function Beginning({ photoId }: { photoId: number }) {
  const { data } = usePhoto(photoId);
  if (!data?.takenIn) return null;
  const { accession, at, by } = data.takenIn;
  return (
    <p className="border-t border-line px-3 py-2">
      <span className="figures mr-3 whitespace-nowrap">{dateTimeText(at)}</span>
      <span className="mr-3">{by}</span>
      <Link className="hover:text-slate hover:underline" to={deskLink(`accession:${accession}`)}>
        Taken in with accession {accession}
      </Link>
    </p>
  );
}

/** Who looked at it large; nothing for those who do not read the record of access. */
function Looks({ photoId }: { photoId: number }) {
  const { data = [] } = useLooks(photoId);
  if (data.length === 0) return null;
  return (
    <section className="p-3" aria-labelledby="looks">
      <h3 id="looks" className="mb-1.5 text-[12px] font-semibold text-ink-2">
        Looked at large
      </h3>
      <ul>
        {data.map(({ id, at, by }) => (
          <li key={id} className="flex gap-3">
            <span className="figures whitespace-nowrap">{dateTimeText(at)}</span> {by}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** The writes into the photo's files; the last one can be taken back. */
function Writes({ photoId, versions }: { photoId: number; versions: MetadataVersion[] }) {
  const client = useQueryClient();
  const mayTakeBack = useMayCall(writeBackRoutes.takeBack);
  const takeBack = useMutation({
    mutationFn: () => call(writeBackRoutes.takeBack, { body: { selection: { query: null, plus: [photoId] } } }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['jobs'] }),
    onError: showError,
  });
  if (versions.length === 0) return <p className="p-3 text-ink-2">Nothing was written into its file yet.</p>;
  return (
    <section className="p-3">
      <h3 className="mb-1.5 text-[12px] font-semibold text-ink-2">Written into its files</h3>
      <ul className="space-y-1">
        {versions.map(({ writtenAt, targets, keptBytes }, i) => (
          <li key={writtenAt} className="flex min-h-8 items-center gap-3">
            <span className="figures whitespace-nowrap">{dateTimeText(writtenAt)}</span>
            <span className="text-ink-2">
              {targets.join(' and ')}, {(keptBytes / 1000).toFixed(1)} KB kept
            </span>
            {i === 0 && mayTakeBack && (
              <Button
                className="ml-auto"
                disabled={takeBack.isPending}
                onClick={() => takeBack.mutate()}
                title="The file becomes what it was before this write, byte for byte; the catalogue stays"
              >
                <Undo2 size={14} /> Take back
              </Button>
            )}
          </li>
        ))}
      </ul>
    </section>
  );
}
