// The map with what stands over it: how much is in sight, closer and farther, drawing, and where the data come from.

import { LassoSelect, Minus, Plus } from 'lucide-react';
import { useMemo, type ComponentProps, type RefObject } from 'react';
import { parseQuery } from '@stellin/core/search/language';
import type { MapView } from '@stellin/core/search/index/mapCells';
import type { GeoBox, Point } from '@stellin/core/timeplace/areas';
import { areasIn } from '@stellin/core/timeplace/areaQuery';
import type { OwnPlaceRow, ShownOnMap } from '@stellin/contract/places';
import { Button } from '../parts/Button';
import { useDragging, type DropPoint } from '../parts/dragging/dragging';
import { WorldMap, type MapHandle } from './map/WorldMap';
import { MapSummary } from './MapSummary';
import type { useDrawing } from './useDrawing';
import type { Pin } from './usePin';

interface Props extends Pick<ComponentProps<typeof WorldMap>, 'lines' | 'hovered' | 'onHover' | 'laid' | 'streets'> {
  map: RefObject<MapHandle | null>;
  query: string;
  view: MapView | null;
  onView: (view: MapView) => void;
  photos: ShownOnMap | undefined;
  total: number;
  places: readonly OwnPlaceRow[];
  outlined: OwnPlaceRow | null;
  pin: Pin;
  mayPlace: boolean;
  drawing: ReturnType<typeof useDrawing>;
  onNarrow: (box: GeoBox) => void;
  onPick: (point: Point) => void;
  /** A photo of the strip was dropped on the map. */
  onDropped: (photoId: number, point: Point) => void;
}

/** So much closer the map comes when a disc is clicked. */
const CLOSER = 2;

export function MapArea(props: Props) {
  const { map, query, view, onView, photos, total, places, outlined, pin, mayPlace, drawing, onNarrow } = props;
  const said = (props.streets ?? []).map(({ attribution }) => attribution).filter((each) => each !== '');
  const areas = useMemo(() => areasIn(parseQuery(query).query), [query]);
  const dropped = (id: number, at: DropPoint) => {
    const point = map.current?.pointAt(at);
    if (point) props.onDropped(id, point);
  };
  const { ref: dropRef, props: dropProps } = useDragging('map', {
    takes: mayPlace ? { photo: ({ id }, _zone, at) => dropped(id, at) } : {},
  });
  return (
    <div
      {...dropProps}
      ref={dropRef}
      aria-label="Map"
      className="relative min-w-0 flex-1"
      onKeyDown={(event) => event.key === 'Escape' && drawing.stop()}
    >
      <WorldMap
        ref={map}
        cells={photos?.cells ?? []}
        own={places}
        pin={pin.point}
        looks={pin.end === undefined ? pin.looks : null}
        end={pin.end ?? null}
        outline={outlined?.corners ?? null}
        lines={props.lines}
        laid={props.laid}
        {...(props.streets && { streets: props.streets })}
        onView={onView}
        onPick={props.onPick}
        onCell={(cell) => map.current?.show(cell, (view ? zoomOf(view) : 0) + CLOSER)}
        onBox={onNarrow}
        areas={areas}
        hovered={props.hovered}
        onHover={props.onHover}
        onDrawn={drawing.onDrawn}
      />
      <div className="absolute top-3 right-3 flex flex-col gap-1">
        <Button aria-label="Closer" onClick={() => map.current?.zoom(1)}>
          <Plus size={16} />
        </Button>
        <Button aria-label="Farther" onClick={() => map.current?.zoom(-1)}>
          <Minus size={16} />
        </Button>
        <Button
          aria-label="Draw a line around photos"
          title="Draw a line around photos"
          aria-pressed={drawing.drawing?.what === 'photos'}
          onClick={() => (drawing.drawing ? drawing.stop() : drawing.around())}
        >
          <LassoSelect size={16} />
        </Button>
      </div>
      <p className="absolute right-2 bottom-1 max-w-[calc(100%-130px)] rounded bg-card/80 px-1 text-right text-[11px] text-ink-2">
        {['Natural Earth', 'GeoNames, CC BY 4.0', ...new Set(said)].join(' · ')}
      </p>
      {drawing.drawing ? (
        <p role="status" className="absolute top-3 left-3 rounded bg-slate px-2 py-0.5 text-[12px] text-card">
          {drawing.drawing.what === 'photos'
            ? 'Draw a line around the photos; Esc leaves it.'
            : `Draw the outline of ${drawing.drawing.place.name}; Esc leaves it.`}
        </p>
      ) : (
        <MapSummary photos={photos?.photos} total={total} view={view} onNarrow={onNarrow} query={query} />
      )}
    </div>
  );
}

/** The zoom at which a view has cells of the size that is asked for: each is a quarter of a tile wide. */
function zoomOf({ level }: MapView): number {
  return level - 2;
}
