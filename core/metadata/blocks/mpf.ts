// Multi-picture data (CIPA DC-007): an APP2 segment that says where further pictures lie behind the first one. It is
// kept in step when the head of a file grows; the pictures themselves are never touched.

import { asciiBytes, hasAscii, memorySource, viewOf } from '../bytes';
import { readTiff } from './tiff';

export const MPF_PREFIX = 'MPF\0';
const MP_ENTRY = 0xb002;
const ENTRY_BYTES = 16;

export function isMpf(payload: Uint8Array): boolean {
  return hasAscii(payload, 0, MPF_PREFIX);
}

/**
 * The segment's payload for a file whose first picture becomes `grown` bytes longer, of which `behind` lie behind this
 * segment: offsets count from the segment itself, so only those move the other pictures away from it.
 */
export function shiftedMpf(payload: Uint8Array, grown: number, behind: number): Uint8Array {
  const start = asciiBytes(MPF_PREFIX).length;
  const tiff = readTiff(memorySource(payload.subarray(start)));
  const entry = tiff.pages[0]?.entries.get(MP_ENTRY);
  if (!entry || (grown === 0 && behind === 0)) return payload;
  const shifted = payload.slice();
  const view = viewOf(shifted);
  for (let at = 0; at + ENTRY_BYTES <= entry.length; at += ENTRY_BYTES) {
    const base = start + entry.dataAt + at;
    const add = (offset: number, difference: number) =>
      view.setUint32(base + offset, view.getUint32(base + offset, tiff.littleEndian) + difference, tiff.littleEndian);
    if (at === 0) add(4, grown);
    else if (view.getUint32(base + 8, tiff.littleEndian) !== 0) add(8, behind);
  }
  return shifted;
}
