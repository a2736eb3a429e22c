// A part of the map as a condition of a query.

import { allOf, conjuncts, criterion, type Query } from '../query/query';
import { areaOf, type Area, type GeoBox, type Point } from './areas';

/** About a metre. */
const DIGITS = 5;

/** What a query finds that lies in a box, instead of in any part of the map that it asks for so far. */
export function withinBox(query: Query, box: GeoBox): Query {
  return within(query, boxCriterion(box));
}

/** What a query finds inside a polygon of few corners, instead of in any part of the map that it asks for so far. */
export function withinPolygon(query: Query, corners: readonly Point[]): Query {
  const texts = corners.map(({ latitude, longitude }) => `${near(latitude)},${near(longitude)}`);
  return within(query, criterion('near', texts.join(' ')));
}

/** The parts of the map that a query asks for. */
export function areasIn(query: Query): Area[] {
  return conjuncts(query).flatMap((part) => {
    const area = part.kind === 'criterion' && part.criterion === 'near' ? areaOf(part.value) : undefined;
    return area ? [area] : [];
  });
}

function within(query: Query, area: Query): Query {
  const others = conjuncts(query).filter((part) => part.kind !== 'criterion' || part.criterion !== 'near');
  return allOf([...others, area]);
}

function near(degrees: number): number {
  return Math.round(degrees * 10 ** DIGITS) / 10 ** DIGITS;
}

/** The condition `near:` a box, its sides rounded outwards so that nothing on its edge is lost. */
export function boxCriterion({ south, west, north, east }: GeoBox): Query {
  const sides = [down(south), down(west), up(north), up(east)];
  return criterion('near', sides.join(','));
}

function down(degrees: number): number {
  return Number((Math.floor(degrees * 10 ** DIGITS) / 10 ** DIGITS).toFixed(DIGITS));
}

function up(degrees: number): number {
  return -down(-degrees) + 0;
}
