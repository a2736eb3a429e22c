// A part of the map as a condition of a query.

import { allOf, conjuncts, criterion, type Query } from '../query/query';
import type { GeoBox } from './areas';

/** About a metre. */
const DIGITS = 5;

/** What a query finds that lies in a box, instead of in any part of the map that it asks for so far. */
export function withinBox(query: Query, box: GeoBox): Query {
  const others = conjuncts(query).filter((part) => part.kind !== 'criterion' || part.criterion !== 'near');
  return allOf([...others, boxCriterion(box)]);
}

/** The condition `near:` a box, its sides rounded outwards so that nothing on its edge is lost. */
function boxCriterion({ south, west, north, east }: GeoBox): Query {
  const sides = [down(south), down(west), up(north), up(east)];
  return criterion('near', sides.join(','));
}

function down(degrees: number): number {
  return Number((Math.floor(degrees * 10 ** DIGITS) / 10 ** DIGITS).toFixed(DIGITS));
}

function up(degrees: number): number {
  return -down(-degrees) + 0;
}
