// The loupe: what lies under the pointer, pixel by pixel.

import { useEffect, useState, type RefObject } from 'react';
import type { placeOf, Size } from './zoom';

const SIDE = 260;
/** Pixels of the screen for one of the picture. */
const SCALE = 2;

interface Props {
  frame: RefObject<HTMLElement | null>;
  address: string;
  picture: Size;
  place: ReturnType<typeof placeOf>;
}

export function Loupe({ frame, address, picture, place }: Props) {
  const [at, setAt] = useState<{ x: number; y: number } | null>(null);
  useEffect(() => {
    const element = frame.current;
    if (!element) return;
    const onMove = (event: PointerEvent) => {
      const box = element.getBoundingClientRect();
      setAt({ x: event.clientX - box.left, y: event.clientY - box.top });
    };
    const onLeave = () => setAt(null);
    element.addEventListener('pointermove', onMove);
    element.addEventListener('pointerleave', onLeave);
    return () => {
      element.removeEventListener('pointermove', onMove);
      element.removeEventListener('pointerleave', onLeave);
    };
  }, [frame]);
  // Without a pointer it shows the middle.
  const { x, y } = at ?? { x: place.left + place.width / 2, y: place.top + place.height / 2 };
  const [u, v] = [(x - place.left) / place.width, (y - place.top) / place.height];
  if (u < 0 || u > 1 || v < 0 || v > 1) return null;
  const [width, height] = [picture.width * SCALE, picture.height * SCALE];
  return (
    <div
      role="img"
      aria-label="Loupe"
      className="pointer-events-none absolute rounded-full border-2 border-card bg-ground shadow-lg [image-rendering:pixelated]"
      style={{
        left: x - SIDE / 2,
        top: y - SIDE / 2,
        width: SIDE,
        height: SIDE,
        backgroundImage: `url("${address}")`,
        backgroundSize: `${width}px ${height}px`,
        backgroundPosition: `${SIDE / 2 - u * width}px ${SIDE / 2 - v * height}px`,
        backgroundRepeat: 'no-repeat',
      }}
    />
  );
}
