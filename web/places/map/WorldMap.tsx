// The map: outlines that ship along, and the photos of a result on it. Moved by pointer or keys once it has the focus.

import 'ol/ol.css';
import ScaleLine from 'ol/control/ScaleLine';
import Feature from 'ol/Feature';
import Polyline from 'ol/geom/LineString';
import OlPoint from 'ol/geom/Point';
import { defaults as usualInteractions } from 'ol/interaction/defaults';
import DragBox from 'ol/interaction/DragBox';
import { shiftKeyOnly } from 'ol/events/condition';
import VectorLayer from 'ol/layer/Vector';
import OlMap from 'ol/Map';
import VectorSource from 'ol/source/Vector';
import { Circle, Fill, Stroke, Style } from 'ol/style';
import View from 'ol/View';
import { useEffect, useEffectEvent, useImperativeHandle, useRef, type Ref } from 'react';
import type { MapCell, OwnPlaceRow } from '@stellin/contract/places';
import type { MapView } from '@stellin/core/search/index/mapCells';
import type { GeoBox, Point } from '@stellin/core/timeplace/areas';
import { colour } from './colours';
import { markOf } from './marks';
import { ownFeatures, ownLayer } from './ownLayer';
import { outlineLayers, townLayer } from './outlineLayers';
import { inDegrees, onMap, pointAt } from './projection';
import { boxOf, viewOf } from './view';

export interface MapHandle {
  /** Shows a point, close enough to see what is around it. */
  show: (point: Point, zoom?: number) => void;
  /** Shows all of some points. */
  fit: (points: readonly Point[]) => void;
  zoom: (by: number) => void;
  /** The point of the world at a place of the window; undefined beside the map. */
  pointAt: (client: { x: number; y: number }) => Point | undefined;
}

interface Props {
  ref: Ref<MapHandle>;
  cells: readonly MapCell[];
  /** The archive's own places, with their outlines and names. */
  own: readonly OwnPlaceRow[];
  /** The point that is picked, if one is. */
  pin: Point | null;
  /** The outline of the own place that is shown. */
  outline: readonly Point[] | null;
  /** Tracks. */
  lines: readonly (readonly Point[])[];
  onView: (view: MapView) => void;
  onPick: (point: Point) => void;
  onCell: (cell: MapCell) => void;
  onBox: (box: GeoBox) => void;
}

/** The map and what is drawn on it, besides the world. */
interface Shown {
  map: OlMap;
  photos: VectorSource;
  own: VectorSource;
  tracks: VectorSource;
  pin: VectorSource;
}

const CLOSE_ZOOM = 12;
const MAX_ZOOM = 19;
const MOVE_MS = 250;

export function WorldMap({ ref, cells, own, pin, outline, lines, onView, onPick, onCell, onBox }: Props) {
  const element = useRef<HTMLDivElement>(null);
  const shown = useRef<Shown | null>(null);
  const tellView = useEffectEvent((view: MapView) => onView(view));
  const clicked = useEffectEvent((point: Point, cell: MapCell | undefined) => (cell ? onCell(cell) : onPick(point)));
  const boxed = useEffectEvent((box: GeoBox) => onBox(box));

  useEffect(() => {
    if (!element.current) return undefined;
    const photos = new VectorSource();
    const pins = new VectorSource();
    const places = new VectorSource();
    const tracks = new VectorSource();
    const dragBox = new DragBox({ condition: shiftKeyOnly, className: 'map-box' });
    const map = new OlMap({
      target: element.current,
      controls: [new ScaleLine()],
      interactions: usualInteractions({ shiftDragZoom: false, altShiftDragRotate: false, pinchRotate: false }).extend([
        dragBox,
      ]),
      view: new View({
        center: onMap({ latitude: 50, longitude: 5 }),
        zoom: 3,
        minZoom: 1,
        maxZoom: MAX_ZOOM,
        enableRotation: false,
      }),
      layers: [
        ...outlineLayers(),
        ownLayer(places),
        new VectorLayer({ source: tracks, zIndex: 2, style: trackStyle }),
        new VectorLayer({
          source: photos,
          zIndex: 3,
          style: (feature) => markOf(feature.get('cell') as MapCell, map.getView().getZoom() ?? 0),
        }),
        new VectorLayer({ source: pins, zIndex: 4, style: pinStyle }),
      ],
    });
    map.addLayer(townLayer(map));
    map.on('moveend', () => {
      const extent = inDegrees(map.getView().calculateExtent(map.getSize()));
      tellView(viewOf(extent, map.getView().getZoom() ?? 0));
    });
    map.on('singleclick', (event) => {
      const found = map.forEachFeatureAtPixel(event.pixel, (feature) => feature.get('cell') as MapCell | undefined);
      clicked(pointAt(event.coordinate), found);
    });
    map.on('pointermove', (event) => {
      const isOver = map.hasFeatureAtPixel(event.pixel, { layerFilter: (layer) => layer.getZIndex() === 3 });
      const target = map.getTargetElement();
      if (target) target.style.cursor = isOver ? 'pointer' : '';
    });
    dragBox.on('boxend', () => boxed(boxOf(inDegrees(dragBox.getGeometry().getExtent()))));
    // Another theme has other colours.
    const themes = new MutationObserver(() => map.getAllLayers().forEach((layer) => layer.changed()));
    themes.observe(document.documentElement, { attributes: true, attributeFilter: ['data-theme'] });
    shown.current = { map, photos, own: places, tracks, pin: pins };
    return () => {
      themes.disconnect();
      map.setTarget(undefined);
      shown.current = null;
    };
  }, []);

  useEffect(() => {
    const photos = shown.current?.photos;
    photos?.clear(true);
    photos?.addFeatures(cells.map((cell) => new Feature({ cell, geometry: new OlPoint(onMap(cell)) })));
  }, [cells]);

  useEffect(() => {
    const places = shown.current?.own;
    places?.clear(true);
    places?.addFeatures(ownFeatures(own));
  }, [own]);

  useEffect(() => {
    const pins = shown.current?.pin;
    pins?.clear(true);
    if (outline && outline.length > 1)
      pins?.addFeature(new Feature({ geometry: new Polyline([...outline, ...outline.slice(0, 1)].map(onMap)) }));
    if (pin) pins?.addFeature(new Feature({ geometry: new OlPoint(onMap(pin)) }));
  }, [pin, outline]);

  useEffect(() => {
    const tracks = shown.current?.tracks;
    tracks?.clear(true);
    tracks?.addFeatures(lines.map((line) => new Feature({ geometry: new Polyline(line.map(onMap)) })));
  }, [lines]);

  useImperativeHandle(ref, () => ({
    show: (point, zoom = CLOSE_ZOOM) => {
      const view = shown.current?.map.getView();
      view?.animate({ center: onMap(point), zoom: Math.max(zoom, view.getZoom() ?? 0), duration: moveTime() });
    },
    fit: (points) => {
      const view = shown.current?.map.getView();
      const [first] = points;
      if (!view || !first) return;
      const places = points.map(onMap);
      const [xs, ys] = [places.map(([x = 0]) => x), places.map(([, y = 0]) => y)];
      view.fit([Math.min(...xs), Math.min(...ys), Math.max(...xs), Math.max(...ys)], {
        padding: [60, 60, 60, 60],
        maxZoom: CLOSE_ZOOM,
        duration: moveTime(),
      });
    },
    zoom: (by) => {
      const view = shown.current?.map.getView();
      view?.animate({ zoom: (view.getZoom() ?? 0) + by, duration: moveTime() });
    },
    pointAt: ({ x, y }) => {
      const map = shown.current?.map;
      const box = element.current?.getBoundingClientRect();
      if (!map || !box || x < box.left || x > box.right || y < box.top || y > box.bottom) return undefined;
      return pointAt(map.getCoordinateFromPixel([x - box.left, y - box.top]));
    },
  }));

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

/** Who wants less motion gets none. */
function moveTime(): number {
  return matchMedia('(prefers-reduced-motion: reduce)').matches ? 0 : MOVE_MS;
}

function trackStyle(): Style {
  return new Style({ stroke: new Stroke({ color: colour('slate'), width: 3 }) });
}

function pinStyle(feature: { getGeometry(): unknown }): Style {
  return feature.getGeometry() instanceof OlPoint
    ? new Style({
        image: new Circle({
          radius: 7,
          fill: new Fill({ color: colour('slate') }),
          stroke: new Stroke({ color: colour('card'), width: 3 }),
        }),
      })
    : new Style({ stroke: new Stroke({ color: colour('slate'), width: 2, lineDash: [6, 4] }) });
}
