// Pins as files: GeoJSON and XMP with image regions, written and read.

import { z } from 'zod';
import { featureOf, pinOfFeature, type Feature, type SaidPin } from '@stellin/core/plans/geojson';
import { pinsOfRegions, regionsOf } from '@stellin/core/plans/regions';
import type { PlanSize } from '@stellin/core/plans/pins';
import type { Tied } from '@stellin/core/plans/tying';
import { xmpFields } from '@stellin/core/metadata/blocks/xmp/fields';
import { parseXmp } from '@stellin/core/metadata/blocks/xmp/packet';
import { planSidecar } from '@stellin/core/metadata/write';
import type { PinFormat } from '@stellin/contract/plans';
import { messageOf, StellinError } from '../errors';

/** What is written of a plan. */
export interface WrittenPlan {
  name: string;
  note: string;
  size: PlanSize;
  tied: Tied | undefined;
  pins: readonly SaidPin[];
  /** When it is written. */
  at: Date;
}

const WRITERS: Record<PinFormat, (plan: WrittenPlan) => string> = {
  geojson: ({ name, note, size, tied, pins }) =>
    `${JSON.stringify({ type: 'FeatureCollection', name, description: note, picture: size, features: pins.map((pin) => featureOf(pin, tied)) }, null, 2)}\n`,
  xmp: ({ name, pins, at }) =>
    new TextDecoder().decode(
      planSidecar(undefined, { title: name, imageRegion: regionsOf(pins) }, { now: at.toISOString() }),
    ),
};

/** The pins of a plan as a file of a format. */
export function writtenPins(format: PinFormat, plan: WrittenPlan): string {
  return WRITERS[format](plan);
}

const position = z.tuple([z.number(), z.number()], z.number());
const geometry = z.discriminatedUnion('type', [
  z.object({ type: z.literal('Point'), coordinates: position }),
  z.object({ type: z.literal('Polygon'), coordinates: z.array(z.array(position)) }),
]);
const feature = z.object({
  type: z.literal('Feature'),
  geometry: geometry.nullable().catch(null),
  properties: z.record(z.string(), z.unknown()).nullable().catch(null),
});
const collection = z.object({ type: z.literal('FeatureCollection'), features: z.array(z.unknown()) });

/** The pins that a file tells of, and how much else it tells that has no spot on the plan. Refuses what is neither GeoJSON nor XMP. */
export function readPins(text: string, size: PlanSize, tied: Tied | undefined): { pins: SaidPin[]; leftOut: number } {
  return /^\s*</.test(text.replace(/^\uFEFF/, '')) ? readXmp(text, size) : readGeoJson(text, tied);
}

function readXmp(text: string, size: PlanSize): { pins: SaidPin[]; leftOut: number } {
  try {
    const said = xmpFields(parseXmp(new TextEncoder().encode(text))).imageRegion;
    const pins = pinsOfRegions(said, size);
    return { pins, leftOut: (Array.isArray(said) ? said.length : 0) - pins.length };
  } catch (error) {
    throw new StellinError('unreadablePins', { why: messageOf(error) });
  }
}

function readGeoJson(text: string, tied: Tied | undefined): { pins: SaidPin[]; leftOut: number } {
  let given: unknown;
  try {
    given = JSON.parse(text);
  } catch (error) {
    throw new StellinError('unreadablePins', { why: `it is neither GeoJSON nor XMP (${messageOf(error)})` });
  }
  const read = collection.safeParse(given);
  if (!read.success) throw new StellinError('unreadablePins', { why: 'it is no collection of features of GeoJSON' });
  const pins = read.data.features.flatMap((each) => {
    const { data } = feature.safeParse(each);
    const pin = data && pinOfFeature(featureAs(data), tied);
    return pin ? [pin] : [];
  });
  return { pins, leftOut: read.data.features.length - pins.length };
}

function featureAs({ geometry: shape, properties }: z.infer<typeof feature>): Feature {
  const at = ([longitude, latitude]: readonly number[]) => [longitude ?? 0, latitude ?? 0] as const;
  return {
    type: 'Feature',
    properties: properties ?? {},
    geometry:
      shape === null
        ? null
        : shape.type === 'Point'
          ? { type: 'Point', coordinates: at(shape.coordinates) }
          : { type: 'Polygon', coordinates: shape.coordinates.map((ring) => ring.map(at)) },
  };
}
