// Street maps: pictures as they are, or shapes that are drawn quietly in the colours of the theme, whatever their makers call the layers.

import MVT from 'ol/format/MVT';
import type BaseLayer from 'ol/layer/Base';
import TileLayer from 'ol/layer/Tile';
import VectorTileLayer from 'ol/layer/VectorTile';
import VectorTileSource from 'ol/source/VectorTile';
import XYZ from 'ol/source/XYZ';
import { Fill, Stroke, Style, Text } from 'ol/style';
import type { FeatureLike } from 'ol/Feature';
import type { ShownStreetMap } from '@stellin/contract/streetMaps';
import { colour } from './colours';
import { LAYERS } from './layers';
import { extentOnMap } from './projection';
import { streetKind, type StreetKind } from './streetKinds';

export interface Streets extends ShownStreetMap {
  name: string;
  version: string;
}

/** The layer of a street map; it is drawn closer than it has tiles, too. */
export function streetLayer({ name, version, kind, minZoom, maxZoom, box }: Streets): BaseLayer {
  const url = `/api/street-maps/${encodeURIComponent(name)}/{z}/{x}/{y}?v=${version}`;
  const { south, west, north, east } = box;
  const layer = {
    zIndex: LAYERS.streets,
    extent: extentOnMap([west, Math.max(-85, south), east, Math.min(85, north)]),
    // One level farther away the tiles would be drawn at a quarter of their size.
    minZoom: Math.max(0, minZoom - 1),
  };
  if (kind === 'picture') return new TileLayer({ ...layer, source: new XYZ({ url, minZoom, maxZoom }) });
  return new VectorTileLayer({
    ...layer,
    source: new VectorTileSource({ url, format: new MVT(), minZoom, maxZoom }),
    style: streetStyle,
    declutter: true,
  });
}

const STYLES: Readonly<Record<StreetKind, (feature: FeatureLike) => Style>> = {
  water: () => filled('slate', 0.14),
  stream: () => lined('slate', 1.2),
  green: () => filled('spruce', 0.12),
  building: () => filled('ink-3', 0.35),
  road: (feature) => lined('ink-3', 1.4, named(feature, 'line')),
  path: () => lined('ink-3', 0.8, undefined, [4, 3]),
  border: () => lined('line', 1, undefined, [6, 4]),
  name: (feature) => new Style({ text: named(feature, 'point') }),
};

function streetStyle(feature: FeatureLike): Style | undefined {
  const kind = streetKind(String(feature.get('layer')), feature.getGeometry()?.getType() ?? '');
  return kind && STYLES[kind](feature);
}

type Colour = Parameters<typeof colour>[0];

function filled(name: Colour, strength = 1): Style {
  return new Style({ fill: new Fill({ color: withStrength(colour(name), strength) }) });
}

function lined(name: Colour, width: number, text?: Text, lineDash?: number[]): Style {
  const stroke = new Stroke({ color: colour(name), width, ...(lineDash && { lineDash }) });
  return new Style({ stroke, ...(text && { text }) });
}

function named(feature: FeatureLike, placement: 'point' | 'line'): Text {
  const name: unknown = feature.get('name');
  return new Text({
    text: typeof name === 'string' ? name : '',
    placement,
    font: '11px "Hanken Grotesk Variable"',
    fill: new Fill({ color: colour('ink-2') }),
    stroke: new Stroke({ color: colour('card'), width: 3 }),
  });
}

/** A colour as `#rrggbb` with so much of it, from 0 to 1; others as they are. */
function withStrength(hex: string, strength: number): string {
  if (!/^#[0-9a-f]{6}$/i.test(hex)) return hex;
  return `${hex}${Math.round(strength * 255)
    .toString(16)
    .padStart(2, '0')}`;
}
