// Places: the photos of a result on the map, what is to be done about places, and the archive's own ones.

import { Minus, Plus } from 'lucide-react';
import { useCallback, useEffect, useRef, useState } from 'react';
import { conjuncts } from '@stellin/core/query/query';
import { parseQuery, queryText } from '@stellin/core/search/language';
import type { MapView } from '@stellin/core/search/index/mapCells';
import type { GeoBox, Point } from '@stellin/core/timeplace/areas';
import { withinBox } from '@stellin/core/timeplace/areaQuery';
import type { OwnPlaceRow } from '@stellin/contract/places';
import type { Selection } from '@stellin/contract/photos';
import { useMayChange } from '../foundation/session';
import { Button } from '../parts/Button';
import { useDragging, type DropPoint } from '../parts/dragging/dragging';
import { Failed } from '../parts/Queried';
import { useCount } from '../photos/queries';
import { useResult } from '../photos/result';
import { WorldMap, type MapHandle } from './map/WorldMap';
import { OwnPlaceDialog, type OwnPlaceTask } from './OwnPlaceDialog';
import { OwnPlaces } from './OwnPlaces';
import { PlaceFinder } from './PlaceFinder';
import { Placing } from './Placing';
import { Strip, type Meant } from './Strip';
import { MapQuery } from './MapQuery';
import { MapSummary } from './MapSummary';
import { MatchDialog } from './MatchDialog';
import { NamesDialog } from './NamesDialog';
import { PositionsDialog } from './PositionsDialog';
import { TracksPanel } from './TracksPanel';
import { useMapPhotos, useOwnPlaces, useTrackLines, WORLD } from './queries';
import { WorkLists } from './WorkLists';

const NOBODY: Meant = { kind: 'some', ids: new Set() };
const CLOSER = 2;
const NO_LINES: Point[][] = [];

export function PlacesScreen() {
  const { query, show } = useResult();
  const map = useRef<MapHandle>(null);
  const [view, setView] = useState<MapView | null>(null);
  const [pin, setPin] = useState<Point | null>(null);
  const [shown, setShown] = useState<OwnPlaceRow | null>(null);
  const [meant, setMeant] = useState<Meant>(NOBODY);
  const [task, setTask] = useState<OwnPlaceTask | null>(null);
  const [tracks, setTracks] = useState<ReadonlySet<number>>(new Set());
  /** The dialog that is open about many photos. */
  const [asking, setAsking] = useState<'match' | 'names' | 'positions' | null>(null);
  const lines = useTrackLines([...tracks]);
  const mayPlace = useMayChange('setFields');
  const own = useOwnPlaces();
  const photos = useMapPhotos(query, view);
  const total = useCount(query).data?.count ?? 0;
  useFitting(map, query);
  const places = own.data ?? [];

  const look = (next: string) => {
    setMeant(NOBODY);
    show({ query: next });
  };
  const narrow = (box: GeoBox) => look(queryText(withinBox(parseQuery(query).query, box)));
  const dropped = useCallback((id: number, { x, y }: DropPoint) => {
    const point = map.current?.pointAt({ x, y });
    if (!point) return;
    setPin(point);
    // A photo that is not chosen is dragged alone.
    setMeant((before) => (before.kind === 'all' || before.ids.has(id) ? before : { kind: 'some', ids: new Set([id]) }));
  }, []);
  const { ref: dropRef, props: dropProps } = useDragging('map', {
    takes: mayPlace ? { photo: ({ id }, _zone, at) => dropped(id, at) } : {},
  });
  const selection = selectionOf(meant, query);

  return (
    <div className="flex h-full">
      <aside className="flex w-72 shrink-0 flex-col gap-4 overflow-y-auto border-r border-line bg-card p-4">
        <h1 className="font-title text-[22px] font-semibold">Places</h1>
        <PlaceFinder
          label="Find a place"
          onPick={({ latitude, longitude, kind }) => {
            if (latitude === null || longitude === null) return;
            const point = { latitude, longitude };
            if (mayPlace && kind !== 'country') setPin(point);
            map.current?.show(point, kind === 'country' ? 5 : undefined);
          }}
        />
        <WorkLists query={query} onShow={look} />
        <Failed query={own} />
        <OwnPlaces
          places={places}
          shownId={shown?.id ?? null}
          onShow={(place) => {
            setShown(place);
            if (place.corners) map.current?.fit(place.corners);
            else if (place.point) map.current?.show(place.point, place.kind === 'spot' ? 15 : undefined);
          }}
          onTask={setTask}
        />
        <TracksPanel chosen={tracks} onChosen={setTracks} onMatch={() => setAsking('match')} />
      </aside>
      <div className="flex min-w-0 flex-1 flex-col">
        <MapQuery query={query} onShow={look} />
        <div className="flex min-h-0 flex-1">
          <div {...dropProps} ref={dropRef} aria-label="Map" className="relative min-w-0 flex-1">
            <WorldMap
              ref={map}
              cells={photos.data?.cells ?? []}
              own={places}
              pin={pin}
              outline={shown?.corners ?? null}
              lines={lines.data ?? NO_LINES}
              onView={setView}
              onPick={(point) => mayPlace && setPin(point)}
              onCell={(cell) => map.current?.show(cell, (view ? zoomOf(view) : 0) + CLOSER)}
              onBox={narrow}
            />
            <div className="absolute top-3 right-3 flex flex-col gap-1">
              <Button aria-label="Closer" onClick={() => map.current?.zoom(1)}>
                <Plus size={16} />
              </Button>
              <Button aria-label="Farther" onClick={() => map.current?.zoom(-1)}>
                <Minus size={16} />
              </Button>
            </div>
            <p className="absolute right-2 bottom-1 rounded bg-card/80 px-1 text-[11px] text-ink-2">
              Natural Earth · GeoNames, CC BY 4.0
            </p>
            <MapSummary photos={photos.data?.photos} total={total} view={view} onNarrow={narrow} query={query} />
          </div>
          {pin && mayPlace && (
            <Placing
              key={`${pin.latitude} ${pin.longitude}`}
              point={pin}
              selection={selection}
              photos={meant.kind === 'all' ? total : meant.ids.size}
              onPlaced={() => {
                setPin(null);
                setMeant(NOBODY);
              }}
              onDrop={() => setPin(null)}
            />
          )}
        </div>
        <Failed query={photos} className="m-2" />
        <div className="flex h-40 shrink-0 border-t border-line">
          <Strip
            key={query}
            query={query}
            meant={meant}
            onMeant={setMeant}
            fill={
              mayPlace
                ? isUnplaced(query)
                  ? { label: 'Positions from names …', onFill: () => setAsking('positions') }
                  : { label: 'Names from positions …', onFill: () => setAsking('names') }
                : undefined
            }
          />
        </div>
      </div>
      {asking === 'match' && (
        <MatchDialog selection={selection ?? whole(query)} trackIds={[...tracks]} onClose={() => setAsking(null)} />
      )}
      {asking === 'names' && <NamesDialog selection={selection ?? whole(query)} onClose={() => setAsking(null)} />}
      {asking === 'positions' && (
        <PositionsDialog selection={selection ?? whole(query)} onClose={() => setAsking(null)} />
      )}
      {task && <OwnPlaceDialog task={task} places={places} pin={pin} onClose={() => setTask(null)} />}
    </div>
  );
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

/** The zoom at which a view has cells of the size that is asked for. */
function zoomOf({ level }: MapView): number {
  return level - CLOSER;
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
