// Finding a place by name: the archive's own ones and those of the gazetteer.

import { useState } from 'react';
import type { NamesOfPlace } from '@stellin/core/describing/placing';
import type { Point } from '@stellin/core/timeplace/areas';
import { PLACE_KIND_LABELS } from '@stellin/core/timeplace/ownPlaces';
import { placeRoutes, type FoundPlace } from '@stellin/contract/places';
import { numberText } from '@stellin/contract/wording';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { call } from '../foundation/api';
import { Combobox } from './Combobox';
import { BOX, Field } from './Field';

/** A place of which it is known where it is. */
export type KnownPlace = FoundPlace & Point;

interface Props {
  label: string;
  onPick: (place: KnownPlace) => void;
  /** The list opens above the field. */
  above?: boolean;
  /** Only towns whose number in the gazetteer is known. */
  gazetteerOnly?: boolean;
}

export function PlaceFinder({ label, onPick, above = false, gazetteerOnly = false }: Props) {
  const [text, setText] = useState('');
  const found = useFoundPlaces(text);
  const places = (text.trim() === '' ? [] : (found.data ?? []))
    .flatMap(known)
    .filter(({ geonamesId }) => !gazetteerOnly || geonamesId !== null);
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
          above={above}
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

/** The names that a place that was found says of photos taken there; none where nothing is known of it. */
export async function namesAt({ latitude, longitude }: Point): Promise<NamesOfPlace | null> {
  const { places } = await call(placeRoutes.whereabouts, { body: { points: [{ latitude, longitude }] } });
  return places[0]?.names ?? null;
}

function known(place: FoundPlace): KnownPlace[] {
  const { latitude, longitude } = place;
  return latitude === null || longitude === null ? [] : [{ ...place, latitude, longitude }];
}

function Option({ place: { kind, ownId, name, detail, population } }: { place: KnownPlace }) {
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

/** Places by what is typed; nothing for an empty text. */
function useFoundPlaces(text: string) {
  const typed = text.trim();
  return useQuery({
    queryKey: ['places', 'find', typed],
    queryFn: async () => (await call(placeRoutes.findPlaces, { query: { text: typed } })).places,
    enabled: typed !== '',
    placeholderData: keepPreviousData,
  });
}
