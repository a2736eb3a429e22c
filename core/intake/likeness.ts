// Telling pictures that look alike by a difference hash: each bit says whether one part of the picture is brighter than the
// part to its right.

export const LIKENESS_COLUMNS = 9;
export const LIKENESS_ROWS = 8;

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
