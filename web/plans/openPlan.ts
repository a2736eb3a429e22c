// Opening the picture of a plan in an element: its tiles, moved and zoomed like a map.

import TileLayer from 'ol/layer/Tile';
import OlMap from 'ol/Map';
import Projection from 'ol/proj/Projection';
import TileImage from 'ol/source/TileImage';
import TileGrid from 'ol/tilegrid/TileGrid';
import View from 'ol/View';
import { defaults as usualInteractions } from 'ol/interaction/defaults';
import { isOnPlan, type PlanSize, type Spot } from '@stellin/core/plans/pins';
import { TILE_PIXELS } from '@stellin/contract/plans';
import { tileUrl } from './queries';

export interface OpenPlan {
  map: OlMap;
  close: () => void;
}

interface Listener {
  /** Where the picture stands now, in pixels of the element. */
  moved: (place: { left: number; top: number; width: number; height: number }) => void;
  clicked: (spot: Spot) => void;
}

/** How much larger than its pixels a plan can be looked at. */
const CLOSEST = 4;
/** How much smaller than the whole picture. */
const FARTHEST = 1.5;

/** Spots of a plan as coordinates: pixels from the lower left corner of the picture, and back. */
export const coordinateOf = ({ x, y }: Spot, { width, height }: PlanSize): [number, number] => [
  x * width,
  (1 - y) * height,
];
export const spotOf = ([right = 0, up = 0]: readonly number[], { width, height }: PlanSize): Spot => ({
  x: right / width,
  y: 1 - up / height,
});

export function openPlan(
  target: HTMLElement,
  plan: PlanSize & { id: number; pictureId: number },
  { moved, clicked }: Listener,
): OpenPlan {
  const { width, height } = plan;
  const extent = [0, 0, width, height];
  const levels = Math.max(0, Math.ceil(Math.log2(Math.max(width, height) / TILE_PIXELS)));
  const projection = new Projection({ code: 'plan', units: 'pixels', extent });
  const view = new View({
    projection,
    center: [width / 2, height / 2],
    extent,
    constrainOnlyCenter: true,
    showFullExtent: true,
    enableRotation: false,
    minResolution: 1 / CLOSEST,
    maxResolution: FARTHEST * Math.max(width / 300, height / 300),
    resolution: 1,
  });
  const map = new OlMap({
    target,
    controls: [],
    interactions: usualInteractions({ altShiftDragRotate: false, pinchRotate: false }),
    view,
    layers: [
      new TileLayer({
        extent,
        source: new TileImage({
          projection,
          tileGrid: new TileGrid({
            extent,
            origin: [0, height],
            tileSize: TILE_PIXELS,
            resolutions: Array.from({ length: levels + 1 }, (_, z) => 2 ** (levels - z)),
          }),
          tileUrlFunction: ([z = 0, x = 0, y = 0]) => tileUrl(plan, z, x, y),
        }),
      }),
    ],
  });
  const tell = () => {
    const corner = map.getPixelFromCoordinate([0, height]);
    const resolution = view.getResolution();
    // Before the first frame there is no place yet.
    if (!corner || !resolution) return;
    const [left = 0, top = 0] = corner;
    moved({ left, top, width: width / resolution, height: height / resolution });
  };
  map.on('postrender', tell);
  map.on('singleclick', ({ coordinate, originalEvent }) => {
    // What stands on the plan takes its clicks itself.
    if (originalEvent.target instanceof Element && originalEvent.target.closest('[data-pin]')) return;
    const spot = spotOf(coordinate, plan);
    if (isOnPlan(spot)) clicked(spot);
  });
  view.fit(extent, { size: map.getSize() ?? [800, 600], padding: [12, 12, 12, 12] });
  return { map, close: () => map.setTarget(undefined) };
}
