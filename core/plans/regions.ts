// Pins as image regions of the plan's picture (IPTC Photo Metadata Standard 2023.1, property ImageRegion): a point or view is a small
// circle, an area a polygon, in parts of the picture. What else is said of pins has no room there but name, term and view.

import type { FieldValue } from '../metadata/fields';
import { textsOf } from '../metadata/values';
import { isOnPlan, middleOf, type Spot } from './pins';
import type { SaidPin } from './geojson';

interface Members {
  [member: string]: FieldValue;
}

/** How large the circle of a point is: a part of the width. */
const RADIUS = 0.01;
/** Ids of regions that are pins. */
const PIN_ID = /^pin-(\d{1,6})$/;
/** The role of a view, with the degrees in which it looks. */
const VIEW = /^urn:stellin:view:(\d{1,3}(?:\.\d+)?)$/;

/** The regions of some pins. */
export function regionsOf(pins: readonly SaidPin[]): FieldValue[] {
  return pins.map(({ number, label, term, direction, ...lying }): Members => ({
    RegionBoundary: boundaryOf(lying),
    rId: `pin-${number}`,
    Name: label || String(number),
    ...(term !== '' && { rCtype: [{ Identifier: [term] }] }),
    ...(direction !== null && { rRole: [{ Name: 'View', Identifier: [`urn:stellin:view:${direction}`] }] }),
  }));
}

function boundaryOf({ x, y, corners }: Pick<SaidPin, 'x' | 'y' | 'corners'>): Members {
  return corners
    ? {
        ...{ rbShape: 'polygon', rbUnit: 'relative' },
        rbVertices: corners.map((corner) => ({ rbX: corner.x, rbY: corner.y })),
      }
    : { rbShape: 'circle', rbUnit: 'relative', rbX: x, rbY: y, rbRx: RADIUS };
}

/** What a picture says of regions, with those of pins being these: others stay. */
export function withPinRegions(said: FieldValue | undefined, pins: readonly SaidPin[]): FieldValue[] {
  return [...membersIn(said).filter((region) => !PIN_ID.test(String(region['rId']))), ...regionsOf(pins)];
}

/** The pins that regions of a picture tell of, whoever wrote them; those in pixels are of a picture of this size. */
export function pinsOfRegions(
  said: FieldValue | undefined,
  { width, height }: { width: number; height: number },
): SaidPin[] {
  return membersIn(said).flatMap((region): SaidPin[] => {
    const [boundary] = membersIn(region['RegionBoundary']);
    const isPixels = boundary?.['rbUnit'] === 'pixel';
    const spots = boundary ? outlineOf(boundary, isPixels ? { x: width, y: height } : { x: 1, y: 1 }) : [];
    if (spots.length === 0 || !spots.every(isOnPlan)) return [];
    const corners = spots.length > 2 ? spots : null;
    const { x, y } = corners ? middleOf(corners) : (spots[0] ?? { x: 0, y: 0 });
    const number = Number(PIN_ID.exec(String(region['rId']))?.[1] ?? 0);
    const [name = ''] = textsOf(region['Name']);
    const direction = corners ? undefined : identifiersOf(region['rRole']).flatMap(directionIn)[0];
    return [
      {
        ...{ kind: corners ? 'area' : direction === undefined ? 'point' : 'view', number, x, y, corners },
        direction: direction ?? null,
        label: name === String(number) ? '' : name,
        ...{ note: '', layer: '', colour: '', shape: 'disc', place: '' },
        term: identifiersOf(region['rCtype'])[0] ?? '',
      },
    ];
  });
}

/** The outline of a boundary, or the one spot in its middle; none where it is no boundary. */
function outlineOf(boundary: Members, unit: Spot): Spot[] {
  const at = (x: FieldValue | undefined, y: FieldValue | undefined): Spot[] =>
    typeof x === 'number' && typeof y === 'number' ? [{ x: x / unit.x, y: y / unit.y }] : [];
  const { rbX: x, rbY: y, rbW: width, rbH: height } = boundary;
  const OUTLINES: Record<string, () => Spot[]> = {
    circle: () => at(x, y),
    polygon: () => membersIn(boundary['rbVertices']).flatMap((vertex) => at(vertex['rbX'], vertex['rbY'])),
    rectangle: () => {
      if (typeof x !== 'number' || typeof y !== 'number' || typeof width !== 'number' || typeof height !== 'number')
        return [];
      return [at(x, y), at(x + width, y), at(x + width, y + height), at(x, y + height)].flat();
    },
  };
  return OUTLINES[String(boundary['rbShape'])]?.() ?? [];
}

function directionIn(identifier: string): number[] {
  const degrees = VIEW.exec(identifier)?.[1];
  return degrees === undefined || Number(degrees) >= 360 ? [] : [Number(degrees)];
}

function identifiersOf(entities: FieldValue | undefined): string[] {
  return membersIn(entities).flatMap((entity) => textsOf(entity['Identifier']));
}

/** The structures of a value, whether it is one or a list of them. */
function membersIn(value: FieldValue | undefined): Members[] {
  if (value === undefined || typeof value !== 'object') return [];
  return Array.isArray(value) ? value.flatMap(membersIn) : [value];
}
