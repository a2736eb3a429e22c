// The faces that were found by example, as faces or in their whole pictures: chosen, named, given a term, gathered.

import { useState } from 'react';
import { Link } from 'react-router';
import type { LikeFace } from '@stellin/contract/people';
import { countText, numberText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { useMayChange } from '../foundation/session';
import { Button } from '../parts/Button';
import { deskLink } from '../parts/deskLink';
import { TermPicker } from '../parts/terms/TermPicker';
import { FaceTile } from './FaceTile';
import { likenessText } from './GroupRow';
import { PersonPicker } from './PersonPicker';
import { dossierShape } from '@stellin/contract/dossiers';
import { LineForm } from '../parts/LineForm';

export function LikeResult({ faces, isFetching }: { faces: readonly LikeFace[]; isFetching: boolean }) {
  const [view, setView] = useState<'faces' | 'photos'>('faces');
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const mayChange = useMayChange('nameFaces');
  const meant = chosen.size > 0 ? faces.filter(({ id }) => chosen.has(id)) : faces;
  const toggle = (id: number) =>
    setChosen((before) => {
      const next = new Set(before);
      if (!next.delete(id)) next.add(id);
      return next;
    });
  return (
    <>
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
        {mayChange && meant.length > 0 && <LikeActions faces={meant} areChosen={chosen.size > 0} />}
      </div>
      {faces.length === 0 && <p className="mt-3 text-ink-2">No face is as alike as that. Try a wider strictness.</p>}
      <div className="mt-3 flex flex-wrap gap-2.5">
        {faces.map((face) => {
          const shown = { face, chosen: chosen.has(face.id), onToggle: () => toggle(face.id) };
          return view === 'faces' ? <Alike key={face.id} {...shown} /> : <AlikePhoto key={face.id} {...shown} />;
        })}
      </div>
    </>
  );
}

interface AlikeProps {
  face: LikeFace;
  chosen: boolean;
  onToggle: () => void;
}

function Alike({ face, chosen, onToggle }: AlikeProps) {
  return (
    <FaceTile face={face} size={104} chosen={chosen} onClick={onToggle}>
      {likenessText(face.likeness)} {face.person?.name}
    </FaceTile>
  );
}

function AlikePhoto({ face, chosen, onToggle }: AlikeProps) {
  return (
    <figure className="m-0 w-56">
      <button
        type="button"
        aria-pressed={chosen}
        aria-label={face.photoName}
        className={`block bg-ground ${chosen ? 'ring-2 ring-spruce' : ''}`}
        onClick={onToggle}
      >
        <img src={`/api/photos/${face.photoId}/preview`} alt="" loading="lazy" className="h-40 w-56 object-contain" />
      </button>
      <figcaption className="mt-0.5 flex gap-2 text-[11px] text-ink-2">
        <Link to={deskLink(`name:"${face.photoName}"`)} className="truncate font-mono hover:underline">
          {face.photoName}
        </Link>
        <span className="figures ml-auto">{likenessText(face.likeness)}</span>
      </figcaption>
    </figure>
  );
}

/** What is done with the faces that are meant, and with the photos they are in. */
function LikeActions({ faces, areChosen }: { faces: readonly LikeFace[]; areChosen: boolean }) {
  const change = useChange();
  const photoIds = [...new Set(faces.map(({ photoId }) => photoId))];
  return (
    <span className="ml-auto flex items-center gap-2">
      <span className="text-ink-2">{areChosen ? 'The chosen:' : 'All of them:'}</span>
      <PersonPicker
        label="Name them"
        placeholder="Name them …"
        className="w-44"
        onPick={(who) => change.mutate({ kind: 'nameFaces', faceIds: faces.map(({ id }) => id), who })}
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
  );
}

function GatherButton({ photoIds }: { photoIds: number[] }) {
  const [open, setOpen] = useState(false);
  const change = useChange();
  if (!open) return <Button onClick={() => setOpen(true)}>Gather {countText(photoIds.length, 'photo')} …</Button>;
  return (
    <LineForm
      label="Name of the dossier"
      schema={dossierShape.shape.name}
      action="Gather"
      className="w-80"
      busy={change.isPending}
      onCancel={() => setOpen(false)}
      onSubmit={(name) =>
        change.mutate(
          { kind: 'makeDossier', name, selection: { query: null, plus: photoIds } },
          { onSuccess: () => setOpen(false) },
        )
      }
    />
  );
}
