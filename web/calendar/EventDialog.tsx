// Naming an event: a name, and what is made of it in one step.

import { useState } from 'react';
import { namesTold, type NamesOfPlace } from '@stellin/core/describing/placing';
import type { FoundEvent } from '@stellin/contract/calendar';
import type { FoundTerm } from '@stellin/contract/vocabulary';
import { countText } from '@stellin/contract/wording';
import { showError, useChange } from '../foundation/changes';
import { Button } from '../parts/Button';
import { Checkbox } from '../parts/Checkbox';
import { Dialog } from '../parts/Dialog';
import { TextField } from '../parts/Field';
import { namesAt, PlaceFinder } from '../parts/PlaceFinder';
import { TermPicker } from '../parts/terms/TermPicker';
import { spanText } from './calendarText';

export function EventDialog({ event, onClose }: { event: FoundEvent; onClose: () => void }) {
  const [name, setName] = useState('');
  const [field, setField] = useState(true);
  const [term, setTerm] = useState(true);
  const [parent, setParent] = useState<FoundTerm | null>(null);
  const [dossier, setDossier] = useState(true);
  const [place, setPlace] = useState(event.names);
  const change = useChange();
  const isReady = name.trim() !== '' && (field || term || dossier || place !== null) && !change.isPending;
  const submit = () =>
    change.mutate(
      {
        ...{ kind: 'nameEvent', selection: { query: event.query, minus: [], plus: [] }, name: name.trim() },
        ...{ term: term ? { parentId: parent?.id ?? null } : null, dossier, field, place },
      },
      { onSuccess: onClose },
    );
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title="Name this event">
      <form
        className="flex flex-col gap-3"
        onSubmit={(submitted) => {
          submitted.preventDefault();
          if (isReady) submit();
        }}
      >
        <p className="text-ink-2">
          {spanText(event.from, event.to)}: {countText(event.photos, 'photo')}
        </p>
        <TextField
          label="Name"
          autoFocus
          maxLength={100}
          value={name}
          onChange={(typed) => setName(typed.target.value)}
        />
        <Checkbox checked={field} onChange={setField}>
          Write it into the field Event, where that is empty
        </Checkbox>
        <Checkbox checked={term} onChange={setTerm}>
          Give it as a term
        </Checkbox>
        {term && <Below parent={parent} onParent={setParent} />}
        <Checkbox checked={dossier} onChange={setDossier}>
          Gather the photos in a dossier of this name
        </Checkbox>
        <PlaceOf place={place} onPlace={setPlace} />
        <div className="flex gap-2">
          <Button look="primary" type="submit" disabled={!isReady}>
            Name {countText(event.photos, 'photo')}
          </Button>
          <Button onClick={onClose}>Not now</Button>
        </div>
      </form>
    </Dialog>
  );
}

/** Under which term a new one is made. */
function Below({ parent, onParent }: { parent: FoundTerm | null; onParent: (term: FoundTerm | null) => void }) {
  return (
    <div className="ml-6 text-[12px] text-ink-2">
      {parent ? (
        <p className="flex items-center gap-2">
          If there is none of this name, it is made below <b className="text-ink">{parent.label}</b>.
          <button type="button" className="text-slate hover:underline" onClick={() => onParent(null)}>
            At the top instead
          </button>
        </p>
      ) : (
        <>
          <p className="mb-1">If there is none of this name, it is made at the top, or below:</p>
          <TermPicker label="Broader term" placeholder="Find a broader term" onPick={onParent} />
        </>
      )}
    </div>
  );
}

/** The names of the place that are filled in where photos say none. */
function PlaceOf({ place, onPlace }: { place: NamesOfPlace | null; onPlace: (names: NamesOfPlace | null) => void }) {
  const said = place ? namesTold(place) : [];
  if (place && said.length > 0)
    return (
      <p className="text-ink-2">
        Where no place is named: <b className="text-ink">{said.join(', ')}</b>{' '}
        <button type="button" className="text-slate hover:underline" onClick={() => onPlace(null)}>
          Leave it out
        </button>
      </p>
    );
  return (
    <PlaceFinder
      label="Where it was (optional)"
      onPick={(found) => void namesAt(found).then(onPlace).catch(showError)}
    />
  );
}
