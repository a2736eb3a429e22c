// A canvas of plain RGB bytes: scaling a backdrop up, laying pictures over it, and what camera and lab do to the whole.

import type { Backdrop } from './backdrop';

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

/** The backdrop scaled to the size wanted (bilinear, with weights of 8 bits). Loops here and below are unrolled: they run over millions of bytes a picture. */
export function canvasFrom(backdrop: Backdrop, width: number, height: number): Canvas {
  const pixels = Buffer.allocUnsafe(width * height * 3);
  const from = backdrop.pixels;
  const row = backdrop.width * 3;
  const sx = ((backdrop.width - 1) * 256) / width;
  const sy = ((backdrop.height - 1) * 256) / height;
  let at = 0;
  for (let y = 0; y < height; y++) {
    const py = (y * sy) | 0;
    const fy = py & 255;
    const above = (py >> 8) * row;
    for (let x = 0; x < width; x++) {
      const px = (x * sx) | 0;
      const fx = px & 255;
      const i = above + (px >> 8) * 3;
      const j = i + row;
      const a = (256 - fx) * (256 - fy);
      const b = fx * (256 - fy);
      const c = (256 - fx) * fy;
      const d = fx * fy;
      pixels[at] = (from[i]! * a + from[i + 3]! * b + from[j]! * c + from[j + 3]! * d) >> 16;
      pixels[at + 1] = (from[i + 1]! * a + from[i + 4]! * b + from[j + 1]! * c + from[j + 4]! * d) >> 16;
      pixels[at + 2] = (from[i + 2]! * a + from[i + 5]! * b + from[j + 2]! * c + from[j + 5]! * d) >> 16;
      at += 3;
    }
  }
  return { pixels, width, height };
}

/** Lays an overlay over the canvas; what lies outside is left out. */
export function lay(canvas: Canvas, overlay: Overlay): void {
  const { pixels } = canvas;
  const source = overlay.pixels;
  const [x0, x1] = [Math.max(0, -overlay.left), Math.min(overlay.width, canvas.width - overlay.left)];
  const [y0, y1] = [Math.max(0, -overlay.top), Math.min(overlay.height, canvas.height - overlay.top)];
  for (let y = y0; y < y1; y++) {
    let from = (y * overlay.width + x0) * 4;
    let to = ((y + overlay.top) * canvas.width + x0 + overlay.left) * 3;
    for (let x = x0; x < x1; x++, from += 4, to += 3) {
      const alpha = source[from + 3]!;
      if (alpha === 0) continue;
      const rest = 255 - alpha;
      pixels[to] = (source[from]! * alpha + pixels[to]! * rest + 127) / 255;
      pixels[to + 1] = (source[from + 1]! * alpha + pixels[to + 1]! * rest + 127) / 255;
      pixels[to + 2] = (source[from + 2]! * alpha + pixels[to + 2]! * rest + 127) / 255;
    }
  }
}

/** Contrast, colour, exposure, dark corners and grain in one pass. */
export function develop(canvas: Canvas, development: Development, seed: number): void {
  const { pixels, width, height } = canvas;
  const { contrast, saturation, exposure, vignette, print, grain } = development;
  const lift = 128 * (1 - contrast);
  let state = seed | 1;
  for (let y = 0, at = 0; y < height; y++) {
    const dy = (y / height - 0.5) * 2;
    for (let x = 0; x < width; x++, at += 3) {
      const dx = (x / width - 0.5) * 2;
      const corner = 1 - vignette * Math.max(0, (dx * dx + dy * dy) / 2 - 0.25);
      const light = exposure * corner;
      // xorshift: the sum of its four bytes is near enough to a bell curve.
      state ^= state << 13;
      state ^= state >>> 17;
      state ^= state << 5;
      const speck =
        (((state & 255) + ((state >>> 8) & 255) + ((state >>> 16) & 255) + (state >>> 24)) / 510 - 1) * grain;
      const red = pixels[at]!;
      const green = pixels[at + 1]!;
      const blue = pixels[at + 2]!;
      const grey = 0.3 * red + 0.59 * green + 0.11 * blue;
      if (print) {
        const tone = 26 + (grey * contrast + lift) * light * 0.84 + speck;
        pixels[at] = limit(tone * 1.02);
        pixels[at + 1] = limit(tone * 0.97);
        pixels[at + 2] = limit(tone * 0.87);
      } else {
        pixels[at] = limit((lift + contrast * (grey + (red - grey) * saturation)) * light + speck);
        pixels[at + 1] = limit((lift + contrast * (grey + (green - grey) * saturation)) * light + speck);
        pixels[at + 2] = limit((lift + contrast * (grey + (blue - grey) * saturation)) * light + speck);
      }
    }
  }
}

function limit(value: number): number {
  return value < 0 ? 0 : value > 255 ? 255 : value;
}
