// The map on pages that are shown outside: land and towns below, and the spots where pictures were taken, each of which leads to them.

import { escaped } from '../text/html';
import { MAP_HEIGHT, MAP_WIDTH, pathOn, placeOn, spotsOf, type MapFrame, type Position } from './galleryMap';

/** What stands on a map below the spots: land and its coasts, as lines of corners [longitude, latitude], and towns. */
export interface MapGround {
  frame: MapFrame;
  towns: readonly (Position & { name: string })[];
  land: readonly (readonly (readonly (readonly number[])[])[])[];
  coasts: readonly (readonly (readonly number[])[])[];
}

/** The drawing (SVG). `hrefOf` gives where the pictures of a spot are. */
export function mapDrawing<Photo extends { position: Position | null; alt: string }>(
  photos: readonly Photo[],
  { frame, land, coasts, towns }: MapGround,
  hrefOf: (here: readonly Photo[]) => string,
): string {
  const marks = spotsOf(photos, frame).map(({ x, y, photos: here }) => {
    const [first] = here;
    const said = here.length > 1 ? `${here.length} pictures` : (first?.alt ?? '');
    const size = Math.min(20, 7 + 2 * Math.log2(here.length));
    const count = here.length > 1 ? `<text x="${x.toFixed(1)}" y="${(y + 4).toFixed(1)}">${here.length}</text>` : '';
    return `<a href="${hrefOf(here)}" aria-label="${escaped(said)}"><title>${escaped(said)}</title><circle cx="${x.toFixed(1)}" cy="${y.toFixed(1)}" r="${size.toFixed(1)}"/>${count}</a>`;
  });
  return [
    `<svg class="map" viewBox="0 0 ${MAP_WIDTH} ${MAP_HEIGHT}" role="group" aria-label="Map">`,
    `<path class="land" d="${land.map((polygon) => pathOn(frame, polygon, true)).join('')}"/>`,
    `<path class="coast" d="${pathOn(frame, coasts, false)}"/>`,
    ...towns.map((town) => {
      const [x, y] = placeOn(frame, town).map((each) => each.toFixed(1));
      return `<g class="town"><circle cx="${x}" cy="${y}" r="2.5"/><text x="${x}" y="${y}" dx="6" dy="4">${escaped(town.name)}</text></g>`;
    }),
    ...marks,
    '</svg>',
  ].join('\n');
}
