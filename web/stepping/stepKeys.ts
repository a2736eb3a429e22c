// The keys that step, once one goes somewhere; with Shift the other way.

import type { Direction, StepKind } from '@stellin/core/stepping/stepping';
import { shownKey } from '../foundation/keys';

export const STEP_KEYS: Readonly<Record<StepKind, string>> = { folder: 'o', day: 'd', month: 'm', event: 'e' };

/** The keys of a step as they are shown, one after the other. */
export function shownStep(kind: StepKind, direction: Direction): string[] {
  const key = STEP_KEYS[kind].toUpperCase();
  return direction === 'next' ? [key] : ['Shift', key];
}

/** The same with the key that goes somewhere before them: `G Shift O`. */
export function wholeStep(kind: StepKind, direction: Direction): string {
  return [shownKey('go'), ...shownStep(kind, direction)].join(' ');
}
