// What the layers of street maps show, told by their names: these words stand in those of the common schemas.

const GEOMETRIES = {
  ...{ Polygon: 'area', MultiPolygon: 'area', LineString: 'line', MultiLineString: 'line' },
  ...{ Point: 'point', MultiPoint: 'point' },
} as const satisfies Record<string, 'area' | 'line' | 'point'>;

/** The first that fits is meant. */
const KINDS = [
  [/water|ocean|sea|lake|river/, 'area', 'water'],
  [/water|river|stream/, 'line', 'stream'],
  [/park|wood|forest|green|grass|landuse|landcover|natural/, 'area', 'green'],
  [/building/, 'area', 'building'],
  [/road|street|highway|transport/, 'line', 'road'],
  [/rail|path|track|foot/, 'line', 'path'],
  [/bound|admin|border/, 'line', 'border'],
  [/place|label|poi|name|housenum/, 'point', 'name'],
] as const;

export type StreetKind = (typeof KINDS)[number][2];

/** What a shape of a layer is; undefined where nobody knows. `geometry`: its type as GeoJSON has it. */
export function streetKind(layer: string, geometry: string): StreetKind | undefined {
  const shape = GEOMETRIES[geometry as keyof typeof GEOMETRIES] as string | undefined;
  return KINDS.find(([named, of]) => of === shape && named.test(layer.toLowerCase()))?.[2];
}
