// The parts of the map that a query asks for, as shapes.

import Feature from 'ol/Feature';
import Polygon, { circular } from 'ol/geom/Polygon';
import { Fill, Stroke, Style } from 'ol/style';
import type { Area, GeoBox, Point } from '@stellin/core/timeplace/areas';
import { colour } from './colours';
import { onMap } from './projection';

const CIRCLE_CORNERS = 96;

export function areaFeatures(areas: readonly Area[]): Feature[] {
  return areas.map((area) => new Feature({ geometry: new Polygon([cornersOf(area).map(onMap)]) }));
}

function cornersOf(area: Area): Point[] {
  if (area.kind === 'polygon') return [...area.corners, ...area.corners.slice(0, 1)];
  if (area.kind === 'box') return boxCorners(area);
  const { latitude, longitude } = area.centre;
  const [ring = []] = circular([longitude, latitude], area.metres, CIRCLE_CORNERS).getCoordinates();
  return ring.map(([east = 0, north = 0]) => ({ latitude: north, longitude: east }));
}

function boxCorners({ south, west, north, east }: GeoBox): Point[] {
  // Across the date line it goes on to the east.
  const right = east < west ? east + 360 : east;
  return [
    { latitude: south, longitude: west },
    { latitude: north, longitude: west },
    { latitude: north, longitude: right },
    { latitude: south, longitude: right },
    { latitude: south, longitude: west },
  ];
}

export function areaStyle(): Style {
  return new Style({
    stroke: new Stroke({ color: colour('spruce'), width: 2, lineDash: [2, 4] }),
    fill: new Fill({ color: `${colour('spruce')}14` }),
  });
}
