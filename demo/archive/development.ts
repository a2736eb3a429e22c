// What camera, lab and scanner do to a whole picture: exposure, dark corners, grain, a print's grey and its paper.

import { createCanvas, type Canvas } from '@napi-rs/canvas';
import { noise } from './noise';
import type { PlannedPhoto } from './plan';
import type { Random } from './random';
import { grain, shrunk } from './textures';

/** Develops the picture on a canvas in place. */
export function develop(canvas: Canvas, { look, setting }: PlannedPhoto, random: Random): void {
  const { width, height } = canvas;
  const context = canvas.getContext('2d');
  if (look === 'blurred') {
    context.drawImage(shrunk(canvas, 0.045), 0, 0, width, height);
  }
  const fill = (mode: typeof context.globalCompositeOperation, colour: string) => {
    context.globalCompositeOperation = mode;
    context.fillStyle = colour;
    context.fillRect(0, 0, width, height);
  };
  if (look === 'scan') {
    fill('saturation', 'rgb(128, 128, 128)');
    fill('overlay', `rgba(90, 90, 90, ${random.between(0.05, 0.4)})`);
    fill('multiply', 'rgb(236, 222, 196)');
    fill('screen', 'rgb(34, 27, 20)');
  } else {
    // White balance and contrast in one: overlaid with a grey that leans to warm or cold.
    const warm = random.between(-1, 1) * 26;
    fill('overlay', `rgba(${128 + warm}, 128, ${128 - warm}, ${random.between(0.2, 0.5)})`);
  }
  if (look === 'dark') fill('multiply', 'rgb(64, 66, 74)');
  context.globalCompositeOperation = 'source-over';
  if (setting.kind !== 'paper') corners(canvas, random.between(0.15, 0.42));
  speckle(canvas, look === 'scan' ? random.between(0.12, 0.24) : random.between(0.03, 0.07), random);
  if (look === 'scan') print(canvas, random);
}

function corners(canvas: Canvas, strength: number): void {
  const { width, height } = canvas;
  const context = canvas.getContext('2d');
  const radius = Math.hypot(width, height) / 2;
  const dark = context.createRadialGradient(width / 2, height / 2, radius * 0.5, width / 2, height / 2, radius);
  dark.addColorStop(0, 'rgba(0, 0, 0, 0)');
  dark.addColorStop(1, `rgba(0, 0, 0, ${strength})`);
  context.fillStyle = dark;
  context.fillRect(0, 0, width, height);
}

function speckle(canvas: Canvas, strength: number, random: Random): void {
  const { width, height } = canvas;
  const context = canvas.getContext('2d');
  const tile = grain();
  context.globalCompositeOperation = 'overlay';
  context.globalAlpha = strength;
  const step = tile.width;
  for (let y = -random.int(0, step - 1); y < height; y += step)
    for (let x = -random.int(0, step - 1); x < width; x += step) context.drawImage(tile, x, y);
  context.globalAlpha = 1;
  context.globalCompositeOperation = 'source-over';
}

/** A print's white border, scratches, and stains of its age. */
function print(canvas: Canvas, random: Random): void {
  const { width, height } = canvas;
  const context = canvas.getContext('2d');
  for (let i = 0; i < random.int(0, 3); i++) {
    context.strokeStyle = 'rgba(240, 230, 210, 0.35)';
    context.lineWidth = Math.max(1, width / 1400);
    context.beginPath();
    const [x, y] = [width * random.next(), height * random.next()];
    const offset = random.between(0, 200);
    for (let s = 0; s < 20; s++) context.lineTo(x + s * width * 0.008 * noise(offset, s), y + s * height * 0.014);
    context.stroke();
  }
  if (random.chance(0.3)) {
    const [x, y, r] = [width * random.next(), height * random.next(), width * random.between(0.05, 0.2)];
    const stain = context.createRadialGradient(x, y, r * 0.3, x, y, r);
    stain.addColorStop(0, 'rgba(120, 86, 40, 0.12)');
    stain.addColorStop(1, 'rgba(120, 86, 40, 0)');
    context.fillStyle = stain;
    context.fillRect(0, 0, width, height);
  }
  if (!random.chance(0.7)) return;
  const edge = Math.min(width, height) * random.between(0.022, 0.04);
  context.fillStyle = 'rgb(238, 230, 212)';
  for (const [x, y, w, h] of [
    [0, 0, width, edge],
    [0, height - edge, width, edge],
    [0, 0, edge, height],
    [width - edge, 0, edge, height],
  ] as const)
    context.fillRect(x, y, w, h);
}

/** The picture turned so that its stored pixels are as an orientation (EXIF 3.0, tag 274) has them. */
export function turned(canvas: Canvas, orientation: PlannedPhoto['orientation']): Canvas {
  if (orientation === 1) return canvas;
  const quarter = orientation !== 3;
  const stored = createCanvas(quarter ? canvas.height : canvas.width, quarter ? canvas.width : canvas.height);
  const context = stored.getContext('2d');
  context.translate(stored.width / 2, stored.height / 2);
  context.rotate(({ 3: Math.PI, 6: -Math.PI / 2, 8: Math.PI / 2 } as const)[orientation]);
  context.drawImage(canvas, -canvas.width / 2, -canvas.height / 2);
  return stored;
}
