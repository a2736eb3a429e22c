// Textures that are made once in a thread and drawn again and again: clouds, grain, grass, rough ground.

import { createCanvas, ImageData, type Canvas, type SKRSContext2D } from '@napi-rs/canvas';
import { css, mix, type Colour, type Light } from './light';
import { noise, smooth } from './noise';
import { randomOf } from './random';

export type Context = SKRSContext2D;

const made = new Map<string, Canvas>();

function once(name: string, make: () => Canvas): Canvas {
  const known = made.get(name) ?? make();
  made.set(name, known);
  return known;
}

/** A canvas whose pixels (red, green, blue, alpha, 0 to 255) are put into `data` at an index by a function of their place. */
function pixelCanvas(
  width: number,
  height: number,
  put: (data: Uint8ClampedArray, at: number, x: number, y: number) => void,
): Canvas {
  const canvas = createCanvas(width, height);
  const context = canvas.getContext('2d');
  const data = new Uint8ClampedArray(width * height * 4);
  for (let y = 0, at = 0; y < height; y++) for (let x = 0; x < width; x++, at += 4) put(data, at, x, y);
  context.putImageData(new ImageData(data, width, height), 0, 0);
  return canvas;
}

function putColour(data: Uint8ClampedArray, at: number, [red, green, blue]: Colour, alpha: number): void {
  data[at] = red;
  data[at + 1] = green;
  data[at + 2] = blue;
  data[at + 3] = alpha;
}

function putGrey(data: Uint8ClampedArray, at: number, value: number): void {
  data[at] = data[at + 1] = data[at + 2] = value;
  data[at + 3] = 255;
}

export const CLOUDS = 6;
const [CLOUD_WIDTH, CLOUD_HEIGHT] = [256, 128];

/** One of several clouds in a light: billows above, flat and shaded below. */
export function cloud(index: number, light: Light): Canvas {
  return once(`cloud ${index} ${light.name}`, () => {
    const [ox, oy] = [index * 61.7, index * 37.3];
    const density = (x: number, y: number): number => {
      const [u, v] = [(x / CLOUD_WIDTH) * 2 - 1, (y / CLOUD_HEIGHT) * 2 - 1];
      const body = 1 - u * u * 1.15 - (v > 0.25 ? (v - 0.25) ** 2 * 4.6 : (v - 0.25) ** 2 * 0.85);
      return noise(ox + x * 0.26, oy + y * 0.34) * 0.85 + body * 0.42 - 0.12;
    };
    return pixelCanvas(CLOUD_WIDTH, CLOUD_HEIGHT, (data, at, x, y) => {
      const d = density(x, y);
      const edge = Math.min(x, CLOUD_WIDTH - x, y * 2, (CLOUD_HEIGHT - y) * 2) / 24;
      const alpha = smooth(0.5, 0.78, d) * Math.min(1, edge);
      if (alpha === 0) return;
      const lit = smooth(-0.12, 0.2, d - density(x + 4, y - 9) + (0.42 - y / CLOUD_HEIGHT) * 0.32);
      putColour(data, at, mix(light.cloudShade, light.cloud, lit), alpha * 255);
    });
  });
}

/** Thin streaks high up. */
export function cirrus(light: Light): Canvas {
  return once(`cirrus ${light.name}`, () =>
    pixelCanvas(256, 128, (data, at, x, y) => {
      const fade = Math.sin((Math.PI * x) / 256) * Math.sin((Math.PI * y) / 128);
      putColour(data, at, light.cloud, smooth(0.45, 0.8, noise(x * 0.12, y * 0.9)) * fade * 200);
    }),
  );
}

/** Film grain: grey specks around the middle, to be laid over softly. */
export function grain(): Canvas {
  return once('grain', () => {
    const random = randomOf('grain');
    return pixelCanvas(384, 384, (data, at) =>
      putGrey(data, at, 128 + (random.next() + random.next() + random.next() - 1.5) * 110),
    );
  });
}

/** Rough ground: grey blotches around the middle. */
export function rough(): Canvas {
  return once('rough', () =>
    pixelCanvas(256, 256, (data, at, x, y) => putGrey(data, at, 60 + 140 * noise(x, y) + 26 * noise(x * 7, y * 7))),
  );
}

const GRASS = { width: 480, height: 96, blades: 1500 };

/** A row of grass blades in some colours around the one given, clear above. */
export function grass(colour: Colour): Canvas {
  return once(`grass ${colour.map(Math.round).join()}`, () => {
    const random = randomOf('grass');
    const canvas = createCanvas(GRASS.width, GRASS.height);
    const context = canvas.getContext('2d');
    context.lineCap = 'round';
    for (let i = 0; i < GRASS.blades; i++) {
      const x = random.between(-20, GRASS.width + 20);
      const top = GRASS.height * random.between(0.05, 0.75);
      const lean = random.between(-16, 22);
      const tone = mix(mix(colour, [30, 50, 20], random.between(0, 0.5)), [226, 216, 140], random.next() ** 3 * 0.6);
      context.strokeStyle = css(tone, 0.9);
      context.lineWidth = random.between(0.8, 2.2);
      context.beginPath();
      context.moveTo(x, GRASS.height + 2);
      context.quadraticCurveTo(x + lean * 0.2, (top + GRASS.height) / 2, x + lean, top);
      context.stroke();
    }
    return canvas;
  });
}

/** A picture at a part of its width and height: drawn back it is a soft blur of it at little cost. */
export function shrunk(source: Canvas, part: number): Canvas {
  const canvas = createCanvas(
    Math.max(2, Math.round(source.width * part)),
    Math.max(2, Math.round(source.height * part)),
  );
  const context = canvas.getContext('2d');
  context.imageSmoothingEnabled = true;
  context.imageSmoothingQuality = 'high';
  context.drawImage(source, 0, 0, canvas.width, canvas.height);
  return canvas;
}
