// The look of a picture as a short vector of 8-bit numbers: where it is light and dark, and its colours from corner to corner. Vectors
// of pictures that look alike point the same way. It is no description of what is shown: a red kite before a wood and a red roof
// before a wood look alike.

/** A picture as rows of pixels from the top: red, green and blue of each, and its opacity if there are four channels. */
export interface LookPixels {
  data: Uint8Array;
  width: number;
  height: number;
  channels: number;
}

const LIGHT_PARTS = 8;
const COLOUR_PARTS = 4;
/** How many numbers a look has: light and dark of 8 × 8 parts, two colour differences of 4 × 4 parts. A multiple of 16. */
export const LOOK_LENGTH = LIGHT_PARTS ** 2 + 2 * COLOUR_PARTS ** 2;

/** A part of a unit vector of one as an 8-bit number; larger ones are cut. */
const SCALE = 320;
/** A picture of less contrast than this (of luma 0 to 1, all parts together) is told by its colours. */
const LEAST_CONTRAST = 0.6;
const COLOUR_WEIGHT = 1.5;
const LEAST_LENGTH = 1e-3;

/** Made by another recipe, looks can't be compared: then pictures are looked at anew. */
export const LOOKS_BY = 1;

/** The look of a picture, over white where it is not opaque. */
export function lookOf(pixels: LookPixels): Int8Array {
  const light = meansOf(pixels, LIGHT_PARTS).map(({ luma }) => luma);
  const middle = light.reduce((sum, luma) => sum + luma, 0) / light.length;
  const centred = light.map((luma) => luma - middle);
  const contrast = Math.max(LEAST_CONTRAST, Math.hypot(...centred));
  const colours = meansOf(pixels, COLOUR_PARTS).flatMap(({ blue, red }) => [blue * COLOUR_WEIGHT, red * COLOUR_WEIGHT]);
  const values = [...centred.map((value) => value / contrast), ...colours];
  const length = Math.hypot(...values);
  // Of one grey all over: what is left is rounding.
  if (length < LEAST_LENGTH) return new Int8Array(LOOK_LENGTH);
  return Int8Array.from(values, (value) => Math.max(-127, Math.min(127, Math.round((value / length) * SCALE))));
}

/** How alike two pictures look, -1 to 1: the cosine between their looks. */
export function alike(a: Int8Array, b: Int8Array): number {
  let [sum, own, other] = [0, 0, 0];
  for (let i = 0; i < LOOK_LENGTH; i++) {
    const [x, y] = [a[i] ?? 0, b[i] ?? 0];
    sum += x * y;
    own += x * x;
    other += y * y;
  }
  return sum / (Math.sqrt(own * other) || 1);
}

/** How alike pictures have to look. */
export const STRICTNESS = { strict: 0.97, usual: 0.92, loose: 0.84 } as const;
export type Strictness = keyof typeof STRICTNESS;

/** A part of a picture, in parts of its width and height. */
interface Window {
  left: number;
  top: number;
  width: number;
  height: number;
}

const square = (left: number, top: number, side: number): Window => ({ left, top, width: side, height: side });

/** The parts of a picture that are looked for as well: what was cut out of it looks like one of them. */
export const CUTS: readonly Window[] = [
  square(0.1, 0.1, 0.8),
  square(0.2, 0.2, 0.6),
  ...[0, 0.35].flatMap((left) => [0, 0.35].map((top) => square(left, top, 0.65))),
];

/** A part of a picture as one of its own. */
export function cutOf({ data, width, height, channels }: LookPixels, window: Window): LookPixels {
  const [left, top] = [Math.floor(window.left * width), Math.floor(window.top * height)];
  const cut = {
    width: Math.max(1, Math.min(width - left, Math.round(window.width * width))),
    height: Math.max(1, Math.min(height - top, Math.round(window.height * height))),
  };
  const rows = new Uint8Array(cut.width * cut.height * channels);
  for (let row = 0; row < cut.height; row++) {
    const from = ((top + row) * width + left) * channels;
    rows.set(data.subarray(from, from + cut.width * channels), row * cut.width * channels);
  }
  return { ...cut, data: rows, channels };
}

/** The mean luma and colour differences (Rec. ITU-R BT.601-7, 2.5: luma 0 to 1, differences -0.5 to 0.5) of the parts of a picture, row by row. */
function meansOf(
  { data, width, height, channels }: LookPixels,
  parts: number,
): { luma: number; blue: number; red: number }[] {
  const means = [];
  for (let row = 0; row < parts; row++)
    for (let column = 0; column < parts; column++) {
      const [top, bottom] = part(row, parts, height);
      const [left, right] = part(column, parts, width);
      let [r, g, b] = [0, 0, 0];
      for (let y = top; y < bottom; y++)
        for (let x = left; x < right; x++) {
          const at = (y * width + x) * channels;
          const opacity = channels === 4 ? (data[at + 3] ?? 0) / 255 : 1;
          r += (data[at] ?? 0) * opacity + 255 * (1 - opacity);
          g += (data[at + 1] ?? 0) * opacity + 255 * (1 - opacity);
          b += (data[at + 2] ?? 0) * opacity + 255 * (1 - opacity);
        }
      const count = (bottom - top) * (right - left) * 255;
      const [red, green, blue] = [r / count, g / count, b / count];
      const luma = 0.299 * red + 0.587 * green + 0.114 * blue;
      means.push({ luma, blue: (blue - luma) / 1.772, red: (red - luma) / 1.402 });
    }
  return means;
}

/** From where up to where one of some parts of a length reaches: of the smallest picture each part has a pixel, too. */
function part(which: number, parts: number, length: number): [from: number, to: number] {
  const from = Math.floor((which * length) / parts);
  return [from, Math.max(from + 1, Math.floor(((which + 1) * length) / parts))];
}
