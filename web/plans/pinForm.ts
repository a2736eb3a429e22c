// Pins as they are saved from the screen.

import { middleOf, nextNumber, type Spot } from '@stellin/core/plans/pins';
import type { PinForm, PlanPin } from '@stellin/contract/plans';

/** What somebody does on the plan: look, or put something on it. */
export const MODES = ['look', 'point', 'view', 'area', 'tie'] as const;
export type Mode = (typeof MODES)[number];

type Last = Pick<PinForm, 'colour' | 'shape' | 'layer'>;

/** A new pin, as the one before it looked. */
export function newPin(pins: readonly PlanPin[], last: Last | undefined, lying: Lying): PinForm {
  const { colour = 'teal', shape = 'disc', layer = '' } = last ?? {};
  return {
    ...{ colour, shape, layer, number: nextNumber(pins), label: '', note: '', termId: null, placeId: null },
    ...lying,
  };
}

type Lying = Pick<PinForm, 'kind' | 'x' | 'y' | 'corners' | 'direction'>;

export const pointAt = (spot: Spot): Lying => ({ kind: 'point', ...spot, corners: null, direction: null });

/** A view from a spot towards another one, on a plan of this size. */
export function viewFrom(spot: Spot, to: Spot, { width, height }: { width: number; height: number }): Lying {
  const [right, up] = [(to.x - spot.x) * width, (spot.y - to.y) * height];
  const direction = right === 0 && up === 0 ? 0 : ((Math.atan2(right, up) * 180) / Math.PI + 360) % 360;
  return { kind: 'view', ...spot, corners: null, direction: Math.round(direction) % 360 };
}

export const areaOf = (corners: readonly Spot[]): Lying => ({
  kind: 'area',
  ...middleOf(corners),
  corners: [...corners],
  direction: null,
});

/** What is said of a pin, to be changed and saved. */
export function formOf(pin: PlanPin): PinForm {
  const { kind, number, x, y, corners, direction, label, note, colour, shape, layer, termId, placeId } = pin;
  return { kind, number, x, y, corners, direction, label, note, colour, shape, layer, termId, placeId };
}

/** A pin that has moved; an area does so with its outline. Nothing leaves the plan. */
export function movedBy(pin: PlanPin, by: Spot): PinForm {
  const form = formOf(pin);
  const spots = [form, ...(form.corners ?? [])];
  const least = (of: (spot: Spot) => number, wanted: number) =>
    Math.max(-Math.min(...spots.map(of)), Math.min(1 - Math.max(...spots.map(of)), wanted));
  const [right, down] = [least(({ x }) => x, by.x), least(({ y }) => y, by.y)];
  const moved = ({ x, y }: Spot): Spot => ({ x: within(x + right), y: within(y + down) });
  return { ...form, ...moved(form), corners: form.corners && form.corners.map(moved) };
}

/** Sums of parts may leave the plan by a hair. */
function within(part: number): number {
  return Math.max(0, Math.min(1, part));
}

/** The layers of pins, by name; those on none last, as ''. */
export function layersOf(pins: readonly Pick<PlanPin, 'layer'>[]): string[] {
  const names = [...new Set(pins.map(({ layer }) => layer))];
  return names.sort((a, b) => Number(a === '') - Number(b === '') || a.localeCompare(b));
}
