// What a package without types of its own has.

declare module 'vt-pbf' {
  import type { Tile } from 'geojson-vt';
  /** Tiles by the names of their layers, as a Mapbox Vector Tile. */
  const vtpbf: {
    fromGeojsonVt(layers: Readonly<Record<string, Tile>>, options: { version: 1 | 2 }): Uint8Array;
  };
  export default vtpbf;
}
