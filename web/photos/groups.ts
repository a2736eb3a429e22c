// The groups that a result falls into by its order: days, folders, kinds … Where each begins, what it is called, and
// stepping from one to the next.

import { dayText } from '../parts/dateTimeText';
import { kindLabel, type FileKind } from '@stellin/core/metadata/containers/index';
import type { GroupBy } from '@stellin/core/search/sorts';
import type { PhotoGroup } from '@stellin/contract/photos';

export interface PlacedGroup extends PhotoGroup {
  /** The position of its first photo in the result. */
  start: number;
}

/** Groups with where they begin. */
export function placeGroups(groups: readonly PhotoGroup[]): PlacedGroup[] {
  let start = 0;
  return groups.map((group) => {
    const placed = { ...group, start };
    start += group.count;
    return placed;
  });
}

/** The index of the group that a position is in; -1 where there are none. */
export function groupAt(groups: readonly PlacedGroup[], position: number): number {
  let [low, high] = [0, groups.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((groups[middle]?.start ?? 0) <= position) low = middle + 1;
    else high = middle;
  }
  return low - 1;
}

/** The groups that begin at positions from `from` up to, but without, `to`. */
export function groupsWithin(groups: readonly PlacedGroup[], from: number, to: number): PlacedGroup[] {
  const first = from === 0 ? 0 : groupAt(groups, from - 1) + 1;
  const found: PlacedGroup[] = [];
  for (let i = first; i < groups.length; i++) {
    const group = groups[i];
    if (!group || group.start >= to) break;
    found.push(group);
  }
  return found;
}

/** What belongs to one longer stretch: days of one month have it in common. */
export function stretchOf(key: string | null): string {
  return key === null ? '' : /^\d{4}-\d{2}-\d{2}$/.test(key) ? key.slice(0, 7) : key;
}

/**
 * Where the next group begins, or the one before (from within a group first its own beginning), or the next month.
 * Undefined at the ends.
 */
export function stepGroup(
  groups: readonly PlacedGroup[],
  position: number,
  by: 1 | -1,
  far: boolean,
): number | undefined {
  const at = groupAt(groups, position);
  const here = groups[at];
  if (!here) return undefined;
  const stretch = (i: number) => (far ? stretchOf(groups[i]?.key ?? null) : String(i));
  if (by > 0) return groups.slice(at).find((_, i) => stretch(at + i) !== stretch(at))?.start;
  const beginningOf = (i: number) => {
    let first = i;
    while (first > 0 && stretch(first - 1) === stretch(i)) first -= 1;
    return first;
  };
  const own = beginningOf(at);
  const ownStart = groups[own]?.start ?? 0;
  if (position > ownStart) return ownStart;
  return own === 0 ? undefined : groups[beginningOf(own - 1)]?.start;
}

const dayLabel = (key: string | null) => (key === null ? 'Without a date' : dayText(key));
const ratingLabel = (key: string | null) => (key === '-1' ? 'Rejected' : key === '0' ? 'Not rated' : `Rated ${key}`);

/** How groups are called, by what their photos have in common. */
export const GROUP_LABELS: Record<GroupBy, (key: string | null) => string> = {
  day: dayLabel,
  folder: (key) => key ?? '',
  kind: (key) => kindLabel(key as FileKind),
  rating: ratingLabel,
  bundle: (key) => (key === null ? 'Not bundled' : 'Bundle'),
};
