// Photos in the order of where they are on the Mercator projection (EPSG:3857), so that those of any of its square cells stand
// together: a quadtree by keys (G. M. Morton, A Computer Oriented Geodetic Data Base, 1966).

/** Where photos are, by ordinal; NaN where that is not known. */
export interface Positions {
  latitudes: Float64Array;
  longitudes: Float64Array;
}

/** The finest cells that are told apart: the world is 2 to the power of this many wide. */
export const FINEST_LEVEL = 16;
const FINEST = 2 ** FINEST_LEVEL;
/** The bits of a digit, by which keys are sorted one digit at a time. */
const DIGIT_BITS = 11;
const DIGITS = 2 ** DIGIT_BITS;

/** How many cells of a level east of the date line a longitude lies. */
export function across(longitude: number, level: number): number {
  return ((longitude + 180) / 360) * 2 ** level;
}

/**
 * How many cells of a level below the map's upper side a latitude lies: 0 and the map's whole height for what lies farther north and
 * south than the projection reaches (about 85.05 degrees).
 */
export function down(latitude: number, level: number): number {
  const fraction = 0.5 - Math.log(Math.tan(Math.PI / 4 + (latitude * Math.PI) / 360)) / (2 * Math.PI);
  return Math.max(0, Math.min(1, fraction)) * 2 ** level;
}

/** Photos with a position, cell by cell of the finest level. */
export class SpatialOrder {
  readonly ordinals: Int32Array;
  /** In the order of `ordinals`. */
  readonly latitudes: Float64Array;
  readonly longitudes: Float64Array;
  private readonly keys: Uint32Array;

  constructor({ latitudes, longitudes }: Positions) {
    const keys = new Uint32Array(latitudes.length);
    const known = new Int32Array(latitudes.length);
    let count = 0;
    for (let ordinal = 0; ordinal < latitudes.length; ordinal++) {
      const latitude = latitudes[ordinal] ?? NaN;
      if (Number.isNaN(latitude)) continue;
      known[count] = ordinal;
      keys[count++] = keyOf(latitude, longitudes[ordinal] ?? 0);
    }
    const order = sortedPlaces(keys.subarray(0, count));
    this.ordinals = new Int32Array(count);
    this.keys = new Uint32Array(count);
    this.latitudes = new Float64Array(count);
    this.longitudes = new Float64Array(count);
    for (let i = 0; i < count; i++) {
      const at = order[i] ?? 0;
      const ordinal = known[at] ?? 0;
      this.ordinals[i] = ordinal;
      this.keys[i] = keys[at] ?? 0;
      this.latitudes[i] = latitudes[ordinal] ?? NaN;
      this.longitudes[i] = longitudes[ordinal] ?? NaN;
    }
  }

  /**
   * Tells of each cell of a level (up to the finest) that has photos and that a test does not rule out, from where up to before where
   * they stand. The test is asked for the larger cells as well: what it rules out is passed over whole.
   */
  eachCell(
    level: number,
    isMeant: (column: number, row: number, level: number) => boolean,
    tell: (column: number, row: number, from: number, until: number) => void,
  ): void {
    const visit = (column: number, row: number, at: number, from: number, until: number): void => {
      if (from === until || !isMeant(column, row, at)) return;
      if (at === level) {
        tell(column, row, from, until);
        return;
      }
      const bits = 2 * (FINEST_LEVEL - at - 1);
      const key = interleaved(column, row) * 4;
      let begin = from;
      for (let quarter = 0; quarter < 4; quarter++) {
        const end = quarter === 3 ? until : this.firstFrom((key + quarter + 1) * 2 ** bits, begin, until);
        visit(column * 2 + (quarter & 1), row * 2 + (quarter >> 1), at + 1, begin, end);
        begin = end;
      }
    };
    visit(0, 0, 0, 0, this.keys.length);
  }

  /** Where the first key stands that is not smaller. */
  private firstFrom(key: number, from: number, until: number): number {
    let [low, high] = [from, until];
    while (low < high) {
      const middle = (low + high) >> 1;
      if ((this.keys[middle] ?? 0) < key) low = middle + 1;
      else high = middle;
    }
    return low;
  }
}

function keyOf(latitude: number, longitude: number): number {
  const column = Math.min(FINEST - 1, Math.floor(across(longitude, FINEST_LEVEL)));
  const row = Math.max(0, Math.min(FINEST - 1, Math.floor(down(latitude, FINEST_LEVEL))));
  return interleaved(column, row);
}

/** The bits of a column and a row by turns, those of the row before those of the column. */
function interleaved(column: number, row: number): number {
  return (spread(column) | (spread(row) << 1)) >>> 0;
}

/** A number of 16 bits with a zero before each. */
function spread(value: number): number {
  let bits = value & 0xffff;
  bits = (bits | (bits << 8)) & 0x00ff00ff;
  bits = (bits | (bits << 4)) & 0x0f0f0f0f;
  bits = (bits | (bits << 2)) & 0x33333333;
  return (bits | (bits << 1)) & 0x55555555;
}

/** The places of keys in ascending order of these, equal ones as they stood (radix sort, least digits first). */
function sortedPlaces(keys: Uint32Array): Int32Array {
  let places = new Int32Array(keys.length).map((_, i) => i);
  for (let shift = 0; shift < 32; shift += DIGIT_BITS) {
    const begins = new Int32Array(DIGITS + 1);
    for (let i = 0; i < keys.length; i++) {
      const digit = ((keys[i] ?? 0) >>> shift) & (DIGITS - 1);
      begins[digit + 1] = (begins[digit + 1] ?? 0) + 1;
    }
    for (let digit = 0; digit < DIGITS; digit++) begins[digit + 1] = (begins[digit + 1] ?? 0) + (begins[digit] ?? 0);
    const next = new Int32Array(keys.length);
    for (let i = 0; i < places.length; i++) {
      const place = places[i] ?? 0;
      const digit = ((keys[place] ?? 0) >>> shift) & (DIGITS - 1);
      const to = begins[digit] ?? 0;
      next[to] = place;
      begins[digit] = to + 1;
    }
    places = next;
  }
  return places;
}
