// Places: the photos of a result on the map, what is to be done about places, and the archive's own ones.

import { useDeferredValue, useEffect, useRef, useState } from 'react';
import { conjuncts } from '@stellin/core/query/query';
import { parseQuery, queryText } from '@stellin/core/search/language';
import type { MapView } from '@stellin/core/search/index/mapCells';
import { withinBox } from '@stellin/core/timeplace/areaQuery';
import { Failed } from '../parts/Queried';
import { Asked, type Asking } from './Asked';
import type { MapHandle } from './map/WorldMap';
import { MapArea } from './MapArea';
import { MapQuery } from './MapQuery';
import { OwnPlaceDialog } from './OwnPlaceDialog';
import { withPoint } from './PinPanel';
import { PlacesPanel } from './PlacesPanel';
import { PlacesSide } from './PlacesSide';
import { useMapPhotos, useWhere, WORLD } from './queries';
import { Strip } from '../photos/Strip';
import { usePlacesWork } from './usePlacesWork';

export function PlacesScreen() {
  const work = usePlacesWork();
  const { query, look, map, pin, meant, task, asking, setAsking, drawing, overlays, mayPlace, places, total } = work;
  const [view, setView] = useState<MapView | null>(null);
  /** The photo that the pointer is over on the map, and the one in the strip. */
  const [hoveredId, setHoveredId] = useState<number | null>(null);
  const [pointedId, setPointedId] = useState<number | null>(null);
  const pointed = useWhere(useDeferredValue(pointedId));
  const { pinning, setPinning } = overlays;
  const photos = useMapPhotos(query, view);
  useFitting(map, query);
  return (
    <div className="flex h-full">
      <PlacesSide work={work} />
      <div className="flex min-w-0 flex-1 flex-col">
        <MapQuery query={query} onShow={look} />
        <div className="flex min-h-0 flex-1">
          <MapArea
            {...{ map, query, view, total, places, pin, mayPlace, drawing }}
            onView={setView}
            photos={photos.data}
            outlined={work.shown}
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
              work.dragged(id);
            }}
          />
          <PlacesPanel work={work} />
        </div>
        <Failed query={photos} className="m-2" />
        <div className="flex h-40 shrink-0 border-t border-line">
          <Strip
            key={query}
            {...{ query, meant, hoveredId }}
            onMeant={work.setMeant}
            onHover={setPointedId}
            fill={mayPlace ? FILLING[isUnplaced(query) ? 'positions' : 'names'](setAsking) : undefined}
          />
        </div>
      </div>
      {asking && (
        <Asked
          asking={asking}
          selection={work.selection}
          trackIds={[...overlays.tracks]}
          onClose={() => setAsking(null)}
        />
      )}
      {task && <OwnPlaceDialog task={task} places={places} pin={pin.point} onClose={() => work.setTask(null)} />}
    </div>
  );
}

/** What the strip offers to fill in. */
const FILLING = {
  positions: (ask: (asking: Asking) => void) => ({ label: 'Positions from names …', onFill: () => ask('positions') }),
  names: (ask: (asking: Asking) => void) => ({ label: 'Names from positions …', onFill: () => ask('names') }),
};

/** Whether all photos of a result lack a position. */
function isUnplaced(query: string): boolean {
  return conjuncts(parseQuery(query).query).some(
    (part) => part.kind === 'criterion' && part.criterion === 'missing' && part.value === 'position',
  );
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
