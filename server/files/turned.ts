// Opening pictures within limits, and turning them.

import type { Sharp } from 'sharp';

const MAX_INPUT_PIXELS = 400_000_000;

/** Whether a picture that breaks off is refused, or decoded as far as it goes. */
export type FailOn = 'truncated' | 'none';

/** With what the picture library opens anything. */
export function options(failOn: FailOn) {
  return { limitInputPixels: MAX_INPUT_PIXELS, failOn } as const;
}

/** Turns as EXIF's orientation asks (Exif 3.0, 4.6.5.1): first mirrored, then turned clockwise. */
export function turned(picture: Sharp, orientation: number): Sharp {
  const mirrors = [2, 4, 5, 7].includes(orientation);
  const degrees = { 3: 180, 4: 180, 5: 270, 6: 90, 7: 90, 8: 270 }[orientation] ?? 0;
  return (mirrors ? picture.flop() : picture).rotate(degrees);
}
