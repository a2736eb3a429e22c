// Opening a map in an element: its layers, how it is moved, and what it tells.

import ScaleLine from 'ol/control/ScaleLine';
import { shiftKeyOnly } from 'ol/events/condition';
import { defaults as usualInteractions } from 'ol/interaction/defaults';
import DragBox from 'ol/interaction/DragBox';
import VectorLayer from 'ol/layer/Vector';
import OlMap from 'ol/Map';
import VectorSource from 'ol/source/Vector';
import View from 'ol/View';
import type { MapCell } from '@stellin/contract/places';
import type { MapView } from '@stellin/core/search/index/mapCells';
import type { GeoBox, Point } from '@stellin/core/timeplace/areas';
import { areaStyle } from './areaShapes';
import { pickedStyle, trackStyle } from './features';
import { LAYERS } from './layers';
import { markOf } from './marks';
import { outlineLayers, townLayer } from './outlineLayers';
import { ownLayers } from './ownLayer';
import { inDegrees, onMap, pointAt } from './projection';
import { boxOf, viewOf } from './view';

/** What is told of a map. */
export interface MapListener {
  moved: (view: MapView) => void;
  /** With the mark that was hit, if one was. */
  clicked: (point: Point, cell: MapCell | undefined) => void;
  /** The mark that the pointer is over. */
  pointed: (cell: MapCell | undefined) => void;
  boxed: (box: GeoBox) => void;
}

export interface OpenMap {
  map: OlMap;
  /** What is drawn, layer by layer. */
  sources: Readonly<Record<'photos' | 'own' | 'tracks' | 'areas' | 'picked', VectorSource>>;
  close: () => void;
}

const MAX_ZOOM = 19;
const BEGINNING = { latitude: 50, longitude: 5 };

export function openMap(target: HTMLElement, listener: MapListener): OpenMap {
  const sources = {
    ...{ photos: new VectorSource(), own: new VectorSource(), tracks: new VectorSource() },
    ...{ areas: new VectorSource(), picked: new VectorSource() },
  };
  const dragBox = new DragBox({ condition: shiftKeyOnly, className: 'map-box' });
  const map: OlMap = new OlMap({
    target,
    controls: [new ScaleLine()],
    interactions: usualInteractions({ shiftDragZoom: false, altShiftDragRotate: false, pinchRotate: false }).extend([
      dragBox,
    ]),
    view: new View({ center: onMap(BEGINNING), zoom: 3, minZoom: 1, maxZoom: MAX_ZOOM, enableRotation: false }),
    layers: [
      ...outlineLayers(),
      ...ownLayers(sources.own),
      new VectorLayer({ source: sources.areas, zIndex: LAYERS.areas, style: areaStyle }),
      new VectorLayer({ source: sources.tracks, zIndex: LAYERS.tracks, style: trackStyle }),
      new VectorLayer({
        source: sources.photos,
        zIndex: LAYERS.photos,
        style: (feature) => markOf(feature.get('cell') as MapCell, map.getView().getZoom() ?? 0),
      }),
      new VectorLayer({ source: sources.picked, zIndex: LAYERS.picked, style: pickedStyle }),
    ],
  });
  map.addLayer(townLayer(map));
  listen(map, dragBox, listener);
  // Another theme has other colours.
  const themes = new MutationObserver(() => map.getAllLayers().forEach((layer) => layer.changed()));
  themes.observe(document.documentElement, { attributes: true, attributeFilter: ['data-theme'] });
  return {
    ...{ map, sources },
    close: () => {
      themes.disconnect();
      map.setTarget(undefined);
    },
  };
}

function listen(map: OlMap, dragBox: DragBox, { moved, clicked, pointed, boxed }: MapListener): void {
  const cellAt = (pixel: number[]) =>
    map.forEachFeatureAtPixel(pixel, (feature) => feature.get('cell') as MapCell | undefined, {
      layerFilter: (layer) => layer.getZIndex() === LAYERS.photos,
    });
  map.on('moveend', () => {
    const extent = inDegrees(map.getView().calculateExtent(map.getSize()));
    moved(viewOf(extent, map.getView().getZoom() ?? 0));
  });
  map.on('singleclick', ({ pixel, coordinate }) => clicked(pointAt(coordinate), cellAt(pixel)));
  map.on('pointermove', ({ pixel }) => {
    const cell = cellAt(pixel);
    const target = map.getTargetElement();
    if (target) target.style.cursor = cell ? 'pointer' : '';
    pointed(cell);
  });
  dragBox.on('boxend', () => boxed(boxOf(inDegrees(dragBox.getGeometry().getExtent()))));
}
