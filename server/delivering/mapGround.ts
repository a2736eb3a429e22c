// What stands on the map of a gallery below the spots where pictures were taken.

import type { MapGround } from '@stellin/core/delivering/mapDrawing';
import { frameOf, type MapFrame, type Position } from '@stellin/core/delivering/galleryMap';
import { OUTLINE_DETAILS, type MapTown, type Outline, type OutlineDetail } from '@stellin/contract/places';

/** What is known of the world. */
export interface World {
  /** Coasts and land of a square. */
  outline: (square: { detail: OutlineDetail; column: number; row: number }) => Promise<Outline>;
  /** The largest towns in a box. */
  towns: (
    box: Pick<MapFrame, 'west' | 'east' | 'south' | 'north'>,
    limit: number,
  ) => Promise<readonly Pick<MapTown, 'name' | 'latitude' | 'longitude'>[]>;
}

const TOWNS_NAMED = 14;
/** How many times wider a map becomes until a town is on it: at sea there may be none in sight. */
const WIDENINGS = [1, 2, 4, 8, 16, 32];
/** Up to how many degrees from west to east land is drawn in which detail. */
const DETAILS: readonly { detail: OutlineDetail; upTo: number }[] = [
  { detail: 'fine', upTo: 12 },
  { detail: 'middle', upTo: 60 },
  { detail: 'whole', upTo: 360 },
];

/** The ground of a map on which some positions, one at least, are seen. */
export async function groundOf(positions: readonly Position[], { outline, towns }: World): Promise<MapGround> {
  let frame = frameOf(positions);
  let named: Awaited<ReturnType<World['towns']>> = [];
  for (const times of WIDENINGS) {
    frame = frameOf(positions, times);
    const { west, east, south, north } = frame;
    named = await towns({ west, east, south, north }, TOWNS_NAMED);
    if (named.length > 0) break;
  }
  return { frame, towns: named, ...(await landIn(frame, outline)) };
}

/** Land and coasts of the squares that a map shows parts of. */
async function landIn(
  { west, east, south, north }: MapFrame,
  outline: World['outline'],
): Promise<Pick<MapGround, 'land' | 'coasts'>> {
  const detail = DETAILS.find(({ upTo }) => east - west <= upTo)?.detail ?? 'whole';
  const side = OUTLINE_DETAILS[detail];
  const found: { land: Outline['land']; coasts: Outline['coasts'] } = { land: [], coasts: [] };
  const squares = (from: number, to: number, most: number) => {
    const [first, last] = [Math.max(0, Math.floor(from / side)), Math.min(most - 1, Math.floor(to / side))];
    return Array.from({ length: last - first + 1 }, (_, i) => first + i);
  };
  for (const column of squares(west + 180, east + 180, Math.ceil(360 / side)))
    for (const row of squares(south + 90, north + 90, Math.ceil(180 / side))) {
      const { land, coasts } = await outline({ detail, column, row });
      found.land.push(...land);
      found.coasts.push(...coasts);
    }
  return found;
}
