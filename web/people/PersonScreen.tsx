// A person: what is known of them, their faces (confirmed, suggested, refused), when and with whom they were seen.

import { useState } from 'react';
import { Link, useNavigate, useParams } from 'react-router';
import type { Face } from '@stellin/contract/people';
import { countText, numberText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { useMayChange } from '../foundation/session';
import { BarChart } from '../parts/BarChart';
import { Button } from '../parts/Button';
import { deskLink } from '../parts/deskLink';
import { FaceTile } from './FaceTile';
import { sureText } from './GroupRow';
import { PeopleFrame } from './PeopleFrame';
import { PersonActions } from './PersonActions';
import { PersonForm } from './PersonForm';
import { usePerson } from './queries';
import { Failed } from '../parts/Queried';
import { changeSchema, type ChangeInput } from '@stellin/contract/ledger';
import { LineForm } from '../parts/LineForm';

export function PersonScreen() {
  const id = Number(useParams()['id']);
  return <PersonPage key={id} id={id} />;
}

function PersonPage({ id }: { id: number }) {
  const known = usePerson(id);
  const { data } = known;
  const change = useChange();
  const navigate = useNavigate();
  const mayChange = useMayChange('savePerson');
  const maySplit = useMayChange('splitPerson');
  const [chosen, setChosen] = useState<ReadonlySet<number>>(new Set());
  const [editing, setEditing] = useState(false);
  if (!data)
    return (
      <PeopleFrame>
        <Failed query={known} />
      </PeopleFrame>
    );
  const { person, confirmed, suggested, refused, years, along } = data;
  const toggle = (faceId: number) =>
    setChosen((before) => {
      const next = new Set(before);
      if (!next.delete(faceId)) next.add(faceId);
      return next;
    });
  const act = (made: Parameters<typeof change.mutate>[0]) => {
    change.mutate(made);
    setChosen(new Set());
  };
  const among = (faces: readonly Face[]) => faces.filter((face) => chosen.has(face.id)).map((face) => face.id);
  const [theirs, maybe] = [among(confirmed), among(suggested)];
  const sure = suggested.filter(({ certainty }) => certainty >= SURE).map((face) => face.id);
  const tiles = (faces: readonly (Face & { certainty?: number })[]) => (
    <div className="mt-2 flex flex-wrap gap-2">
      {faces.map((face) => (
        <FaceTile
          key={face.id}
          face={face}
          chosen={chosen.has(face.id)}
          dragged={!mayChange ? [] : chosen.has(face.id) ? among(faces) : [face.id]}
          onClick={() => toggle(face.id)}
          onDoubleClick={() => void navigate(`/people/like?face=${face.id}`)}
        >
          {face.certainty === undefined ? (face.takenAt?.slice(0, 4) ?? '') : sureText(face.certainty)}
        </FaceTile>
      ))}
    </div>
  );
  return (
    <PeopleFrame>
      <PersonHead person={person} editing={editing} onEdit={() => setEditing(!editing)} />
      {editing && <PersonForm person={person} onClose={() => setEditing(false)} />}
      <div className="mt-4 grid grid-cols-[minmax(0,1fr)_250px] gap-5">
        <div className="min-w-0 space-y-5">
          {suggested.length > 0 && (
            <section aria-labelledby="suggested">
              <div className="flex items-center gap-3">
                <h2 id="suggested" className="font-title text-[15px] font-semibold">
                  Perhaps {person.name}: {countText(suggested.length, 'face')}
                </h2>
                {mayChange && <Answer personId={id} chosen={maybe} sure={sure} onAct={act} />}
              </div>
              {tiles(suggested)}
            </section>
          )}
          <section aria-labelledby="confirmed">
            <div className="flex items-center gap-3">
              <h2 id="confirmed" className="font-title text-[15px] font-semibold">
                Confirmed: {countText(person.faces, 'face')}
              </h2>
              {mayChange && theirs.length > 0 && (
                <span className="ml-auto flex gap-1.5">
                  <Button onClick={() => act({ kind: 'refuseFaces', faceIds: theirs, personId: id })}>
                    Not {person.name}
                  </Button>
                  {maySplit && <SplitOff personId={id} faceIds={theirs} onDone={() => setChosen(new Set())} />}
                </span>
              )}
            </div>
            {confirmed.length === 0 && <p className="mt-1 text-ink-2">No face of theirs is named yet.</p>}
            {tiles(confirmed)}
          </section>
          {refused.length > 0 && (
            <section aria-labelledby="refused">
              <h2 id="refused" className="font-title text-[15px] font-semibold">
                Refused: {countText(refused.length, 'face')}
              </h2>
              {tiles(refused)}
            </section>
          )}
        </div>
        <Company name={person.name} years={years} along={along} />
      </div>
    </PeopleFrame>
  );
}

type Known = NonNullable<ReturnType<typeof usePerson>['data']>;

interface HeadProps {
  person: Known['person'];
  editing: boolean;
  onEdit: () => void;
}

/** Who it is, and what can be done with the person. */
function PersonHead({ person, editing, onEdit }: HeadProps) {
  const mayChange = useMayChange('savePerson');
  return (
    <>
      <div className="flex items-baseline gap-3">
        <h1 className="font-title text-[19px] font-semibold">{person.name}</h1>
        <span className="text-ink-2">{person.otherNames.join(', ')}</span>
        {person.private && <span className="rounded bg-amber-pale px-1.5 text-amber">private</span>}
        <span className="ml-auto flex items-center gap-2">
          <Link to={deskLink(`person:"${person.name}"`)} className="text-slate underline">
            {countText(person.photos, 'photo')} on the Desk
          </Link>
          {mayChange && <Button onClick={onEdit}>{editing ? 'Close' : 'Edit …'}</Button>}
          {mayChange && <PersonActions person={person} />}
        </span>
      </div>
      {(person.born || person.died || person.note) && !editing && (
        <p className="mt-1 text-ink-2">
          {[person.born && `born ${person.born}`, person.died && `died ${person.died}`].filter(Boolean).join(', ')}
          {person.note && <span className="block whitespace-pre-line">{person.note}</span>}
        </p>
      )}
    </>
  );
}

interface AnswerProps {
  personId: number;
  chosen: number[];
  /** Faces that are almost certainly theirs. */
  sure: number[];
  onAct: (change: ChangeInput) => void;
}

/** Yes or no to the faces that are chosen, or yes to all that are sure. */
function Answer({ personId, chosen, sure, onAct }: AnswerProps) {
  return (
    <span className="ml-auto flex gap-1.5">
      {chosen.length > 0 ? (
        <>
          <Button look="primary" onClick={() => onAct({ kind: 'nameFaces', faceIds: chosen, who: { personId } })}>
            Yes, {chosen.length === 1 ? 'this one' : `these ${numberText(chosen.length)}`}
          </Button>
          <Button onClick={() => onAct({ kind: 'refuseFaces', faceIds: chosen, personId })}>No, never</Button>
        </>
      ) : (
        sure.length > 0 && (
          <Button look="primary" onClick={() => onAct({ kind: 'nameFaces', faceIds: sure, who: { personId } })}>
            Yes, all {numberText(sure.length)} that are 95 in 100 sure
          </Button>
        )
      )}
    </span>
  );
}

/** Over which years the person is seen, and with whom. */
function Company({ name, years, along }: Pick<Known, 'years' | 'along'> & { name: string }) {
  return (
    <aside className="space-y-5">
      <section aria-labelledby="years">
        <h2 id="years" className="font-title text-[15px] font-semibold">
          Over the years
        </h2>
        <Years years={years} name={name} />
      </section>
      <section aria-labelledby="along">
        <h2 id="along" className="font-title text-[15px] font-semibold">
          Seen with
        </h2>
        <ul className="mt-1">
          {along.map((other) => (
            <li key={other.personId} className="flex gap-2">
              <Link to={`/people/${other.personId}`} className="min-w-0 flex-1 truncate hover:underline">
                {other.name}
              </Link>
              <Link
                to={deskLink(`person:"${name}" person:"${other.name}"`)}
                aria-label={`Photos with ${other.name}`}
                className="figures text-slate hover:underline"
              >
                {numberText(other.photos)}
              </Link>
            </li>
          ))}
          {along.length === 0 && <li className="text-ink-2">Nobody named yet.</li>}
        </ul>
      </section>
    </aside>
  );
}

const SURE = 0.95;

function Years({ years, name }: { years: readonly { year: number; photos: number }[]; name: string }) {
  if (years.length === 0) return <p className="mt-1 text-ink-2">None of the photos has a date.</p>;
  const bars = years.map(({ year, photos }) => ({
    label: String(year),
    value: photos,
    said: countText(photos, 'photo'),
    link: deskLink(`person:"${name}" taken:${year}`),
  }));
  return <BarChart label={`Photos of ${name} over the years`} bars={bars} />;
}

function SplitOff({ personId, faceIds, onDone }: { personId: number; faceIds: number[]; onDone: () => void }) {
  const [open, setOpen] = useState(false);
  const change = useChange();
  if (!open) return <Button onClick={() => setOpen(true)}>Split {countText(faceIds.length, 'face')} off …</Button>;
  return (
    <LineForm
      label="Name of the other person"
      schema={changeSchema('splitPerson').shape.name}
      action="Split off"
      busy={change.isPending}
      onCancel={() => setOpen(false)}
      onSubmit={(name) => change.mutate({ kind: 'splitPerson', personId, faceIds, name }, { onSuccess: onDone })}
    />
  );
}
