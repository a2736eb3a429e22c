// Finding a place by name: the archive's own ones and those of the gazetteer.

import { useState } from 'react';
import { PLACE_KIND_LABELS } from '@stellin/core/timeplace/ownPlaces';
import type { FoundPlace } from '@stellin/contract/places';
import { numberText } from '@stellin/contract/wording';
import { Combobox } from '../parts/Combobox';
import { BOX, Field } from '../parts/Field';
import { useFoundPlaces } from './queries';

interface Props {
  label: string;
  /** Only places of which it is known where they are can be picked. */
  onPick: (place: FoundPlace) => void;
}

export function PlaceFinder({ label, onPick }: Props) {
  const [text, setText] = useState('');
  const found = useFoundPlaces(text);
  const places = (text.trim() === '' ? [] : (found.data ?? [])).filter(({ latitude }) => latitude !== null);
  return (
    <Field label={label}>
      {(tied) => (
        <Combobox
          {...tied}
          text={text}
          onText={setText}
          listLabel="Places"
          placeholder="A town, a pier, a country …"
          firstInFocus
          answered={!found.isPlaceholderData && !found.isFetching}
          nothing="No place is called so."
          className={`${BOX} h-8`}
          options={places.map((place, i) => ({
            key: `${i} ${place.name}`,
            content: <Option place={place} />,
            onPick: () => {
              setText(place.name);
              onPick(place);
            },
          }))}
        />
      )}
    </Field>
  );
}

function Option({ place: { kind, ownId, name, detail, population } }: { place: FoundPlace }) {
  return (
    <span className="flex min-w-0 flex-1 items-baseline gap-2">
      <span className="min-w-0 truncate">
        <b className="font-semibold">{name}</b> <span className="text-ink-2">{detail}</span>
      </span>
      <span className="figures ml-auto shrink-0 text-[11px] text-ink-3">
        {ownId !== null ? `own ${PLACE_KIND_LABELS[kind].toLowerCase()}` : population > 0 ? numberText(population) : ''}
      </span>
    </span>
  );
}
