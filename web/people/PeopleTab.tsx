// The People tab of the drawer: who is in the chosen photos, and their faces.

import { useState } from 'react';
import { useNavigate } from 'react-router';
import { X } from 'lucide-react';
import type { Selection } from '@stellin/contract/photos';
import { countText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { shownKey } from '../foundation/keys';
import { useMayChange } from '../foundation/session';
import { FaceTile } from './FaceTile';
import { PersonPicker } from './PersonPicker';
import { useFacesOf, usePeopleIn } from './queries';

interface Props {
  selection: Selection | null;
  /** The one that is chosen, where it is one: it is looked at for faces if it has not been. */
  photoId: number | null;
  /** How many photos that is. */
  count: number;
  /** Raised to bring the focus to the name. */
  focusKey: number;
}

export function PeopleTab({ selection, photoId, count, focusKey }: Props) {
  const { data } = usePeopleIn(selection);
  const { data: here, isPending: isLooking } = useFacesOf(photoId);
  const change = useChange();
  const mayChange = useMayChange('namePhotos');
  const navigate = useNavigate();
  const [at, setAt] = useState<number | null>(null);
  if (!selection) return <p className="p-4 text-ink-2">Choose photos on the sheet, then say here who is in them.</p>;
  const face = data?.faces.find(({ id }) => id === at);
  return (
    <div className="flex h-full">
      <div className="w-90 shrink-0 overflow-y-auto border-r border-line p-3">
        <h3 className="mb-1.5 text-[12px] font-semibold text-ink-2">
          In {count === 1 ? 'this photo' : `these ${countText(count, 'photo')}`}
        </h3>
        {mayChange && (
          <PersonPicker
            label="Say who is in the chosen photos"
            placeholder={`Somebody is in ${count === 1 ? 'it' : 'all of them'} …  (${shownKey('people')})`}
            focusKey={focusKey}
            className="mb-2 w-full"
            onPick={(who) => change.mutate({ kind: 'namePhotos', selection, who })}
          />
        )}
        <ul className="flex flex-wrap gap-1.5" aria-label="People in the chosen photos">
          {data?.persons.map(({ id, name, photos }) => (
            <li
              key={id}
              className={`flex h-6 items-center gap-1.5 rounded border pl-2 ${photos < count ? 'border-dashed border-ink-3 bg-card' : 'border-line bg-spruce-pale'}`}
            >
              <button type="button" className="hover:underline" onClick={() => void navigate(`/people/${id}`)}>
                {name}
              </button>
              {photos < count && (
                <span className="figures text-[11px] text-amber">
                  {photos} of {count}
                </span>
              )}
              {mayChange ? (
                <button
                  type="button"
                  aria-label={`${name} is not in them`}
                  title="Not in them"
                  className="pr-1.5 text-ink-3 hover:text-red"
                  onClick={() => change.mutate({ kind: 'takePersons', selection, personId: id })}
                >
                  <X size={12} />
                </button>
              ) : (
                <span className="w-1" />
              )}
            </li>
          ))}
          {data?.persons.length === 0 && <li className="text-ink-2">Nobody is named yet.</li>}
        </ul>
      </div>
      <div className="min-w-0 flex-1 overflow-y-auto p-3">
        <div className="mb-1.5 flex h-8 items-center gap-3">
          <h3 className="text-[12px] font-semibold text-ink-2">{countText(data?.faces.length ?? 0, 'face')}</h3>
          {face && mayChange && (
            <PersonPicker
              label="Who this face shows"
              placeholder={face.person ? `${face.person.name}, or …` : 'Who is this? …'}
              className="w-60"
              onPick={(who) => change.mutate({ kind: 'nameFaces', faceIds: [face.id], who })}
            />
          )}
        </div>
        <div className="flex flex-wrap gap-2">
          {data?.faces.map((one) => (
            <FaceTile
              key={one.id}
              face={one}
              size={76}
              chosen={one.id === at}
              label={one.person ? `${one.person.name} in ${one.photoName}` : `Face in ${one.photoName}, not named`}
              onClick={() => setAt(one.id === at ? null : one.id)}
              onDoubleClick={() => void navigate(`/people/like?face=${one.id}`)}
            >
              {one.person?.name ?? 'not named'}
            </FaceTile>
          ))}
          {data?.faces.length === 0 && (
            <p className="text-ink-2">
              {photoId !== null && isLooking
                ? 'Looking for faces …'
                : here?.problem
                  ? `No faces: ${here.problem}.`
                  : `No faces were found. In the viewer one can be drawn (${shownKey('drawFace')}).`}
            </p>
          )}
        </div>
      </div>
    </div>
  );
}
