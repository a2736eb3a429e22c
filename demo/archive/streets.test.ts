import { PMTiles, TileType } from 'pmtiles';
import { paintStreets } from './streets';

test('the streets of both towns are in the tiles, down to houses, and no tile is empty', async () => {
  const file = paintStreets();
  const tiles = new PMTiles({
    getKey: () => 'streets',
    getBytes: (offset, length) =>
      Promise.resolve({ data: Uint8Array.from(file.subarray(offset, offset + length)).buffer }),
  });
  expect(await tiles.getHeader()).toMatchObject({ tileType: TileType.Mvt, minZoom: 8, maxZoom: 14 });
  const texts = await Promise.all(
    [
      [8342, 5104],
      [8358, 5114],
    ].map(async ([column = 0, row = 0]) =>
      Buffer.from((await tiles.getZxy(14, column, row))?.data ?? new ArrayBuffer(0)).toString('latin1'),
    ),
  );
  expect(texts).toEqual([expect.stringContaining('Kite Row'), expect.stringContaining('Rope Walk')]);
  expect(texts.every((text) => text.includes('buildings'))).toBe(true);
});
