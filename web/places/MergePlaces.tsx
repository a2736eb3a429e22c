// Merging an own place into another one.

import { useState } from 'react';
import { foldText } from '@stellin/core/text/words';
import type { OwnPlaceRow } from '@stellin/contract/places';
import { useChange } from '../foundation/changes';
import { Button } from '../parts/Button';
import { Combobox } from '../parts/Combobox';
import { BOX, Field } from '../parts/Field';
import { RewritePhotos } from './RewritePhotos';

export function MergePlaces({
  place,
  places,
  onClose,
}: {
  place: OwnPlaceRow;
  places: readonly OwnPlaceRow[];
  onClose: () => void;
}) {
  const [text, setText] = useState('');
  const [into, setInto] = useState<OwnPlaceRow | null>(null);
  const [isRewritten, setRewritten] = useState(false);
  const change = useChange();
  const wanted = foldText(text.trim());
  const options = places.filter(({ id, name }) => id !== place.id && foldText(name).includes(wanted)).slice(0, 12);
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (into)
          change.mutate(
            { kind: 'mergeOwnPlaces', placeId: place.id, intoId: into.id, rewrite: isRewritten },
            { onSuccess: onClose },
          );
      }}
    >
      <Field label="Into">
        {(tied) => (
          <Combobox
            {...tied}
            text={text}
            onText={(next) => {
              setText(next);
              setInto(null);
            }}
            listLabel="Own places"
            opensEmpty
            firstInFocus
            nothing="There is none that is called so."
            className={`${BOX} h-8`}
            options={options.map((each) => ({
              key: String(each.id),
              content: [...each.path, each.name].join(' › '),
              onPick: () => {
                setText(each.name);
                setInto(each);
              },
            }))}
          />
        )}
      </Field>
      <p className="text-ink-2">Its names become other names of that place, and what lies in it lies there.</p>
      <RewritePhotos place={place} checked={isRewritten} onChange={setRewritten} />
      <div className="flex gap-2">
        <Button type="submit" look="primary" disabled={!into || change.isPending}>
          Merge them
        </Button>
        <Button onClick={onClose}>Not now</Button>
      </div>
    </form>
  );
}
