// A block of the sheet with headings: each group of its photos in rows of its own, below its heading.

import { estimatedHeight, justify, type Layout, type LayoutOptions } from './justify';
import { groupsWithin, type PlacedGroup } from '../photos/groups';

export const HEADING_HEIGHT = 34;

export interface PlacedHeading {
  group: PlacedGroup;
  top: number;
}

export interface SectionedLayout extends Layout {
  headings: PlacedHeading[];
}

interface Section {
  /** Within the block. */
  start: number;
  end: number;
  group: PlacedGroup | undefined;
}

/** Where the groups divide a block of `count` photos that begins at a position. */
function sectionsOf(groups: readonly PlacedGroup[], from: number, count: number): Section[] {
  const begins = groupsWithin(groups, from, from + count);
  const starts = begins.map(({ start }) => start - from);
  const sections = begins.map((group, i): Section => ({ start: starts[i] ?? 0, end: starts[i + 1] ?? count, group }));
  const lead = starts[0] ?? count;
  return lead > 0 ? [{ start: 0, end: lead, group: undefined }, ...sections] : sections;
}

/** Lays a block of photos that begins at a position of the result. The last row of a group is not stretched. */
export function layBlock(
  aspects: readonly number[],
  groups: readonly PlacedGroup[],
  from: number,
  options: LayoutOptions,
): SectionedLayout {
  const layout: SectionedLayout = { rows: [], headings: [], height: 0 };
  const sections = sectionsOf(groups, from, aspects.length);
  sections.forEach(({ start, end, group }, i) => {
    if (group) {
      layout.headings.push({ group, top: layout.height });
      layout.height += HEADING_HEIGHT;
    }
    const last = i < sections.length - 1 || options.last;
    const { rows, height } = justify(aspects.slice(start, end), { ...options, last });
    for (const row of rows)
      layout.rows.push(row.map((place) => ({ ...place, index: place.index + start, top: place.top + layout.height })));
    layout.height += height;
  });
  return layout;
}

/** About the height of a block whose photos are not known yet. */
export function estimateBlock(
  count: number,
  groups: readonly PlacedGroup[],
  from: number,
  options: LayoutOptions,
): number {
  return sectionsOf(groups, from, count).reduce(
    (sum, { start, end, group }) => sum + (group ? HEADING_HEIGHT : 0) + estimatedHeight(end - start, options),
    0,
  );
}
