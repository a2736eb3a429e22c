// What a picture's pixels tell whoever looks at it: how light they are, where light or shadow is lost, where edges are sharp.
// Pixels are rows from the top, each of four bytes: red, green, blue, opacity.

/** So many pixels have each value, 0 to 255, by channel; `light`: of their luma (Rec. ITU-R BT.709-6, 3.2). */
export interface Histogram {
  red: number[];
  green: number[];
  blue: number[];
  light: number[];
}

export function histogramOf(pixels: Uint8ClampedArray): Histogram {
  const [red, green, blue, light] = [blank(), blank(), blank(), blank()];
  for (let at = 0; at < pixels.length; at += 4) {
    const [r = 0, g = 0, b = 0] = [pixels[at], pixels[at + 1], pixels[at + 2]];
    red[r] = (red[r] ?? 0) + 1;
    green[g] = (green[g] ?? 0) + 1;
    blue[b] = (blue[b] ?? 0) + 1;
    const luma = Math.round(lumaOf(r, g, b));
    light[luma] = (light[luma] ?? 0) + 1;
  }
  return { red, green, blue, light };
}

const blank = () => new Array<number>(256).fill(0);
const lumaOf = (red: number, green: number, blue: number) => 0.2126 * red + 0.7152 * green + 0.0722 * blue;

/** What can be laid over a picture. */
export interface Warnings {
  /** Where all channels are at their end: nothing can be seen there. */
  clipping: boolean;
  /** Where edges are sharp. */
  edges: boolean;
}

/** A channel at its end, but for what compression changes. */
const [BURNT, BLOCKED] = [253, 2];
/** Steps of luma from one pixel to the next that a sharp edge has. */
const SHARP_STEP = 28;
const COLOURS = { burnt: [214, 40, 110], blocked: [40, 110, 230], edge: [60, 230, 160] } as const;

/** What is laid over a picture of these pixels: as many pixels, clear where there is nothing to say. */
export function warningsOver(
  pixels: Uint8ClampedArray,
  width: number,
  height: number,
  { clipping, edges }: Warnings,
): Uint8ClampedArray<ArrayBuffer> {
  const over = new Uint8ClampedArray(width * height * 4);
  const paint = (at: number, [red, green, blue]: readonly [number, number, number]) => {
    over[at] = red;
    over[at + 1] = green;
    over[at + 2] = blue;
    over[at + 3] = 255;
  };
  if (edges) {
    const luma = lumaRows(pixels, width, height);
    for (let y = 1; y < height - 1; y++)
      for (let x = 1; x < width - 1; x++) {
        const at = y * width + x;
        const across = Math.abs((luma[at + 1] ?? 0) - (luma[at - 1] ?? 0));
        const down = Math.abs((luma[at + width] ?? 0) - (luma[at - width] ?? 0));
        if (Math.max(across, down) / 2 >= SHARP_STEP) paint(at * 4, COLOURS.edge);
      }
  }
  if (clipping)
    for (let at = 0; at < over.length; at += 4) {
      const [red = 0, green = 0, blue = 0] = [pixels[at], pixels[at + 1], pixels[at + 2]];
      if (Math.min(red, green, blue) >= BURNT) paint(at, COLOURS.burnt);
      else if (Math.max(red, green, blue) <= BLOCKED) paint(at, COLOURS.blocked);
    }
  return over;
}

/** The part of a histogram's pixels that lies at one of its ends, 0 to 1. */
export function clippedPart({ light }: Histogram, end: 'burnt' | 'blocked'): number {
  const all = light.reduce((sum, count) => sum + count, 0);
  const clipped = end === 'burnt' ? light.slice(BURNT) : light.slice(0, BLOCKED + 1);
  return all === 0 ? 0 : clipped.reduce((sum, count) => sum + count, 0) / all;
}

function lumaRows(pixels: Uint8ClampedArray, width: number, height: number): Float32Array {
  const luma = new Float32Array(width * height);
  for (let i = 0; i < luma.length; i++)
    luma[i] = lumaOf(pixels[i * 4] ?? 0, pixels[i * 4 + 1] ?? 0, pixels[i * 4 + 2] ?? 0);
  return luma;
}
