// Places: the photos of a result on the map, what is to be done about places, and the archive's own ones.

import { useDeferredValue, useEffect, useRef, useState, type ReactNode } from 'react';
import { conjuncts } from '@stellin/core/query/query';
import { parseQuery, queryText } from '@stellin/core/search/language';
import type { MapView } from '@stellin/core/search/index/mapCells';
import { withinBox } from '@stellin/core/timeplace/areaQuery';
import type { OwnPlaceRow } from '@stellin/contract/places';
import type { Selection } from '@stellin/contract/photos';
import { useMayChange } from '../foundation/session';
import { PlaceFinder, type KnownPlace } from '../parts/PlaceFinder';
import { Failed } from '../parts/Queried';
import { useCount } from '../photos/queries';
import { useResult } from '../photos/result';
import { ClocksPanel } from './ClocksPanel';
import { DoubtsPanel } from './DoubtsPanel';
import type { DoubtKind } from './doubtText';
import type { MapHandle } from './map/WorldMap';
import { MapArea } from './MapArea';
import { MapQuery } from './MapQuery';
import { MatchDialog } from './MatchDialog';
import { NamesDialog } from './NamesDialog';
import { Overlays, useOverlays } from './Overlays';
import { OwnPlaceDialog, type OwnPlaceTask } from './OwnPlaceDialog';
import { OwnPlaces } from './OwnPlaces';
import { PinPanel, withPoint } from './PinPanel';
import { Placing } from './Placing';
import { PositionsDialog } from './PositionsDialog';
import { useMapPhotos, useOwnPlaces, usePlaceDoubts, useWhere, WORLD } from './queries';
import { Strip, type Meant } from './Strip';
import { useDrawing } from './useDrawing';
import { usePin } from './usePin';
import { WorkLists } from './WorkLists';

const NOBODY: Meant = { kind: 'some', ids: new Set() };
const SPOT_ZOOM = 15;
const COUNTRY_ZOOM = 5;

export function PlacesScreen() {
  const { query, show } = useResult();
  const map = useRef<MapHandle>(null);
  const [view, setView] = useState<MapView | null>(null);
  const pin = usePin();
  const [shown, setShown] = useState<OwnPlaceRow | null>(null);
  const [meant, setMeant] = useState<Meant>(NOBODY);
  const [task, setTask] = useState<OwnPlaceTask | null>(null);
  /** The dialog that is open about many photos. */
  const [asking, setAsking] = useState<Asking | null>(null);
  const [doubting, setDoubting] = useState<DoubtKind | null>(null);
  /** The photo that the pointer is over on the map, and the one in the strip. */
  const [hoveredId, setHoveredId] = useState<number | null>(null);
  const [pointedId, setPointedId] = useState<number | null>(null);
  const pointed = useWhere(useDeferredValue(pointedId));
  const overlays = useOverlays();
  const { pinning, setPinning } = overlays;
  const doubts = usePlaceDoubts(doubting !== null);
  const mayPlace = useMayChange('setFields');
  const own = useOwnPlaces();
  const photos = useMapPhotos(query, view);
  const total = useCount(query).data?.count ?? 0;
  useFitting(map, query);
  const places = own.data ?? [];
  const selection = selectionOf(meant, query);

  const look = (next: string) => {
    setMeant(NOBODY);
    show({ query: next });
  };
  const drawing = useDrawing(query, look);
  const showPlace = (place: OwnPlaceRow) => {
    setShown(place);
    if (place.corners) map.current?.fit(place.corners);
    else if (place.point) map.current?.show(place.point, place.kind === 'spot' ? SPOT_ZOOM : undefined);
  };
  const picked = ({ latitude, longitude, kind }: KnownPlace) => {
    const point = { latitude, longitude };
    if (mayPlace && kind !== 'country') pin.put(point);
    map.current?.show(point, kind === 'country' ? COUNTRY_ZOOM : undefined);
  };

  return (
    <div className="flex h-full">
      <aside className="flex w-72 shrink-0 flex-col gap-4 overflow-y-auto border-r border-line bg-card p-4">
        <h1 className="font-title text-[22px] font-semibold">Places</h1>
        <PlaceFinder label="Find a place" onPick={picked} />
        <WorkLists
          query={query}
          onShow={(next) => {
            setDoubting(null);
            look(next);
          }}
          doubts={doubts.data}
          doubting={doubting}
          onDoubt={setDoubting}
        />
        <Failed query={own} />
        <OwnPlaces
          places={places}
          shownId={shown?.id ?? null}
          onShow={showPlace}
          onTask={setTask}
          onDraw={drawing.outlineOf}
        />
        <Overlays overlays={overlays} onMatch={() => setAsking('match')} />
        <ClocksPanel selection={selection ?? whole(query)} />
      </aside>
      <div className="flex min-w-0 flex-1 flex-col">
        <MapQuery query={query} onShow={look} />
        <div className="flex min-h-0 flex-1">
          <MapArea
            {...{ map, query, view, total, places, pin, mayPlace, drawing }}
            onView={setView}
            photos={photos.data}
            outlined={shown}
            hovered={pointed}
            onHover={setHoveredId}
            {...overlays.drawn}
            onPick={(point) => {
              if (pinning) setPinning(withPoint(pinning, point));
              else if (mayPlace) pin.pick(point);
            }}
            onNarrow={(box) => look(queryText(withinBox(parseQuery(query).query, box)))}
            onDropped={(id, point) => {
              pin.put(point);
              // A photo that is not chosen is dragged alone.
              if (meant.kind === 'some' && !meant.ids.has(id)) setMeant({ kind: 'some', ids: new Set([id]) });
            }}
          />
          {doubting && doubts.data && (
            <DoubtsPanel
              kind={doubting}
              doubts={doubts.data}
              query={query}
              onShow={look}
              onTask={setTask}
              onClose={() => setDoubting(null)}
            />
          )}
          {pinning && <PinPanel key={pinning.map.id} pinning={pinning} onPinning={setPinning} />}
          {pin.point && mayPlace && !pinning && (
            <Placing
              key={`${pin.point.latitude} ${pin.point.longitude}`}
              {...{ pin, selection }}
              point={pin.point}
              photos={meant.kind === 'all' ? total : meant.ids.size}
              onPlaced={() => {
                pin.drop();
                setMeant(NOBODY);
              }}
            />
          )}
        </div>
        <Failed query={photos} className="m-2" />
        <div className="flex h-40 shrink-0 border-t border-line">
          <Strip
            key={query}
            {...{ query, meant, hoveredId }}
            onMeant={setMeant}
            onHover={setPointedId}
            fill={mayPlace ? FILLING[isUnplaced(query) ? 'positions' : 'names'](setAsking) : undefined}
          />
        </div>
      </div>
      {asking && (
        <Asked
          {...{ asking }}
          selection={selection ?? whole(query)}
          trackIds={[...overlays.tracks]}
          onClose={() => setAsking(null)}
        />
      )}
      {task && <OwnPlaceDialog task={task} places={places} pin={pin.point} onClose={() => setTask(null)} />}
    </div>
  );
}

type Asking = 'match' | 'names' | 'positions';

/** What the strip offers to fill in. */
const FILLING = {
  positions: (ask: (asking: Asking) => void) => ({ label: 'Positions from names …', onFill: () => ask('positions') }),
  names: (ask: (asking: Asking) => void) => ({ label: 'Names from positions …', onFill: () => ask('names') }),
};

interface AskedProps {
  asking: Asking;
  selection: Selection;
  trackIds: number[];
  onClose: () => void;
}

function Asked({ asking, selection, trackIds, onClose }: AskedProps) {
  const dialogs: Record<Asking, () => ReactNode> = {
    match: () => <MatchDialog {...{ selection, trackIds, onClose }} />,
    names: () => <NamesDialog {...{ selection, onClose }} />,
    positions: () => <PositionsDialog {...{ selection, onClose }} />,
  };
  return dialogs[asking]();
}

/** Whether all photos of a result lack a position. */
function isUnplaced(query: string): boolean {
  return conjuncts(parseQuery(query).query).some(
    (part) => part.kind === 'criterion' && part.criterion === 'missing' && part.value === 'position',
  );
}

const whole = (query: string): Selection => ({ query, minus: [], plus: [] });

function selectionOf(meant: Meant, query: string): Selection | null {
  if (meant.kind === 'all') return whole(query);
  return meant.ids.size === 0 ? null : { query: null, minus: [], plus: [...meant.ids] };
}

/** Shows all photos of a result that have a position, once it is there. */
function useFitting(map: React.RefObject<MapHandle | null>, query: string): void {
  const world = useMapPhotos(query, WORLD);
  const fitted = useRef<string | null>(null);
  useEffect(() => {
    if (!world.data || world.isPlaceholderData || fitted.current === query) return;
    fitted.current = query;
    const { extent } = world.data;
    if (!extent) return;
    const { south, west, north, east } = extent;
    map.current?.fit([
      { latitude: south, longitude: west },
      // Across the date line the map goes on to the east.
      { latitude: north, longitude: east < west ? east + 360 : east },
    ]);
  }, [world.data, world.isPlaceholderData, query, map]);
}
