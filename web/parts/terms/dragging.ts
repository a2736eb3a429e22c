// What is dragged between columns of terms and the sheet of photos. Every drag has a key or a menu that does the same.

import type { DragEvent } from 'react';

const TYPES = { terms: 'application/x-stellin-terms', photos: 'application/x-stellin-photos' } as const;
type Dragged = keyof typeof TYPES;

/** Begins dragging some terms, or the chosen photos (then the ids say which one was grasped). */
export function startDragging(event: DragEvent, what: Dragged, ids: readonly number[], text: string): void {
  event.dataTransfer.setData(TYPES[what], JSON.stringify(ids));
  event.dataTransfer.setData('text/plain', text);
  event.dataTransfer.effectAllowed = 'copyMove';
}

/** Whether what is dragged is of this kind. */
export function isDragging(event: DragEvent, what: Dragged): boolean {
  return event.dataTransfer.types.includes(TYPES[what]);
}

/** The ids that were dropped; none when something else was. */
export function droppedIds(event: DragEvent, what: Dragged): number[] {
  try {
    const ids: unknown = JSON.parse(event.dataTransfer.getData(TYPES[what]) || '[]');
    return Array.isArray(ids) ? ids.filter((id) => typeof id === 'number') : [];
  } catch {
    return [];
  }
}
