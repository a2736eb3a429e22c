import fc from 'fast-check';
import { PMTiles, TileType, type Source } from 'pmtiles';
import { tileArchive, type MadeTile } from './tileArchive';

const BOX = { south: 55.8, west: 3.2, north: 56.1, east: 3.8 };
const sourceOf = (file: Uint8Array): Source => ({
  getKey: () => 'in memory',
  getBytes: (offset, length) =>
    Promise.resolve({ data: Uint8Array.from(file.subarray(offset, offset + length)).buffer }),
});

test('what is written is read by the package that the format comes with, tile by tile', async () => {
  const tile = fc.integer({ min: 0, max: 9 }).chain((zoom) =>
    fc.record({
      zoom: fc.constant(zoom),
      column: fc.nat(2 ** zoom - 1),
      row: fc.nat(2 ** zoom - 1),
      bytes: fc.uint8Array({ minLength: 1, maxLength: 400 }),
    }),
  );
  const places = ({ zoom, column, row }: MadeTile) => `${zoom} ${column} ${row}`;
  await fc.assert(
    fc.asyncProperty(fc.uniqueArray(tile, { selector: places, minLength: 1, maxLength: 40 }), async (tiles) => {
      const metadata = { attribution: 'Norland survey' };
      const read = new PMTiles(sourceOf(tileArchive({ tiles, type: TileType.Png, box: BOX, metadata })));
      const zooms = tiles.map(({ zoom }) => zoom);
      expect(await read.getHeader()).toMatchObject({
        ...{ tileType: TileType.Png, minZoom: Math.min(...zooms), maxZoom: Math.max(...zooms) },
        ...{ minLat: BOX.south, minLon: BOX.west, maxLat: BOX.north, maxLon: BOX.east },
      });
      expect(await read.getMetadata()).toEqual(metadata);
      for (const { zoom, column, row, bytes } of tiles)
        expect(new Uint8Array((await read.getZxy(zoom, column, row))?.data ?? [])).toEqual(bytes);
    }),
    { numRuns: 40 },
  );
});

test('a file without tiles is none', () => {
  expect(() => tileArchive({ tiles: [], type: TileType.Png, box: BOX, metadata: {} })).toThrow('at least one');
});
