// A file of map tiles: PMTiles version 3 (https://github.com/protomaps/PMTiles/blob/main/spec/v3/spec.md). Each part of it is read when
// it is asked for; nothing stays open.

import { open, stat } from 'node:fs/promises';
import { promisify } from 'node:util';
import { brotliDecompress, gunzip } from 'node:zlib';
import { Compression, PMTiles, TileType, type RangeResponse, type Source } from 'pmtiles';
import { shownStreetMap, type ShownStreetMap } from '@stellin/contract/streetMaps';

/** A tile, a directory or the description of a file is no larger than this, packed or not. */
const MAX_PART_BYTES = 32 * 1024 * 1024;

/** How the media type of a tile is written, for the kinds that are shown. */
const MEDIA_TYPES: Partial<Record<TileType, string>> = {
  [TileType.Mvt]: 'application/vnd.mapbox-vector-tile',
  [TileType.Png]: 'image/png',
  [TileType.Jpeg]: 'image/jpeg',
  [TileType.Webp]: 'image/webp',
  [TileType.Avif]: 'image/avif',
};

export interface Tile {
  bytes: Buffer;
  mediaType: string;
}

class FileOfTiles implements Source {
  constructor(private readonly path: string) {}

  getKey(): string {
    return this.path;
  }

  async getBytes(offset: number, length: number): Promise<RangeResponse> {
    if (!(length <= MAX_PART_BYTES)) throw new Error('a part of it is too large');
    const handle = await open(this.path);
    try {
      const data = new ArrayBuffer(length);
      const { bytesRead } = await handle.read(new Uint8Array(data), 0, length, offset);
      return { data: bytesRead < length ? data.slice(0, bytesRead) : data };
    } finally {
      await handle.close();
    }
  }
}

const UNPACK: Partial<Record<Compression, (packed: Buffer) => Promise<Buffer>>> = {
  [Compression.Unknown]: (plain) => Promise.resolve(plain),
  [Compression.None]: (plain) => Promise.resolve(plain),
  [Compression.Gzip]: (packed) => promisify(gunzip)(packed, { maxOutputLength: MAX_PART_BYTES }),
  [Compression.Brotli]: (packed) =>
    promisify<Buffer, object, Buffer>(brotliDecompress)(packed, { maxOutputLength: MAX_PART_BYTES }),
};

async function unpacked(packed: ArrayBuffer, compression: Compression): Promise<ArrayBuffer> {
  const unpack = UNPACK[compression];
  if (!unpack) throw new Error('it is packed in a way that can’t be unpacked');
  const plain = await unpack(Buffer.from(packed));
  return Uint8Array.from(plain).buffer;
}

export class TileFile {
  private readonly tiles: PMTiles;

  constructor(path: string) {
    this.tiles = new PMTiles(new FileOfTiles(path), undefined, unpacked);
  }

  /** What it shows. Throws an Error with the reason when it is no such file, or one that can’t be shown. */
  async shown(): Promise<ShownStreetMap> {
    const header = await this.tiles.getHeader();
    const { tileType, minZoom, maxZoom, minLat, minLon, maxLat, maxLon } = header;
    if (MEDIA_TYPES[tileType] === undefined) throw new Error('its tiles are of a kind that can’t be shown');
    const metadata: unknown = await this.tiles.getMetadata();
    const attribution = (metadata as { attribution?: unknown } | null)?.attribution;
    const { data, error } = shownStreetMap.safeParse({
      kind: tileType === TileType.Mvt ? 'vector' : 'picture',
      ...{ minZoom, maxZoom },
      box: { south: minLat, west: minLon, north: maxLat, east: maxLon },
      attribution: typeof attribution === 'string' ? withoutMarkup(attribution) : '',
    });
    if (error) throw new Error('what it says of itself can’t be');
    return data;
  }

  /** A tile; undefined where it has none. Throws an Error with the reason when it can’t be read. */
  async tile(zoom: number, column: number, row: number): Promise<Tile | undefined> {
    const { tileType } = await this.tiles.getHeader();
    const found = await this.tiles.getZxy(zoom, column, row);
    return found && { bytes: Buffer.from(found.data), mediaType: MEDIA_TYPES[tileType] ?? 'application/octet-stream' };
  }
}

const MAX_ATTRIBUTION = 300;

/** The words of an attribution, which is usually HTML. */
function withoutMarkup(html: string): string {
  return html
    .replace(/<[^>]*>/g, '')
    .replace(/&copy;/g, '©')
    .replace(/&amp;/g, '&')
    .replace(/\s+/g, ' ')
    .trim()
    .slice(0, MAX_ATTRIBUTION);
}

/** What tells a file from another one of the same name. */
export async function versionOf(path: string): Promise<{ bytes: number; version: string }> {
  const { size, mtimeMs } = await stat(path);
  return { bytes: size, version: `${size}-${Math.round(mtimeMs)}` };
}
