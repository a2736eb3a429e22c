// Doubles by group: which to keep, and trashing the others.

import { useState } from 'react';
import { Link } from 'react-router';
import { bestToKeep } from '@stellin/core/doubles/doubles';
import type { DoubleKind, DoublePhoto } from '@stellin/contract/doubles';
import { countText } from '@stellin/contract/wording';
import { previewUrl } from '../foundation/api';
import { useChange } from '../foundation/changes';
import { useMayChange } from '../foundation/session';
import { Button } from '../parts/Button';
import { sizeText } from '@stellin/contract/sizeText';
import { useDoubleCount, useDoubles } from './queries';
import { RadioGroup, RadioMark } from '../parts/RadioGroup';
import { Failed } from '../parts/Queried';

const KINDS: readonly { kind: DoubleKind; label: string; explains: string }[] = [
  {
    kind: 'same',
    label: 'The same picture',
    explains: 'The coded picture is the same to the byte, whatever the files are called and say of it.',
  },
  {
    kind: 'alike',
    label: 'Look alike',
    explains: 'Another size, a lighter copy, a crop – or two pictures of one moment. Look before you trash one.',
  },
];

export function DoublesScreen() {
  const [kind, setKind] = useState<DoubleKind>('same');
  const doubles = useDoubles(kind);
  const { data, isPending, isFetchingNextPage, hasNextPage, fetchNextPage } = doubles;
  const { data: count } = useDoubleCount();
  const groups = data?.pages.flatMap((page) => page.groups) ?? [];
  return (
    <div className="h-full overflow-y-auto p-5">
      <div className="flex items-baseline gap-4">
        <h1 className="font-title text-[19px] font-semibold">Doubles</h1>
        <Link to="/intake" className="text-slate underline">
          Intake
        </Link>
        {count && count.groups > 0 && (
          <span className="figures ml-auto text-ink-2">
            {countText(count.groups, 'picture')} more than once; {countText(count.surplus, 'photo')},{' '}
            {sizeText(count.bytes)}, could go
          </span>
        )}
      </div>
      <div role="tablist" aria-label="Kind of doubles" className="mt-3 flex gap-2">
        {KINDS.map((entry) => (
          <button
            key={entry.kind}
            type="button"
            role="tab"
            aria-selected={kind === entry.kind}
            className={`rounded border px-3 py-1 ${kind === entry.kind ? 'border-spruce bg-spruce-pale font-semibold' : 'border-line bg-card hover:border-ink-3'}`}
            onClick={() => setKind(entry.kind)}
          >
            {entry.label}
          </button>
        ))}
      </div>
      <p className="mt-2 text-ink-2">{KINDS.find((entry) => entry.kind === kind)?.explains}</p>
      <Failed query={doubles} />
      {isPending && <p className="mt-3 text-ink-2">Looking …</p>}
      {data && groups.length === 0 && !hasNextPage && <p className="mt-3 text-ink-2">There are none.</p>}
      <ul className="mt-3 space-y-3">
        {groups.map((photos) => (
          <Group key={photos.map(({ id }) => id).join()} photos={photos} kind={kind} />
        ))}
      </ul>
      {hasNextPage && (
        <Button className="mt-4" disabled={isFetchingNextPage} onClick={() => void fetchNextPage()}>
          {isFetchingNextPage ? 'Looking …' : 'More'}
        </Button>
      )}
    </div>
  );
}

function Group({ photos, kind }: { photos: DoublePhoto[]; kind: DoubleKind }) {
  const [kept, setKept] = useState(() => bestToKeep(photos)?.id);
  const change = useChange();
  const mayChange = useMayChange('tellApart');
  const mayTrash = useMayChange('trashFiles');
  const others = photos.filter(({ id, away, missing }) => id !== kept && !away && !missing);
  const stuck = photos.length - 1 - others.length;
  const name = photos.find(({ id }) => id === kept)?.name ?? '';
  return (
    <li className="rounded-md border border-line bg-card p-3">
      <RadioGroup
        label={`Keep of ${countText(photos.length, 'photo')}`}
        value={String(kept)}
        onChange={(id) => setKept(Number(id))}
        className="flex flex-wrap gap-4"
      >
        {photos.map((photo) => (
          <Candidate key={photo.id} photo={photo} kept={photo.id === kept} />
        ))}
      </RadioGroup>
      {mayChange && (
        <div className="mt-3 flex items-center gap-3">
          {mayTrash && (
            <Button
              disabled={others.length === 0 || change.isPending}
              onClick={() =>
                change.mutate({
                  kind: 'trashFiles',
                  selection: { query: null, plus: others.map(({ id }) => id) },
                })
              }
            >
              Keep {name}, trash {others.length === 1 ? 'the other' : `the other ${others.length}`}
            </Button>
          )}
          {mayTrash && stuck > 0 && (
            <span className="text-ink-2">{countText(stuck, 'photo')} can’t be reached now</span>
          )}
          {kind === 'alike' && (
            <Button
              look="quiet"
              disabled={change.isPending}
              onClick={() =>
                change.mutate({ kind: 'bundlePhotos', selection: { query: null, plus: photos.map(({ id }) => id) } })
              }
            >
              Bundle them: they belong together
            </Button>
          )}
          {kind === 'alike' && (
            <Button
              look="quiet"
              disabled={change.isPending}
              onClick={() => change.mutate({ kind: 'tellApart', photoIds: photos.map(({ id }) => id) })}
            >
              They are different pictures
            </Button>
          )}
        </div>
      )}
    </li>
  );
}

function Candidate({ photo, kept }: { photo: DoublePhoto; kept: boolean }) {
  const said = [
    photo.terms > 0 && countText(photo.terms, 'term'),
    photo.parts.caption && 'caption',
    photo.parts.people && 'people',
    photo.rating !== 0 && (photo.rating < 0 ? 'rejected' : `rated ${photo.rating}`),
  ].filter(Boolean);
  return (
    <label
      className={`flex w-64 cursor-pointer flex-col gap-1.5 rounded border p-2 ${kept ? 'border-spruce bg-spruce-pale' : 'border-line hover:border-ink-3'}`}
    >
      <span className="flex h-36 items-center justify-center bg-ground">
        {photo.previewVersion > 0 && (
          <img
            src={previewUrl(photo.id, photo.previewVersion)}
            alt=""
            loading="lazy"
            className={`max-h-full max-w-full ${photo.away || photo.missing ? 'opacity-50' : ''}`}
          />
        )}
      </span>
      <span className="flex items-center gap-2 font-semibold">
        <RadioMark value={String(photo.id)} />
        <span className="truncate font-mono text-[12px]">{photo.name}</span>
      </span>
      <span className="truncate text-[12px] text-ink-2" title={`${photo.driveLabel}/${photo.folderPath}`}>
        {photo.driveLabel}
        {photo.folderPath && `/${photo.folderPath}`}
        {photo.away ? ' · away' : photo.missing ? ' · missing' : ''}
      </span>
      <span className="figures text-[12px] text-ink-2">
        {photo.width ?? '?'} × {photo.height ?? '?'} · {sizeText(photo.sizeBytes)}
      </span>
      <span className="text-[12px]">
        {said.length ? said.join(', ') : <span className="text-ink-2">not described</span>}
      </span>
    </label>
  );
}
