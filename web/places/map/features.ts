// What is drawn on the map besides the world and its places: photos, tracks, and what is picked.

import Feature from 'ol/Feature';
import Polyline from 'ol/geom/LineString';
import OlPoint from 'ol/geom/Point';
import { Circle, Fill, RegularShape, Stroke, Style } from 'ol/style';
import type { Point } from '@stellin/core/timeplace/areas';
import type { MapCell } from '@stellin/contract/places';
import { colour } from './colours';
import { onMap } from './projection';

export function photoFeatures(cells: readonly MapCell[]): Feature[] {
  return cells.map((cell) => new Feature({ cell, geometry: new OlPoint(onMap(cell)) }));
}

export function trackFeatures(lines: readonly (readonly Point[])[]): Feature[] {
  return lines.map((line) => new Feature({ geometry: new Polyline(line.map(onMap)) }));
}

export interface Picked {
  /** The point that is picked, if one is. */
  pin: Point | null;
  /** Where what is placed there looks, in degrees; null: it is not said. */
  looks: number | null;
  /** The other end of the line that photos are spread along. */
  end: Point | null;
  /** The outline of the own place that is shown. */
  outline: readonly Point[] | null;
  /** A photo that is pointed at elsewhere. */
  hovered: Point | null;
}

export function pickedFeatures({ pin, looks, end, outline, hovered }: Picked): Feature[] {
  const lines = [
    ...(outline && outline.length > 1 ? [[...outline, ...outline.slice(0, 1)]] : []),
    ...(pin && end ? [[pin, end]] : []),
  ];
  return [
    ...trackFeatures(lines),
    ...[pin, end].flatMap((point) =>
      point ? [new Feature({ geometry: new OlPoint(onMap(point)), looks: point === pin ? looks : null })] : [],
    ),
    ...(hovered ? [new Feature({ geometry: new OlPoint(onMap(hovered)), isHovered: true })] : []),
  ];
}

export function trackStyle(): Style {
  return new Style({ stroke: new Stroke({ color: colour('slate'), width: 3 }) });
}

export function pickedStyle(feature: { getGeometry(): unknown; get(key: string): unknown }): Style | Style[] {
  const looks = feature.get('looks');
  if (feature.get('isHovered') === true)
    return new Style({ image: new Circle({ radius: 18, stroke: new Stroke({ color: colour('slate'), width: 4 }) }) });
  return feature.getGeometry() instanceof OlPoint
    ? [
        ...(typeof looks === 'number' ? [viewStyle(looks)] : []),
        new Style({
          image: new Circle({
            radius: 7,
            fill: new Fill({ color: colour('slate') }),
            stroke: new Stroke({ color: colour('card'), width: 3 }),
          }),
        }),
      ]
    : new Style({ stroke: new Stroke({ color: colour('slate'), width: 2, lineDash: [6, 4] }) });
}

const VIEW_PIXELS = 22;

/** A wedge that points where a camera looks. */
function viewStyle(degrees: number): Style {
  const radians = (degrees * Math.PI) / 180;
  return new Style({
    image: new RegularShape({
      points: 3,
      radius: VIEW_PIXELS / 2,
      rotation: radians,
      // It is turned along with the shape.
      displacement: [0, VIEW_PIXELS],
      fill: new Fill({ color: colour('slate') }),
      stroke: new Stroke({ color: colour('card'), width: 2 }),
    }),
  });
}
