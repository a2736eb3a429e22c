// Worker thread: reads files of tracks, which may be large.

import { packedTrack } from '@stellin/core/timeplace/track';
import { readTrack } from '@stellin/core/timeplace/trackFiles';

export interface ReadTrack {
  data: Uint8Array;
  points: number;
  /** Milliseconds since 1970. */
  begins: number;
  ends: number;
}

/** A file as it is kept. Throws an Error with a sentence when it can’t be read. */
export function read(text: string): ReadTrack {
  const track = readTrack(text);
  const { times } = track;
  return { data: packedTrack(track), points: times.length, begins: times[0] ?? 0, ends: times.at(-1) ?? 0 };
}
