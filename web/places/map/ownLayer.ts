// The archive's own places on the map: land that no atlas has, and the names of towns and spots.

import Feature from 'ol/Feature';
import OlPoint from 'ol/geom/Point';
import Polygon from 'ol/geom/Polygon';
import VectorLayer from 'ol/layer/Vector';
import type VectorSource from 'ol/source/Vector';
import { Circle, Fill, Stroke, Style, Text } from 'ol/style';
import type { PlaceKind } from '@stellin/core/timeplace/ownPlaces';
import type { OwnPlaceRow } from '@stellin/contract/places';
import { colour } from './colours';
import { LAYERS } from './layers';
import { onMap } from './projection';

/** Below this many metres a pixel the names of a kind are written. */
const NAMED_BELOW: Readonly<Record<PlaceKind, number>> = { country: 20_000, region: 2000, town: 500, spot: 20 };

/** The land, below old maps; and above them what is told of it. */
export function ownLayers(source: VectorSource): VectorLayer[] {
  return [
    new VectorLayer({ source, zIndex: LAYERS.land, style: landStyle }),
    new VectorLayer({ source, declutter: true, zIndex: LAYERS.own, style: styleOf }),
  ];
}

function landStyle(feature: { get(name: string): unknown }): Style | undefined {
  const isLand = feature.get('kind') === 'country' && feature.get('name') === undefined;
  return isLand ? new Style({ fill: new Fill({ color: colour('card') }) }) : undefined;
}

/** An outline for each place that has one, and a name for each that has a middle. */
export function ownFeatures(places: readonly OwnPlaceRow[]): Feature[] {
  return places.flatMap(({ kind, name, point, corners }) => [
    ...(corners && kind !== 'spot'
      ? [
          new Feature({
            kind,
            geometry: new Polygon([corners.map(onMap)]),
          }),
        ]
      : []),
    ...(point ? [new Feature({ kind, name, geometry: new OlPoint(onMap(point)) })] : []),
  ]);
}

function styleOf(feature: { get(name: string): unknown }, resolution: number): Style | undefined {
  const kind = feature.get('kind') as PlaceKind;
  const name = feature.get('name') as string | undefined;
  if (name === undefined)
    return new Style({
      zIndex: kind === 'country' ? 0 : 1,
      stroke: new Stroke({ color: colour('ink-3'), width: 0.8, ...(kind === 'country' ? {} : { lineDash: [4, 3] }) }),
    });
  if (resolution > NAMED_BELOW[kind]) return undefined;
  const isWide = kind === 'country' || kind === 'region';
  return new Style({
    zIndex: 2,
    ...(isWide
      ? {}
      : { image: new Circle({ radius: kind === 'town' ? 3 : 2, fill: new Fill({ color: colour('slate') }) }) }),
    text: new Text({
      text: isWide ? name.toUpperCase() : name,
      font: `${kind === 'town' ? '600 ' : ''}${isWide ? 10 : 12}px "Hanken Grotesk Variable"`,
      offsetY: isWide ? 0 : -10,
      fill: new Fill({ color: colour(isWide ? 'ink-3' : 'ink') }),
      stroke: new Stroke({ color: colour('card'), width: 3 }),
    }),
  });
}
