// Find by example: faces like one, or like the one in a picture from elsewhere. From here they are named, or gathered.

import { useDeferredValue, useEffect, useState } from 'react';
import { Link, useSearchParams } from 'react-router';
import { countText, numberText } from '@stellin/contract/wording';
import { faceUrl } from '../foundation/api';
import { showError, useChange } from '../foundation/changes';
import { useMay } from '../foundation/session';
import { Button } from '../parts/Button';
import { TermPicker } from '../parts/terms/TermPicker';
import { FaceTile } from './FaceTile';
import { likenessText } from './GroupRow';
import { PeopleFrame } from './PeopleFrame';
import { PersonPicker } from './PersonPicker';
import { useLike } from './queries';
import { Select } from '../parts/Select';
import { Checkbox } from '../parts/Checkbox';
import { Slider } from '../parts/Slider';

const WANTED = [
  { id: 'smiling', label: 'Smiling' },
  { id: 'eyesOpen', label: 'Eyes open' },
  { id: 'sharp', label: 'Sharp' },
  { id: 'frontal', label: 'Frontal' },
] as const;
type Wanted = (typeof WANTED)[number]['id'];

const NAMED = [
  { id: 'all', label: 'Named or not' },
  { id: 'open', label: 'Not named' },
  { id: 'named', label: 'Named' },
] as const;

/** A request is at most two megabytes, and base64 takes a third more. */
const LARGEST_BYTES = 1_400_000;

export function LikeScreen() {
  const [address] = useSearchParams();
  const faceId = Number(address.get('face') ?? 0);
  const [picture, setPicture] = useState<{ data: string; name: string; url: string } | null>(null);
  const [strictness, setStrictness] = useState(50);
  const [wanted, setWanted] = useState<ReadonlySet<Wanted>>(new Set());
  const [named, setNamed] = useState<(typeof NAMED)[number]['id']>('all');
  const [query, setQuery] = useState(address.get('q') ?? '');
  const [limit, setLimit] = useState(100);
  const [view, setView] = useState<'faces' | 'photos'>('faces');
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const change = useChange();
  const mayChange = useMay('cataloguer');
  useEffect(() => setChosen(new Set()), [faceId, picture]);

  const example = picture ? { picture: picture.data } : faceId > 0 ? { faceId } : null;
  const asked = useDeferredValue(
    JSON.stringify(
      example && {
        ...example,
        strictness: strictness / 100,
        ...Object.fromEntries(WANTED.map(({ id }) => [id, wanted.has(id)])),
        named,
        query,
        limit,
      },
    ),
  );
  const { data, error, isFetching } = useLike(JSON.parse(asked) as Parameters<typeof useLike>[0]);
  const faces = data?.faces ?? [];
  const meant = chosen.size > 0 ? faces.filter(({ id }) => chosen.has(id)) : faces;
  const photoIds = [...new Set(meant.map(({ photoId }) => photoId))];
  const toggle = (id: number) =>
    setChosen((before) => {
      const next = new Set(before);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  const take = (file: File | undefined) => {
    if (!file) return;
    if (file.size > LARGEST_BYTES)
      return showError(new Error(`${file.name} is larger than 1.4 MB. Make it smaller first.`));
    const reader = new FileReader();
    reader.onload = () => {
      const url = String(reader.result);
      setPicture({ data: url.slice(url.indexOf(',') + 1), name: file.name, url });
    };
    reader.readAsDataURL(file);
  };

  return (
    <PeopleFrame>
      <div
        onDragOver={(event) => event.preventDefault()}
        onDrop={(event) => {
          event.preventDefault();
          take(event.dataTransfer.files[0]);
        }}
      >
        <h1 className="font-title text-[19px] font-semibold">Find by example</h1>
        <div className="mt-3 flex gap-4 rounded-md border border-line bg-card p-3">
          <div className="w-30 shrink-0">
            {example ? (
              <img
                src={picture ? picture.url : faceUrl(faceId)}
                alt={picture ? picture.name : 'The face that others are to be like'}
                className="h-30 w-30 rounded object-cover"
              />
            ) : (
              <div className="flex h-30 w-30 items-center justify-center rounded bg-ground p-2 text-center text-[12px] text-ink-2">
                Choose a face, or a picture
              </div>
            )}
            <label className="mt-1.5 block cursor-pointer text-center text-slate underline focus-within:outline-2">
              Take a picture …
              <input
                type="file"
                accept="image/*"
                className="sr-only"
                onChange={(event) => take(event.target.files?.[0])}
              />
            </label>
          </div>
          <div className="min-w-0 flex-1 space-y-2.5">
            <div className="flex items-center gap-3">
              <span className="w-20 text-ink-2">Strictness</span>
              <span className="text-[12px]">wide</span>
              <Slider
                label="Strictness"
                value={strictness}
                lowest={0}
                highest={100}
                step={5}
                onChange={setStrictness}
              />
              <span className="text-[12px]">exact</span>
            </div>
            <div className="flex flex-wrap items-center gap-x-4 gap-y-1.5">
              <span className="w-17 text-ink-2">Only</span>
              {WANTED.map(({ id, label }) => (
                <Checkbox
                  key={id}
                  checked={wanted.has(id)}
                  onChange={() => {
                    const next = new Set(wanted);
                    if (!next.delete(id)) next.add(id);
                    setWanted(next);
                  }}
                >
                  {label}
                </Checkbox>
              ))}
              <Select
                label="Named or not"
                value={named}
                className="h-7"
                onChange={setNamed}
                options={NAMED.map(({ id, label }) => ({ value: id, label }))}
              />
            </div>
            <label className="flex items-center gap-3">
              <span className="w-20 shrink-0 text-ink-2">Within</span>
              <input
                value={query}
                placeholder='the whole catalogue, or a query such as term:Kites, not term:Portrait, within:"Vault 1/2019", dossier:"Open day"'
                className="h-8 min-w-0 flex-1 rounded border border-line bg-card px-2.5"
                onChange={(event) => setQuery(event.target.value)}
              />
              <span className="text-ink-2">at most</span>
              <Select
                label="At most"
                value={limit}
                onChange={(value) => setLimit(Number(value))}
                options={[20, 100, 200, 500].map((count) => ({ value: count, label: count }))}
              />
            </label>
          </div>
        </div>
        {error && <p className="mt-3 text-red">{error.message}</p>}
        {!example && (
          <p className="mt-3 max-w-160 text-ink-2">
            Double-click any face on these screens, or press L on it. A picture can be dropped here as well; it is
            looked at on this machine and not kept.
          </p>
        )}
        {example && data && (
          <div className="mt-3 flex flex-wrap items-center gap-2">
            <span className="figures font-semibold">
              {countText(faces.length, 'face')}
              {isFetching && ' …'}
            </span>
            {chosen.size > 0 && (
              <Button look="quiet" className="!h-7" onClick={() => setChosen(new Set())}>
                {numberText(chosen.size)} chosen: choose none
              </Button>
            )}
            <span role="group" aria-label="Show" className="flex gap-1">
              {(['faces', 'photos'] as const).map((each) => (
                <Button
                  key={each}
                  className="!h-7"
                  aria-pressed={view === each}
                  look={view === each ? 'primary' : 'plain'}
                  onClick={() => setView(each)}
                >
                  {each === 'faces' ? 'Faces' : 'Whole pictures'}
                </Button>
              ))}
            </span>
            {mayChange && meant.length > 0 && (
              <span className="ml-auto flex items-center gap-2">
                <span className="text-ink-2">{chosen.size > 0 ? 'The chosen:' : 'All of them:'}</span>
                <PersonPicker
                  label="Name them"
                  placeholder="Name them …"
                  className="w-44"
                  onPick={(who) => change.mutate({ kind: 'nameFaces', faceIds: meant.map(({ id }) => id), who })}
                />
                <TermPicker
                  label="Give a term to their photos"
                  placeholder="Give a term …"
                  assignable
                  className="w-40"
                  onPick={({ id }) =>
                    change.mutate({ kind: 'giveTerms', selection: { query: null, plus: photoIds }, termIds: [id] })
                  }
                />
                <GatherButton photoIds={photoIds} />
              </span>
            )}
          </div>
        )}
        {example && data && faces.length === 0 && (
          <p className="mt-3 text-ink-2">No face is as alike as that. Try a wider strictness.</p>
        )}
        <div className="mt-3 flex flex-wrap gap-2.5">
          {faces.map((face) =>
            view === 'faces' ? (
              <FaceTile
                key={face.id}
                face={face}
                size={104}
                chosen={chosen.has(face.id)}
                onClick={() => toggle(face.id)}
              >
                {likenessText(face.likeness)} {face.person?.name}
              </FaceTile>
            ) : (
              <figure key={face.id} className="m-0 w-56">
                <button
                  type="button"
                  aria-pressed={chosen.has(face.id)}
                  aria-label={face.photoName}
                  className={`block bg-ground ${chosen.has(face.id) ? 'ring-2 ring-spruce' : ''}`}
                  onClick={() => toggle(face.id)}
                >
                  <img
                    src={`/api/photos/${face.photoId}/preview`}
                    alt=""
                    loading="lazy"
                    className="h-40 w-56 object-contain"
                  />
                </button>
                <figcaption className="mt-0.5 flex gap-2 text-[11px] text-ink-2">
                  <Link
                    to={`/desk?q=${encodeURIComponent(`name:"${face.photoName}"`)}`}
                    className="truncate font-mono hover:underline"
                  >
                    {face.photoName}
                  </Link>
                  <span className="figures ml-auto">{likenessText(face.likeness)}</span>
                </figcaption>
              </figure>
            ),
          )}
        </div>
      </div>
    </PeopleFrame>
  );
}

function GatherButton({ photoIds }: { photoIds: number[] }) {
  const [name, setName] = useState<string | null>(null);
  const change = useChange();
  if (name === null) return <Button onClick={() => setName('')}>Gather {countText(photoIds.length, 'photo')} …</Button>;
  return (
    <form
      className="flex gap-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        change.mutate(
          { kind: 'makeDossier', name, selection: { query: null, plus: photoIds } },
          { onSuccess: () => setName(null) },
        );
      }}
    >
      <input
        autoFocus
        aria-label="Name of the dossier"
        placeholder="Name of the dossier"
        value={name}
        className="h-8 w-40 rounded border border-line bg-card px-2.5"
        onChange={(event) => setName(event.target.value)}
        onKeyDown={(event) => event.key === 'Escape' && setName(null)}
      />
      <Button look="primary" type="submit" disabled={name.trim() === '' || change.isPending}>
        Gather
      </Button>
    </form>
  );
}
