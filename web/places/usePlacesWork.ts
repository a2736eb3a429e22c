// What somebody is doing on the screen of places: which photos they mean, what is shown and asked, and what is open.

import { useRef, useState } from 'react';
import type { Selection } from '@stellin/contract/photos';
import type { OwnPlaceRow } from '@stellin/contract/places';
import { useMayChange } from '../foundation/session';
import type { KnownPlace } from '../parts/PlaceFinder';
import { useCount } from '../photos/queries';
import { useResult } from '../photos/result';
import type { Asking } from './Asked';
import type { DoubtKind } from './doubtText';
import type { MapHandle } from './map/WorldMap';
import { useOverlays } from './Overlays';
import type { OwnPlaceTask } from './OwnPlaceDialog';
import { useOwnPlaces, usePlaceDoubts } from './queries';
import type { Meant } from '../photos/Strip';
import { useDrawing } from './useDrawing';
import { usePin } from './usePin';

const NOBODY: Meant = { kind: 'some', ids: new Set() };
const SPOT_ZOOM = 15;
const COUNTRY_ZOOM = 5;

export type PlacesWork = ReturnType<typeof usePlacesWork>;

export function usePlacesWork() {
  const { query, show } = useResult();
  const map = useRef<MapHandle>(null);
  const pin = usePin();
  const [shown, setShown] = useState<OwnPlaceRow | null>(null);
  const [meant, setMeant] = useState<Meant>(NOBODY);
  const [task, setTask] = useState<OwnPlaceTask | null>(null);
  /** The dialog that is open about many photos. */
  const [asking, setAsking] = useState<Asking | null>(null);
  const [doubting, setDoubting] = useState<DoubtKind | null>(null);
  const overlays = useOverlays();
  const doubts = usePlaceDoubts(doubting !== null);
  const mayPlace = useMayChange('setFields');
  const own = useOwnPlaces();
  const total = useCount(query).data?.count ?? 0;
  const look = (next: string) => {
    setMeant(NOBODY);
    show({ query: next });
  };
  const drawing = useDrawing(query, look);
  const chosen = selectionOf(meant, query);
  return {
    ...{ query, look, map, pin, shown, meant, setMeant, task, setTask, asking, setAsking, drawing },
    ...{ doubting, setDoubting, doubts, overlays, mayPlace, own, places: own.data ?? [], total },
    /** The chosen photos; null while none is. */
    chosen,
    /** These, or all of the result. */
    selection: chosen ?? whole(query),
    chooseNone: () => setMeant(NOBODY),
    /** Photos that are chosen are meant together; one that is not is dragged alone. */
    dragged: (photoId: number) => {
      if (meant.kind === 'some' && !meant.ids.has(photoId)) setMeant({ kind: 'some', ids: new Set([photoId]) });
    },
    showPlace: (place: OwnPlaceRow) => {
      setShown(place);
      if (place.corners) map.current?.fit(place.corners);
      else if (place.point) map.current?.show(place.point, place.kind === 'spot' ? SPOT_ZOOM : undefined);
    },
    showFound: ({ latitude, longitude, kind }: KnownPlace) => {
      const point = { latitude, longitude };
      if (mayPlace && kind !== 'country') pin.put(point);
      map.current?.show(point, kind === 'country' ? COUNTRY_ZOOM : undefined);
    },
  };
}

const whole = (query: string): Selection => ({ query, minus: [], plus: [] });

function selectionOf(meant: Meant, query: string): Selection | null {
  if (meant.kind === 'all') return whole(query);
  return meant.ids.size === 0 ? null : { query: null, minus: [], plus: [...meant.ids] };
}
