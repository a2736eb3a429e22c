// A file of map tiles made in memory: PMTiles version 3 (https://github.com/protomaps/PMTiles/blob/main/spec/v3/spec.md), unpacked, with all
// tiles in one directory.

import { Compression, zxyToTileId, type TileType } from 'pmtiles';
import type { GeoBox } from './areas';

export interface MadeTile {
  zoom: number;
  column: number;
  row: number;
  bytes: Uint8Array;
}

export interface MadeArchive {
  tiles: readonly MadeTile[];
  type: TileType;
  box: GeoBox;
  /** What is said of the file, such as its `attribution`. */
  metadata: Readonly<Record<string, unknown>>;
}

const HEADER_BYTES = 127;
const MAGIC = 'PMTiles';
const VERSION = 3;
/** Degrees are written in ten-millionths. */
const PER_DEGREE = 1e7;

/** The bytes of the file. Throws an Error without any tile. */
export function tileArchive({ tiles, type, box, metadata }: MadeArchive): Uint8Array {
  if (tiles.length === 0) throw new Error('a file of tiles has at least one');
  const sorted = tiles
    .map((tile) => ({ ...tile, id: zxyToTileId(tile.zoom, tile.column, tile.row) }))
    .sort((a, b) => a.id - b.id);
  const directory = directoryOf(sorted);
  const described = new TextEncoder().encode(JSON.stringify(metadata));
  const dataBytes = sorted.reduce((sum, { bytes }) => sum + bytes.length, 0);
  const dataAt = HEADER_BYTES + directory.length + described.length;
  const file = new Uint8Array(dataAt + dataBytes);
  const view = new DataView(file.buffer);
  file.set(new TextEncoder().encode(MAGIC));
  view.setUint8(MAGIC.length, VERSION);
  // Where each part begins and how long it is: the directory, the description, no further directories, the tiles; and how many.
  const numbers = [
    ...[HEADER_BYTES, directory.length, HEADER_BYTES + directory.length, described.length, dataAt, 0],
    ...[dataAt, dataBytes, sorted.length, sorted.length, sorted.length],
  ];
  numbers.forEach((value, i) => view.setBigUint64(8 + i * 8, BigInt(value), true));
  const zooms = sorted.map(({ zoom }) => zoom);
  const [least, most] = [Math.min(...zooms), Math.max(...zooms)];
  // In the order of their numbers, none of it packed.
  [1, Compression.None, Compression.None, type, least, most].forEach((value, i) => view.setUint8(96 + i, value));
  const degrees = (at: number, value: number) => view.setInt32(at, Math.round(value * PER_DEGREE), true);
  [box.west, box.south, box.east, box.north].forEach((value, i) => degrees(102 + i * 4, value));
  view.setUint8(118, least);
  degrees(119, (box.west + box.east) / 2);
  degrees(123, (box.south + box.north) / 2);
  file.set(directory, HEADER_BYTES);
  file.set(described, HEADER_BYTES + directory.length);
  let at = dataAt;
  for (const { bytes } of sorted) {
    file.set(bytes, at);
    at += bytes.length;
  }
  return file;
}

/** Column by column: how many tiles, their numbers as steps, how often each follows itself, their lengths, and where they begin. */
function directoryOf(sorted: readonly { id: number; bytes: Uint8Array }[]): Uint8Array {
  const bytes: number[] = [];
  const put = (value: number) => {
    let left = value;
    for (; left >= 0x80; left = Math.floor(left / 0x80)) bytes.push((left % 0x80) | 0x80);
    bytes.push(left);
  };
  put(sorted.length);
  sorted.forEach(({ id }, i) => put(id - (sorted[i - 1]?.id ?? 0)));
  sorted.forEach(() => put(1));
  sorted.forEach((tile) => put(tile.bytes.length));
  // 0: right behind the one before; else one more than where it begins.
  sorted.forEach((_, i) => put(i === 0 ? 1 : 0));
  return Uint8Array.from(bytes);
}
