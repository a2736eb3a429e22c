// Dragging something sideways with the pointer; a press that does not move is still a click on what lies under it.

import { useRef, type PointerEvent } from 'react';

/** A pointer that moved less is held still, in pixels. */
const STILL = 4;

/** What an element needs to be dragged; `onPan` is told by how many pixels to the right since it was last told. */
export function usePanning(onPan: (pixels: number) => void) {
  const grip = useRef<{ x: number; moves: boolean } | null>(null);
  return {
    onPointerDown: ({ clientX, button }: PointerEvent) => {
      if (button === 0) grip.current = { x: clientX, moves: false };
    },
    onPointerMove: ({ clientX, pointerId, currentTarget }: PointerEvent) => {
      const held = grip.current;
      if (!held || (!held.moves && Math.abs(clientX - held.x) < STILL)) return;
      // From here on what lies under the pointer is not clicked.
      if (!held.moves) currentTarget.setPointerCapture(pointerId);
      grip.current = { x: clientX, moves: true };
      onPan(clientX - held.x);
    },
    onPointerUp: () => {
      grip.current = null;
    },
    onPointerCancel: () => {
      grip.current = null;
    },
  };
}
