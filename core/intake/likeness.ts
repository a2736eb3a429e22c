// Telling pictures that look alike by a difference hash: each bit says whether one part of the picture is brighter than the
// part to its right.

const LIKENESS_COLUMNS = 9;
const LIKENESS_ROWS = 8;

/** A picture as rows of pixels from the top: red, green and blue of each, and its opacity if there are four channels. */
interface Pixels {
  data: Uint8Array;
  width: number;
  height: number;
  channels: number;
}

/** A picture, over white where it is not opaque, as the 9 × 8 grey values (Rec. ITU-R BT.601-7, 2.5.1) of its parts. */
export function greyParts({ data, width, height, channels }: Pixels): Uint8Array {
  const grey = new Uint8Array(LIKENESS_COLUMNS * LIKENESS_ROWS);
  const brightness = (at: number) => {
    const opacity = channels === 4 ? (data[at + 3] ?? 0) / 255 : 1;
    const luma = 0.299 * (data[at] ?? 0) + 0.587 * (data[at + 1] ?? 0) + 0.114 * (data[at + 2] ?? 0);
    return luma * opacity + 255 * (1 - opacity);
  };
  for (let row = 0; row < LIKENESS_ROWS; row++)
    for (let column = 0; column < LIKENESS_COLUMNS; column++) {
      const [top, bottom] = part(row, LIKENESS_ROWS, height);
      const [left, right] = part(column, LIKENESS_COLUMNS, width);
      let sum = 0;
      for (let y = top; y < bottom; y++)
        for (let x = left; x < right; x++) sum += brightness((y * width + x) * channels);
      grey[row * LIKENESS_COLUMNS + column] = Math.round(sum / ((bottom - top) * (right - left)));
    }
  return grey;
}

/** From where up to where one of some parts of a length reaches: of the smallest picture each part has a pixel, too. */
function part(which: number, parts: number, length: number): [from: number, to: number] {
  const from = Math.floor((which * length) / parts);
  return [from, Math.max(from + 1, Math.floor(((which + 1) * length) / parts))];
}

/** The 64-bit difference hash of a picture of 9 × 8 grey values (rows from the top), as a signed number of 64 bits. */
export function differenceHash(grey: Uint8Array): bigint {
  if (grey.length !== LIKENESS_COLUMNS * LIKENESS_ROWS)
    throw new RangeError(`a picture of ${LIKENESS_COLUMNS} × ${LIKENESS_ROWS} grey values is needed`);
  let hash = 0n;
  for (let row = 0; row < LIKENESS_ROWS; row++)
    for (let column = 0; column < LIKENESS_COLUMNS - 1; column++) {
      const at = row * LIKENESS_COLUMNS + column;
      hash = (hash << 1n) | ((grey[at] ?? 0) > (grey[at + 1] ?? 0) ? 1n : 0n);
    }
  return BigInt.asIntN(64, hash);
}

/** How many of the 64 bits of two hashes differ. */
export function bitsApart(a: bigint, b: bigint): number {
  let count = 0;
  for (let rest = BigInt.asUintN(64, a ^ b); rest !== 0n; rest &= rest - 1n) count++;
  return count;
}
