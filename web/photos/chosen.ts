// Which photos are chosen: a query less some, or some clicked one by one. Pure state and its steps; nothing here knows
// how many photos there are or loads any.

import type { Selection } from '@stellin/contract/photos';

export interface Chosen {
  /** All that the query finds (less `minus`), or only `plus`. */
  all: boolean;
  minus: ReadonlySet<number>;
  plus: ReadonlySet<number>;
  /** The position in the result that has the focus. */
  focus: number | null;
  /** The photo there when it got the focus: the result may change underneath. */
  focusId: number | null;
  /** Where a range begins. */
  anchor: number | null;
}

const NONE: ReadonlySet<number> = new Set();
export const NOTHING: Chosen = { all: false, minus: NONE, plus: NONE, focus: null, focusId: null, anchor: null };

export function isChosen(chosen: Chosen, id: number): boolean {
  return chosen.all ? !chosen.minus.has(id) : chosen.plus.has(id);
}

/** The photos that a grasped one stands for: all chosen ones if it is among them, else itself. */
export function selectionOfGrasped(chosen: Chosen, query: string, photoId: number): Selection {
  return (isChosen(chosen, photoId) ? selectionOf(chosen, query) : null) ?? { query: null, minus: [], plus: [photoId] };
}

/** How many are chosen of a result of `total`. */
export function countChosen(chosen: Chosen, total: number): number {
  return chosen.all ? Math.max(0, total - chosen.minus.size) : chosen.plus.size;
}

/** Only this photo. */
export function chooseOne(id: number, position: number): Chosen {
  return { ...NOTHING, plus: new Set([id]), focus: position, focusId: id, anchor: position };
}

/** This photo as well, or no longer. */
export function toggle(chosen: Chosen, id: number, position: number): Chosen {
  const changed = new Set(chosen.all ? chosen.minus : chosen.plus);
  if (!changed.delete(id)) changed.add(id);
  return { ...chosen, [chosen.all ? 'minus' : 'plus']: changed, focus: position, focusId: id, anchor: position };
}

/** The photos of a range that runs from the anchor to `position`. */
export function chooseRange(chosen: Chosen, ids: readonly number[], position: number): Chosen {
  return { ...NOTHING, plus: new Set(ids), focus: position, focusId: null, anchor: chosen.anchor ?? position };
}

export function chooseAll(chosen: Chosen): Chosen {
  return { ...NOTHING, all: true, focus: chosen.focus, focusId: chosen.focusId, anchor: chosen.anchor };
}

/** The same choice with the focus where its photo stands now. */
export function refocused(chosen: Chosen, position: number): Chosen {
  return { ...chosen, focus: position, anchor: chosen.anchor === chosen.focus ? position : chosen.anchor };
}

/** The selection as the contract has it; null when nothing is chosen. */
export function selectionOf(chosen: Chosen, query: string): Selection | null {
  if (chosen.all) return { query, minus: [...chosen.minus], plus: [] };
  return chosen.plus.size ? { query: null, minus: [], plus: [...chosen.plus] } : null;
}
