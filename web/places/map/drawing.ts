// Drawing a line around something with the pointer.

import Draw from 'ol/interaction/Draw';
import type OlMap from 'ol/Map';
import Polygon from 'ol/geom/Polygon';
import { Fill, Stroke, Style } from 'ol/style';
import type { Point } from '@stellin/core/timeplace/areas';
import { colour } from './colours';
import { pointAt } from './projection';

/** A line has at most about so many corners; those that change its course least are left out. */
const MAX_CORNERS = 60;

/** Lets somebody draw a line around something once; `done` gets its corners, or none when it encloses nothing. Returns what ends it. */
export function drawAround(map: OlMap, done: (corners: Point[]) => void): () => void {
  const draw = new Draw({
    type: 'Polygon',
    freehand: true,
    style: new Style({
      stroke: new Stroke({ color: colour('slate'), width: 2 }),
      fill: new Fill({ color: `${colour('slate')}22` }),
    }),
  });
  draw.on('drawend', ({ feature }) => {
    const drawn = feature.getGeometry();
    done(drawn instanceof Polygon ? cornersOf(drawn, map.getView().getResolution() ?? 1) : []);
  });
  map.addInteraction(draw);
  return () => void map.removeInteraction(draw);
}

function cornersOf(drawn: Polygon, resolution: number): Point[] {
  for (let pixels = 2; ; pixels *= 2) {
    const simple = drawn.simplify(resolution * pixels);
    // The first corner stands at the end once more.
    const ring = (simple instanceof Polygon ? (simple.getCoordinates()[0] ?? []) : []).slice(0, -1);
    if (ring.length <= MAX_CORNERS) return ring.length < 3 ? [] : ring.map(pointAt);
  }
}
