// Tracks: where a receiver was, moment by moment. Kept as columns, since one may have millions of points.

/** A track as its file tells it, in the order of time; each part is one way without a break. */
export interface Track {
  /** Milliseconds since 1970, UTC; rising. */
  times: Float64Array;
  /** Degrees. */
  latitudes: Float64Array;
  longitudes: Float64Array;
  /** Metres above the sea; NaN where it is not told. */
  altitudes: Float32Array;
  /** Where each part begins, by point. */
  starts: Int32Array;
}

export interface TrackPoint {
  time: number;
  latitude: number;
  longitude: number;
  altitude: number | undefined;
}

/** A track may have so many points. */
export const MAX_TRACK_POINTS = 5_000_000;

/** Collects points as a file tells them, and puts them in order. */
export class TrackBuilder {
  private readonly points: (TrackPoint & { part: number })[] = [];
  private part = 0;

  /** What comes next is not joined to what came before. */
  break(): void {
    this.part++;
  }

  /** Takes a point; one that is none (no time, not on this earth) is passed over. Throws an Error when there are too many. */
  add({ time, latitude, longitude, altitude }: TrackPoint): void {
    if (!Number.isFinite(time) || !(Math.abs(latitude) <= 90) || !(Math.abs(longitude) <= 180)) return;
    const height = altitude !== undefined && Math.abs(altitude) < 1e6 ? altitude : undefined;
    this.points.push({ time, latitude, longitude, altitude: height, part: this.part });
    if (this.points.length > MAX_TRACK_POINTS) throw new Error(`it has more than ${MAX_TRACK_POINTS} points`);
  }

  get count(): number {
    return this.points.length;
  }

  /** All of it by time; of several points at one moment the first. */
  track(): Track {
    const ordered = this.points.sort((a, b) => a.time - b.time);
    const distinct = ordered.filter(({ time }, i) => i === 0 || time !== ordered[i - 1]?.time);
    return {
      times: Float64Array.from(distinct, ({ time }) => time),
      latitudes: Float64Array.from(distinct, ({ latitude }) => latitude),
      longitudes: Float64Array.from(distinct, ({ longitude }) => longitude),
      altitudes: Float32Array.from(distinct, ({ altitude }) => altitude ?? NaN),
      starts: Int32Array.from(
        distinct.flatMap(({ part }, i) => (i === 0 || part !== distinct[i - 1]?.part ? [i] : [])),
      ),
    };
  }
}

/** Bytes of a point when it is packed: time, latitude and longitude with 8, altitude with 4, and whether it begins a part. */
const POINT_BYTES = 8 + 8 + 8 + 4 + 1;

/** A track as bytes, column by column, little-endian. */
export function packedTrack({ times, latitudes, longitudes, altitudes, starts }: Track): Uint8Array {
  const count = times.length;
  const bytes = new Uint8Array(count * POINT_BYTES);
  [times, latitudes, longitudes].forEach((column, i) =>
    bytes.set(new Uint8Array(column.buffer, column.byteOffset, column.byteLength), i * 8 * count),
  );
  bytes.set(new Uint8Array(altitudes.buffer, altitudes.byteOffset, altitudes.byteLength), 24 * count);
  for (const start of starts) bytes[28 * count + start] = 1;
  return bytes;
}

/** The track that `packedTrack` has packed. Throws an Error when the bytes are none. */
export function unpackedTrack(packed: Uint8Array): Track {
  const count = packed.length / POINT_BYTES;
  if (!Number.isInteger(count)) throw new Error('these are not the bytes of a track');
  // A copy, so that the columns begin where numbers of their size may.
  const { buffer } = new Uint8Array(packed);
  const marks = new Uint8Array(buffer, 28 * count, count);
  return {
    times: new Float64Array(buffer, 0, count),
    latitudes: new Float64Array(buffer, 8 * count, count),
    longitudes: new Float64Array(buffer, 16 * count, count),
    altitudes: new Float32Array(buffer, 24 * count, count),
    starts: Int32Array.from([...marks.keys()].filter((i) => marks[i] === 1)),
  };
}
