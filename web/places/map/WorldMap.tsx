// The map: outlines that ship along, and the photos of a result on it. Moved by pointer or keys once it has the focus.

import 'ol/ol.css';
import type Feature from 'ol/Feature';
import type BaseLayer from 'ol/layer/Base';
import type View from 'ol/View';
import { useEffect, useEffectEvent, useImperativeHandle, useMemo, useRef, type Ref, type RefObject } from 'react';
import type { MapCell, OwnPlaceRow } from '@stellin/contract/places';
import type { MapView } from '@stellin/core/search/index/mapCells';
import type { Area, GeoBox, Point } from '@stellin/core/timeplace/areas';
import { areaFeatures } from './areaShapes';
import { drawAround } from './drawing';
import { photoFeatures, pickedFeatures, trackFeatures, type Picked } from './features';
import { oldMapLayer, type LaidMap } from './oldMapLayer';
import { openMap, type OpenMap } from './openMap';
import { ownFeatures } from './ownLayer';
import { onMap, pointAt } from './projection';
import { streetLayer, type Streets } from './streetLayers';

export interface MapHandle {
  /** Shows a point, close enough to see what is around it. */
  show: (point: Point, zoom?: number) => void;
  /** Shows all of some points. */
  fit: (points: readonly Point[]) => void;
  zoom: (by: number) => void;
  /** The point of the world at a place of the window; undefined beside the map. */
  pointAt: (client: { x: number; y: number }) => Point | undefined;
}

interface Props extends Picked {
  ref: Ref<MapHandle>;
  cells: readonly MapCell[];
  /** The archive's own places, with their outlines and names. */
  own: readonly OwnPlaceRow[];
  /** What the query asks for. */
  areas: readonly Area[];
  /** A line is drawn around something; its corners, none where it encloses nothing. */
  onDrawn: ((corners: Point[]) => void) | null;
  /** The mark of a single photo that the pointer is over; null: none. */
  onHover: (photoId: number | null) => void;
  /** What is to be seen to begin with; the world when nothing is. */
  shown?: readonly Point[];
  /** Old maps that are laid over the map. */
  laid: readonly LaidMap[];
  /** Street maps. */
  streets?: readonly Streets[];
  /** Tracks. */
  lines: readonly (readonly Point[])[];
  onView: (view: MapView) => void;
  onPick: (point: Point) => void;
  onCell: (cell: MapCell) => void;
  onBox: (box: GeoBox) => void;
}

const NOWHERE: readonly Point[] = [];
const NO_STREETS: readonly Streets[] = [];
const CLOSE_ZOOM = 12;
/** Around what is shown as a whole. */
const MARGIN_PIXELS = 60;
const MOVE_MS = 250;

export function WorldMap(props: Props) {
  const { ref, shown: begins = NOWHERE } = props;
  const element = useRef<HTMLDivElement>(null);
  const opened = useRef<OpenMap | null>(null);
  const first = useRef(begins);
  const moved = useEffectEvent((view: MapView) => props.onView(view));
  const clicked = useEffectEvent((point: Point, cell: MapCell | undefined) =>
    cell ? props.onCell(cell) : props.onPick(point),
  );
  const pointed = useEffectEvent((cell: MapCell | undefined) =>
    props.onHover(cell?.photos === 1 ? cell.photoId : null),
  );
  const boxed = useEffectEvent((box: GeoBox) => props.onBox(box));
  const drawn = useEffectEvent((corners: Point[]) => props.onDrawn?.(corners));
  const isDrawing = props.onDrawn !== null;

  useEffect(() => {
    if (!element.current) return undefined;
    const open = openMap(element.current, {
      moved: (view) => moved(view),
      clicked: (point, cell) => clicked(point, cell),
      pointed: (cell) => pointed(cell),
      boxed: (box) => boxed(box),
    });
    fitTo(open.map.getView(), first.current, 0);
    opened.current = open;
    return () => {
      open.close();
      opened.current = null;
    };
  }, []);

  useDrawn(opened, props);

  useEffect(() => {
    const map = opened.current?.map;
    return isDrawing && map ? drawAround(map, (corners) => drawn(corners)) : undefined;
  }, [isDrawing]);

  useImperativeHandle(ref, () => handleOf(opened, element));

  return (
    <div
      ref={element}
      tabIndex={0}
      role="application"
      aria-label="Map. Arrows move it, + and − zoom."
      className="world-map size-full"
    />
  );
}

/** Keeps all that is drawn on the map and laid over it. */
function useDrawn(opened: RefObject<OpenMap | null>, props: Props): void {
  const { cells, own, pin, looks, end, outline, hovered, lines, areas, laid, streets = NO_STREETS } = props;
  useFeatures(
    opened,
    'photos',
    useMemo(() => photoFeatures(cells), [cells]),
  );
  useFeatures(
    opened,
    'own',
    useMemo(() => ownFeatures(own), [own]),
  );
  useFeatures(
    opened,
    'tracks',
    useMemo(() => trackFeatures(lines), [lines]),
  );
  useFeatures(
    opened,
    'areas',
    useMemo(() => areaFeatures(areas), [areas]),
  );
  useFeatures(
    opened,
    'picked',
    useMemo(() => pickedFeatures({ pin, looks, end, outline, hovered }), [pin, looks, end, outline, hovered]),
  );

  useLayers(
    opened,
    useMemo(() => laid.flatMap((each) => oldMapLayer(each) ?? []), [laid]),
  );
  useLayers(
    opened,
    useMemo(() => streets.map(streetLayer), [streets]),
  );
}

/** Keeps what a layer shows. */
function useFeatures(
  opened: RefObject<OpenMap | null>,
  layer: keyof OpenMap['sources'],
  features: readonly Feature[],
): void {
  useEffect(() => {
    const source = opened.current?.sources[layer];
    source?.clear(true);
    source?.addFeatures([...features]);
  }, [opened, layer, features]);
}

/** Lays layers over the map. */
function useLayers(opened: RefObject<OpenMap | null>, layers: readonly BaseLayer[]): void {
  useEffect(() => {
    const map = opened.current?.map;
    for (const layer of layers) map?.addLayer(layer);
    return () => layers.forEach((layer) => map?.removeLayer(layer));
  }, [opened, layers]);
}

function handleOf(opened: RefObject<OpenMap | null>, element: RefObject<HTMLElement | null>): MapHandle {
  const view = () => opened.current?.map.getView();
  return {
    show: (point, zoom = CLOSE_ZOOM) =>
      view()?.animate({ center: onMap(point), zoom: Math.max(zoom, view()?.getZoom() ?? 0), duration: moveTime() }),
    fit: (points) => {
      const whole = view();
      if (whole) fitTo(whole, points, moveTime());
    },
    zoom: (by) => view()?.animate({ zoom: (view()?.getZoom() ?? 0) + by, duration: moveTime() }),
    pointAt: ({ x, y }) => {
      const map = opened.current?.map;
      const box = element.current?.getBoundingClientRect();
      if (!map || !box || x < box.left || x > box.right || y < box.top || y > box.bottom) return undefined;
      return pointAt(map.getCoordinateFromPixel([x - box.left, y - box.top]));
    },
  };
}

/** Shows all of some points; without any nothing changes. */
function fitTo(view: View, points: readonly Point[], duration: number): void {
  if (points.length === 0) return;
  const places = points.map(onMap);
  const [xs, ys] = [places.map(([x = 0]) => x), places.map(([, y = 0]) => y)];
  view.fit([Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)], {
    padding: Array.from({ length: 4 }, () => MARGIN_PIXELS),
    maxZoom: CLOSE_ZOOM,
    duration,
  });
}

/** Who wants less motion gets none. */
function moveTime(): number {
  return matchMedia('(prefers-reduced-motion: reduce)').matches ? 0 : MOVE_MS;
}
