// Pins as GeoJSON (RFC 7946): where the plan is tied to the map each has its place in the world; the spot on the plan and all that is
// said of the pin stand in its properties.

import type { Point } from '../timeplace/areas';
import {
  isOnPlan,
  middleOf,
  PIN_KINDS,
  PIN_SHAPES,
  type PinLook,
  type PinKind,
  type PinShape,
  type Spot,
} from './pins';
import type { Tied } from './tying';

/** A pin as it goes from one plan to another. */
export interface SaidPin extends PinShape {
  colour: string;
  shape: PinLook;
  /** The address of the term it stands for; empty: none. */
  term: string;
  /** The name of the own place it stands for; empty: none. */
  place: string;
}

type Position = readonly [longitude: number, latitude: number];
export type Geometry =
  | { type: 'Point'; coordinates: Position }
  | { type: 'Polygon'; coordinates: readonly (readonly Position[])[] };

export interface Feature {
  type: 'Feature';
  geometry: Geometry | null;
  properties: Record<string, unknown>;
}

/** Digits behind the point of degrees: about a centimetre. */
const DIGITS = 7;
/** Digits behind the point of parts of the plan. */
const SPOT_DIGITS = 6;

/** A pin as a feature; without a geometry where the plan is not tied. */
export function featureOf(pin: SaidPin, tied: Tied | undefined): Feature {
  const { x, y, corners, ...said } = pin;
  const position = (spot: Spot): Position => {
    const { longitude = 0, latitude = 0 } = tied?.pointAt(spot) ?? {};
    return [rounded(longitude, DIGITS), rounded(latitude, DIGITS)];
  };
  const geometry: Geometry = corners
    ? { type: 'Polygon', coordinates: [closed(corners).map(position)] }
    : { type: 'Point', coordinates: position(pin) };
  return {
    type: 'Feature',
    geometry: tied ? geometry : null,
    properties: { ...said, spot: spotText({ x, y }), ...(corners && { outline: corners.map(spotText) }) },
  };
}

/** The ring of an outline: it ends where it begins, and goes round against the clock on a map with north up. */
function closed(corners: readonly Spot[]): Spot[] {
  const signed = corners.reduce((sum, corner, i) => {
    const before = corners.at(i - 1) ?? corner;
    return sum + (before.x * corner.y - corner.x * before.y);
  }, 0);
  // On the plan y grows downwards: what goes round with the clock there has a positive sum.
  const ring = signed > 0 ? [...corners].reverse() : [...corners];
  return ring[0] ? [...ring, ring[0]] : ring;
}

/** The pin that a feature tells of; undefined where it has no spot on the plan. Its number is 0 where none is said. */
export function pinOfFeature({ geometry, properties }: Feature, tied: Tied | undefined): SaidPin | undefined {
  const spots = spotsIn(properties) ?? spotsOf(geometry, tied);
  if (!spots) return undefined;
  const corners = spots.length > 2 ? spots : null;
  const direction = typeof properties['direction'] === 'number' ? ((properties['direction'] % 360) + 360) % 360 : null;
  const [first = { x: 0, y: 0 }] = spots;
  const kind = kindOf(properties['kind'], corners !== null, direction !== null);
  const spot = spotOf(properties['spot']) ?? (corners ? middleOf(corners) : first);
  const number = properties['number'];
  return {
    kind,
    ...spot,
    corners: kind === 'area' ? corners : null,
    direction: kind === 'view' ? direction : null,
    number: typeof number === 'number' && Number.isInteger(number) && number > 0 ? number : 0,
    label: text(properties['label']) || text(properties['name']),
    note: text(properties['note']) || text(properties['description']),
    layer: text(properties['layer']),
    colour: text(properties['colour']),
    shape: PIN_SHAPES.find((shape) => shape === properties['shape']) ?? 'disc',
    term: text(properties['term']),
    place: text(properties['place']),
  };
}

function kindOf(said: unknown, hasOutline: boolean, looks: boolean): PinKind {
  const known = PIN_KINDS.find((kind) => kind === said);
  if (known === 'view' && looks && !hasOutline) return 'view';
  return hasOutline ? 'area' : 'point';
}

/** The spots that the properties name: an outline, or one spot. */
function spotsIn(properties: Record<string, unknown>): Spot[] | undefined {
  const { outline } = properties;
  if (Array.isArray(outline)) {
    const spots = outline.flatMap((each) => spotOf(each) ?? []);
    if (spots.length > 2) return spots;
  }
  const spot = spotOf(properties['spot']);
  return spot && [spot];
}

/** The spots of a geometry, of a polygon its outer ring; undefined where they do not lie on the plan. */
function spotsOf(geometry: Geometry | null, tied: Tied | undefined): Spot[] | undefined {
  if (!geometry || !tied) return undefined;
  const positions = geometry.type === 'Point' ? [geometry.coordinates] : (geometry.coordinates[0] ?? []).slice(0, -1);
  const spots = positions.map(([longitude, latitude]) => tied.spotAt(pointOf(longitude, latitude)));
  const isSeen = spots.length > 0 && spots.every(isOnPlan);
  return isSeen && (geometry.type === 'Point' || spots.length > 2) ? spots : undefined;
}

const pointOf = (longitude: number, latitude: number): Point => ({ longitude, latitude });

function spotText({ x, y }: Spot): [number, number] {
  return [rounded(x, SPOT_DIGITS), rounded(y, SPOT_DIGITS)];
}

function spotOf(value: unknown): Spot | undefined {
  if (!Array.isArray(value)) return undefined;
  const [x, y] = value as unknown[];
  return typeof x === 'number' && typeof y === 'number' && isOnPlan({ x, y }) ? { x, y } : undefined;
}

function rounded(value: number, digits: number): number {
  return Number(value.toFixed(digits));
}

function text(value: unknown): string {
  return typeof value === 'string' ? value : '';
}
