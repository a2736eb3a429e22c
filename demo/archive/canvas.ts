// A canvas of plain RGB bytes: scaling a backdrop up, laying pictures over it, and what camera and lab do to the whole.

import type { Backdrop } from './backdrop';
import { randomOf } from './random';

export interface Canvas {
  pixels: Buffer;
  width: number;
  height: number;
}

/** A picture with alpha (four bytes a pixel, not premultiplied) at its place. */
export interface Overlay {
  pixels: Uint8Array;
  width: number;
  height: number;
  left: number;
  top: number;
}

export interface Development {
  contrast: number;
  saturation: number;
  /** Multiplies everything: 1 as it is, less for a frame that came out dark. */
  exposure: number;
  /** How dark the corners are, 0 to 1. */
  vignette: number;
  /** Black and white on warm paper. */
  print: boolean;
  grain: number;
}

/**
 * The backdrop scaled to the size wanted (bilinear, with weights of 8 bits): each of its rows is widened once, and the rows
 * of the canvas are mixed from two of those. Loops here and below are plain: they run over millions of bytes a picture.
 */
export function canvasFrom(backdrop: Backdrop, width: number, height: number): Canvas {
  const pixels = Buffer.allocUnsafe(width * height * 3);
  const sy = ((backdrop.height - 1) * 256) / height;
  let known = -1;
  let above: Uint8Array = new Uint8Array(0);
  let below: Uint8Array = new Uint8Array(0);
  const length = width * 3;
  for (let y = 0; y < height; y++) {
    const py = (y * sy) | 0;
    const row = py >> 8;
    if (row !== known) {
      above = row === known + 1 && known >= 0 ? below : widened(backdrop, row, width);
      below = widened(backdrop, row + 1, width);
      known = row;
    }
    const down = py & 255;
    const up = 256 - down;
    mixRows(pixels, y * length, above, up, below, down);
  }
  return { pixels, width, height };
}

/** Writes a row mixed from two. A function of its own, as are the other inner loops: called often, it is compiled well. */
function mixRows(pixels: Uint8Array, at: number, above: Uint8Array, up: number, below: Uint8Array, down: number): void {
  for (let x = 0; x < above.length; x++) pixels[at + x] = (above[x]! * up + below[x]! * down) >> 8;
}

/** A row of the backdrop, stretched to the width wanted. */
function widened(backdrop: Backdrop, row: number, width: number): Uint8Array {
  const wide = new Uint8Array(width * 3);
  const from = backdrop.pixels;
  const start = row * backdrop.width * 3;
  const sx = ((backdrop.width - 1) * 256) / width;
  for (let x = 0, at = 0; x < width; x++, at += 3) {
    const px = (x * sx) | 0;
    const right = px & 255;
    const left = 256 - right;
    const i = start + (px >> 8) * 3;
    wide[at] = (from[i]! * left + from[i + 3]! * right) >> 8;
    wide[at + 1] = (from[i + 1]! * left + from[i + 4]! * right) >> 8;
    wide[at + 2] = (from[i + 2]! * left + from[i + 5]! * right) >> 8;
  }
  return wide;
}

/** Lays an overlay over the canvas; what lies outside is left out. */
export function lay(canvas: Canvas, overlay: Overlay): void {
  const [x0, x1] = [Math.max(0, -overlay.left), Math.min(overlay.width, canvas.width - overlay.left)];
  const [y0, y1] = [Math.max(0, -overlay.top), Math.min(overlay.height, canvas.height - overlay.top)];
  for (let y = y0; y < y1; y++) {
    const from = (y * overlay.width + x0) * 4;
    const to = ((y + overlay.top) * canvas.width + x0 + overlay.left) * 3;
    layRow(canvas.pixels, to, overlay.pixels, from, x1 - x0);
  }
}

function layRow(pixels: Uint8Array, to: number, source: Uint8Array, from: number, count: number): void {
  for (let x = 0; x < count; x++, from += 4, to += 3) {
    const alpha = source[from + 3]!;
    if (alpha === 0) continue;
    const rest = 255 - alpha;
    pixels[to] = (source[from]! * alpha + pixels[to]! * rest + 127) / 255;
    pixels[to + 1] = (source[from + 1]! * alpha + pixels[to + 1]! * rest + 127) / 255;
    pixels[to + 2] = (source[from + 2]! * alpha + pixels[to + 2]! * rest + 127) / 255;
  }
}

const GRAIN = grainTable();

/** What a row is developed with: numbers that hold for all of the picture. */
interface Bath {
  scale: number;
  lift: number;
  colour: number;
  vignette: number;
  grain: number;
  /** Added to and multiplied with each channel: paper for a print, nothing else. */
  base: number;
  paper: readonly [number, number, number];
}

/** Contrast, colour, exposure, dark corners and grain in one pass. */
export function develop(canvas: Canvas, development: Development, seed: number): void {
  const { width, height } = canvas;
  const { contrast, saturation, exposure, vignette, print, grain } = development;
  // A view that rounds and limits what is written to it.
  const pixels = new Uint8ClampedArray(canvas.pixels.buffer, canvas.pixels.byteOffset, canvas.pixels.length);
  const bath: Bath = {
    scale: contrast * exposure,
    lift: 128 * (1 - contrast) * exposure,
    colour: print ? 0 : saturation,
    vignette,
    grain,
    base: print ? 26 : 0,
    paper: print ? [0.857, 0.815, 0.731] : [1, 1, 1],
  };
  let speckAt = seed & (GRAIN.length - 1);
  for (let y = 0; y < height; y++) {
    // The grain of each row begins at another place of the table.
    speckAt = (speckAt + 40_503 * (y + 1)) & (GRAIN.length - 1);
    developRow(pixels, y * width * 3, width, (y / height - 0.5) * 2, speckAt, bath);
  }
}

function developRow(
  pixels: Uint8ClampedArray,
  at: number,
  width: number,
  dy: number,
  speckAt: number,
  bath: Bath,
): void {
  const { scale, lift, colour, vignette, grain, base } = bath;
  const paperRed = bath.paper[0];
  const paperGreen = bath.paper[1];
  const paperBlue = bath.paper[2];
  const step = 2 / width;
  let dx = -1;
  for (let x = 0; x < width; x++, at += 3, dx += step) {
    const distance = (dx * dx + dy * dy) / 2 - 0.25;
    const corner = distance > 0 ? 1 - vignette * distance : 1;
    const speck = GRAIN[(speckAt + x) & 65_535]! * grain + base;
    const red = pixels[at]!;
    const green = pixels[at + 1]!;
    const blue = pixels[at + 2]!;
    const grey = (77 * red + 151 * green + 28 * blue) >> 8;
    pixels[at] = (lift + scale * (grey + (red - grey) * colour)) * corner * paperRed + speck;
    pixels[at + 1] = (lift + scale * (grey + (green - grey) * colour)) * corner * paperGreen + speck;
    pixels[at + 2] = (lift + scale * (grey + (blue - grey) * colour)) * corner * paperBlue + speck;
  }
}

/** Specks between −1 and 1, most of them small. */
function grainTable(): Float32Array {
  const random = randomOf('grain');
  return Float32Array.from(
    { length: 65_536 },
    () => (random.next() + random.next() + random.next() + random.next()) / 2 - 1,
  );
}
