// Coasts and borders, drawn from squares of the world that are read as they come into sight; and the names of towns.

import Feature from 'ol/Feature';
import LineString from 'ol/geom/LineString';
import Point from 'ol/geom/Point';
import Polygon from 'ol/geom/Polygon';
import VectorLayer from 'ol/layer/Vector';
import type Map from 'ol/Map';
import VectorSource from 'ol/source/Vector';
import { Circle, Fill, Stroke, Style, Text } from 'ol/style';
import type { Extent } from 'ol/extent';
import { OUTLINE_DETAILS, placeRoutes, type MapTown, type OutlineDetail } from '@stellin/contract/places';
import { call } from '../../foundation/api';
import { showError } from '../../foundation/changes';
import { colour } from './colours';
import { extentOnMap, inDegrees, onMap } from './projection';
import { boxOf } from './view';

/** From which zoom each detail is drawn. */
const ZOOMS: Readonly<Record<OutlineDetail, { minZoom: number; maxZoom: number }>> = {
  whole: { minZoom: -Infinity, maxZoom: 3.5 },
  middle: { minZoom: 3.5, maxZoom: 6.5 },
  fine: { minZoom: 6.5, maxZoom: Infinity },
};
/** So many towns are named at once. */
const NAMED_TOWNS = 40;

/** Land and what lies between countries, coarser or finer after the zoom. */
export function outlineLayers(): VectorLayer[] {
  return (Object.keys(OUTLINE_DETAILS) as OutlineDetail[]).map((detail) => {
    const source: VectorSource = new VectorSource({
      strategy: (extent) => squaresIn(extent, detail).map(({ column, row }) => extentOf(detail, column, row)),
      loader: (extent, _resolution, _projection, success, failure) => {
        void readSquare(detail, extent)
          .then((features) => {
            source.addFeatures(features);
            success?.(features);
          })
          .catch((error: unknown) => {
            source.removeLoadedExtent(extent);
            failure?.();
            showError(error);
          });
      },
    });
    return new VectorLayer({ source, style: outlineStyle, ...ZOOMS[detail], zIndex: 0 });
  });
}

function outlineStyle(feature: { get(name: string): unknown }): Style {
  switch (feature.get('what')) {
    case 'land':
      return new Style({ fill: new Fill({ color: colour('card') }) });
    case 'border':
      return new Style({ stroke: new Stroke({ color: colour('line'), width: 1, lineDash: [4, 3] }) });
    default:
      return new Style({ stroke: new Stroke({ color: colour('ink-3'), width: 0.8 }) });
  }
}

interface Square {
  column: number;
  row: number;
}

function squaresIn(extent: Extent, detail: OutlineDetail): Square[] {
  const side = OUTLINE_DETAILS[detail];
  if (side === 360) return [{ column: 0, row: 0 }];
  const [west = 0, south = 0, east = 0, north = 0] = inDegrees(extent);
  const columns = 360 / side;
  const squares = new globalThis.Map<string, Square>();
  for (let at = Math.floor((west + 180) / side); at * side - 180 < east; at++)
    for (let row = Math.max(0, Math.floor((south + 90) / side)); row * side - 90 < north && row < 180 / side; row++) {
      const column = ((at % columns) + columns) % columns;
      squares.set(`${column} ${row}`, { column, row });
    }
  return [...squares.values()];
}

function extentOf(detail: OutlineDetail, column: number, row: number): Extent {
  const side = OUTLINE_DETAILS[detail];
  const [west, south] = [column * side - 180, row * side - 90];
  return extentOnMap([west, south, Math.min(180, west + side), Math.min(90, south + side)]);
}

async function readSquare(detail: OutlineDetail, extent: Extent): Promise<Feature[]> {
  const side = OUTLINE_DETAILS[detail];
  const [west = 0, south = 0] = inDegrees(extent);
  const square = {
    column: Math.max(0, Math.round((west + 180) / side)),
    // The southernmost squares begin at the pole, which no map of this kind shows.
    row: side === 360 ? 0 : Math.max(0, Math.floor((south + 90 + 1e-6) / side)),
  };
  const { land, borders, coasts } = await call(placeRoutes.mapOutline, { query: { detail, ...square } });
  const place = (line: number[][]) => line.map(([longitude = 0, latitude = 0]) => onMap({ latitude, longitude }));
  return [
    ...land.map((rings) => new Feature({ what: 'land', geometry: new Polygon(rings.map(place)) })),
    ...borders.map((line) => new Feature({ what: 'border', geometry: new LineString(place(line)) })),
    ...coasts.map((line) => new Feature({ what: 'coast', geometry: new LineString(place(line)) })),
  ];
}

/** The names of the largest towns in sight. */
export function townLayer(map: Map): VectorLayer {
  const source = new VectorSource();
  let asked = 0;
  const read = () => {
    const number = ++asked;
    const extent = map.getView().calculateExtent(map.getSize());
    const box = boxOf(inDegrees(extent));
    void call(placeRoutes.mapTowns, { query: { ...box, limit: NAMED_TOWNS } })
      .then(({ towns }) => {
        if (number !== asked) return;
        source.clear();
        source.addFeatures(towns.map(townFeature));
      })
      .catch(showError);
  };
  map.on('moveend', read);
  return new VectorLayer({
    source,
    declutter: true,
    zIndex: 1,
    style: (feature) =>
      new Style({
        image: new Circle({ radius: 2, fill: new Fill({ color: colour('ink-3') }) }),
        text: new Text({
          text: String(feature.get('name')),
          font: '11px "Hanken Grotesk Variable"',
          offsetY: -9,
          fill: new Fill({ color: colour('ink-2') }),
          stroke: new Stroke({ color: colour('card'), width: 3 }),
        }),
      }),
  });
}

function townFeature({ name, latitude, longitude }: MapTown): Feature {
  return new Feature({ name, geometry: new Point(onMap({ latitude, longitude })) });
}
