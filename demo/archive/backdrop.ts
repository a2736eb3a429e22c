// Backdrops drawn pixel by pixel from noise: skies with clouds over sea and sand, hills, rooms, paper. Drawn small and
// scaled up, since all of it is soft; grain and detail come later.

import { randomOf, type Random } from './random';

export type Colour = readonly [red: number, green: number, blue: number];

/** The light of a scene. Colours of the sky from top to horizon, what it does to everything else. */
export interface Light {
  name: string;
  sky: readonly [Colour, Colour, Colour];
  cloud: Colour;
  cloudShade: Colour;
  /** Multiplies the colours of ground and people. */
  tint: Colour;
  sun: number;
}

export const LIGHTS: readonly Light[] = [
  {
    name: 'morning',
    sky: [
      [88, 142, 196],
      [150, 192, 222],
      [222, 230, 226],
    ],
    cloud: [255, 250, 242],
    cloudShade: [172, 186, 200],
    tint: [1, 0.98, 0.94],
    sun: 0.35,
  },
  {
    name: 'noon',
    sky: [
      [40, 104, 178],
      [94, 156, 212],
      [190, 218, 232],
    ],
    cloud: [255, 255, 255],
    cloudShade: [188, 200, 214],
    tint: [1, 1, 1],
    sun: 0.15,
  },
  {
    name: 'clear',
    sky: [
      [26, 86, 168],
      [72, 142, 208],
      [168, 208, 230],
    ],
    cloud: [255, 255, 255],
    cloudShade: [204, 214, 224],
    tint: [1.03, 1.02, 1],
    sun: 0.1,
  },
  {
    name: 'golden',
    sky: [
      [96, 130, 172],
      [226, 178, 128],
      [252, 214, 150],
    ],
    cloud: [255, 226, 178],
    cloudShade: [176, 132, 120],
    tint: [1.08, 0.94, 0.78],
    sun: 0.9,
  },
  {
    name: 'dusk',
    sky: [
      [44, 52, 104],
      [142, 92, 132],
      [240, 148, 104],
    ],
    cloud: [240, 152, 128],
    cloudShade: [76, 66, 108],
    tint: [0.72, 0.6, 0.66],
    sun: 0.7,
  },
  {
    name: 'overcast',
    sky: [
      [150, 160, 168],
      [178, 186, 190],
      [206, 210, 208],
    ],
    cloud: [216, 220, 222],
    cloudShade: [132, 142, 152],
    tint: [0.86, 0.88, 0.9],
    sun: 0,
  },
  {
    name: 'storm',
    sky: [
      [62, 72, 84],
      [104, 116, 126],
      [172, 180, 176],
    ],
    cloud: [156, 164, 168],
    cloudShade: [50, 58, 68],
    tint: [0.7, 0.74, 0.76],
    sun: 0,
  },
  {
    name: 'mist',
    sky: [
      [190, 198, 200],
      [206, 212, 210],
      [220, 222, 216],
    ],
    cloud: [228, 230, 228],
    cloudShade: [198, 204, 206],
    tint: [0.94, 0.95, 0.94],
    sun: 0.1,
  },
  {
    name: 'night',
    sky: [
      [8, 12, 30],
      [18, 26, 54],
      [44, 48, 78],
    ],
    cloud: [52, 56, 84],
    cloudShade: [12, 16, 34],
    tint: [0.34, 0.36, 0.5],
    sun: 0,
  },
];

export interface Backdrop {
  pixels: Buffer;
  width: number;
  height: number;
}

export type Ground = 'beach' | 'meadow' | 'hills' | 'dunes' | 'harbour';

const NOISE_SIZE = 512;
const NOISE = fractalNoise(NOISE_SIZE, randomOf('noise'));

/** A landscape: sky over the ground of its kind. `horizon` is a part of the height. */
export function landscape(
  width: number,
  height: number,
  light: Light,
  ground: Ground,
  horizon: number,
  random: Random,
): Backdrop {
  const cloudiness = random.between(0.38, 0.6);
  const [ox, oy, oz] = [random.between(0, 500), random.between(0, 500), random.between(0, 500)];
  const cloudScale = random.between(90, 190);
  const sunAt = random.between(0.1, 0.9);
  const aspect = width / height;
  const layers = GROUND_LAYERS[ground](horizon, random);
  return paint(width, height, (u, v) => {
    for (let i = layers.length - 1; i >= 0; i--) {
      const layer = layers[i];
      if (layer && v > layer.top(u)) return tinted(layer.colour(u, v, layer.top(u)), light.tint);
    }
    const down = v / horizon;
    let colour =
      down < 0.55
        ? mix(light.sky[0], light.sky[1], down / 0.55)
        : mix(light.sky[1], light.sky[2], (down - 0.55) / 0.45);
    // Clouds flatten towards the horizon.
    const far = 1 / (1.15 - Math.min(1, down));
    const body = noise(
      ox + (u - 0.5) * aspect * cloudScale * Math.min(3, far * 0.8),
      oy + down * cloudScale * 1.3 * Math.min(3, far * 0.6),
    );
    const cover = smooth(cloudiness, cloudiness + 0.2, body) * (0.95 - 0.3 * down);
    const lit = noise(oz + u * aspect * cloudScale * 1.7, oy + down * cloudScale * 2.2);
    colour = mix(colour, mix(light.cloudShade, light.cloud, smooth(0.3, 0.65, lit * 0.6 + (1 - body) * 0.5)), cover);
    const glow = light.sun * Math.exp(-(((u - sunAt) * aspect) ** 2 + (v - horizon * 0.9) ** 2) * 5);
    return mix(colour, [255, 238, 196], glow * 0.8);
  });
}

/** A room: a wall lit from one side, planks or concrete below. */
export function room(width: number, height: number, wall: Colour, floor: Colour, random: Random): Backdrop {
  const edge = random.between(0.68, 0.8);
  const lamp = random.between(0.1, 0.9);
  const offset = random.between(0, 400);
  const planks = random.chance(0.7);
  return paint(width, height, (u, v) => {
    const fall = 1.12 - 0.55 * Math.hypot(u - lamp, (v - 0.25) * 0.7);
    const grain = 0.96 + 0.08 * noise(offset + u * 260, v * 260);
    if (v < edge) return scaled(wall, fall * grain * (v > edge - 0.02 ? 0.75 : 1));
    const depth = (v - edge) / (1 - edge);
    const x = (u - 0.5) / (0.4 + depth * 0.9);
    const seam = planks && Math.abs((x * 9) % 1) < 0.05 ? 0.75 : 1;
    return scaled(floor, fall * seam * (0.85 + 0.3 * noise(offset + x * 90, depth * (planks ? 12 : 120))));
  });
}

/** Photographer's paper behind a single object. */
export function paper(width: number, height: number, tone: Colour, random: Random): Backdrop {
  const [cx, cy] = [random.between(0.4, 0.6), random.between(0.35, 0.5)];
  return paint(width, height, (u, v) =>
    scaled(tone, 1.1 - 0.5 * Math.hypot(u - cx, v - cy) + 0.02 * (noise(u * 300, v * 300) - 0.5)),
  );
}

interface Layer {
  top(u: number): number;
  colour(u: number, v: number, top: number): Colour;
}

const GROUND_LAYERS: Record<Ground, (horizon: number, random: Random) => Layer[]> = {
  beach: (horizon, random) => [
    far(horizon, 0.02, [110, 130, 140], random),
    sea(horizon),
    sand(horizon + random.between(0.06, 0.13), random),
  ],
  dunes: (horizon, random) => [
    sea(horizon),
    sand(horizon + 0.05, random),
    grass(horizon + random.between(0.12, 0.2), [136, 140, 82], 0.05, random),
  ],
  meadow: (horizon, random) => [
    far(horizon, 0.05, [92, 122, 110], random),
    far(horizon + 0.02, 0.03, [70, 106, 76], random),
    grass(horizon + 0.05, [98, 136, 58], 0.01, random),
  ],
  hills: (horizon, random) => [
    far(horizon - 0.08, 0.1, [116, 136, 152], random),
    far(horizon - 0.02, 0.08, [88, 116, 102], random),
    grass(horizon + 0.05, [110, 132, 66], 0.06, random),
  ],
  harbour: (horizon, random) => [
    far(horizon, 0.04, [104, 116, 120], random),
    sea(horizon),
    quay(horizon + random.between(0.16, 0.24)),
  ],
};

function far(top: number, height: number, colour: Colour, random: Random): Layer {
  const offset = random.between(0, 500);
  const scale = random.between(40, 90);
  return {
    top: (u) => top - height * (noise(offset + u * scale, offset) - 0.35) * 1.4,
    colour: (u, v, edge) => scaled(colour, 0.9 + 0.2 * noise(u * 400, (v - edge) * 900)),
  };
}

function sea(top: number): Layer {
  return {
    top: () => top,
    colour: (u, v) => {
      const depth = Math.min(1, (v - top) / 0.2);
      const persp = 0.05 + depth;
      const wave = noise((u * 60) / persp + 11, 40 * Math.log(persp) * 4);
      return mix(
        mix([128, 158, 168], [62, 112, 124], depth),
        [232, 240, 238],
        smooth(0.62, 0.78, wave) * (0.15 + depth * 0.7),
      );
    },
  };
}

function sand(top: number, random: Random): Layer {
  const offset = random.between(0, 300);
  const lean = random.between(-0.05, 0.05);
  return {
    top: (u) => top + lean * (u - 0.5) + 0.012 * noise(offset + u * 30, 3),
    colour: (u, v, edge) => {
      const depth = (v - edge) / (1 - edge);
      const texture = 0.84 + 0.3 * noise(offset + (u * 130) / (0.3 + depth), 80 * Math.log(0.1 + depth));
      return scaled(mix([142, 126, 102], [216, 196, 154], smooth(0.02, 0.2, depth)), texture);
    },
  };
}

function grass(top: number, colour: Colour, roll: number, random: Random): Layer {
  const offset = random.between(0, 300);
  return {
    top: (u) => top - roll * (noise(offset + u * 34, 9) - 0.5) * 2,
    colour: (u, v, edge) => {
      const depth = (v - edge) / (1 - edge);
      const blades = noise(offset + (u * 420) / (0.25 + depth), v * 190);
      const patches = noise(offset + (u * 40) / (0.3 + depth), 30 * Math.log(0.15 + depth));
      return scaled(
        mix(colour, [178, 168, 98], smooth(0.42, 0.7, patches) * 0.75),
        0.84 + 0.5 * (blades - 0.35) + 0.12 * depth,
      );
    },
  };
}

function quay(top: number): Layer {
  return {
    top: () => top,
    colour: (u, v, edge) =>
      scaled([132, 128, 122], (v - edge < 0.02 ? 0.6 : 0.9) + 0.2 * (noise(u * 200, v * 200) - 0.5)),
  };
}

function paint(width: number, height: number, colourAt: (u: number, v: number) => Colour): Backdrop {
  const pixels = Buffer.allocUnsafe(width * height * 3);
  for (let y = 0; y < height; y++) paintRow(pixels, y * width * 3, width, y / height, colourAt);
  return { pixels, width, height };
}

function paintRow(
  pixels: Uint8Array,
  at: number,
  width: number,
  v: number,
  colourAt: (u: number, v: number) => Colour,
): void {
  for (let x = 0; x < width; x++, at += 3) {
    const colour = colourAt(x / width, v);
    pixels[at] = clamp(colour[0]);
    pixels[at + 1] = clamp(colour[1]);
    pixels[at + 2] = clamp(colour[2]);
  }
}

function noise(x: number, y: number): number {
  // No destructuring here: this runs some million times a picture.
  const x0 = Math.floor(x);
  const y0 = Math.floor(y);
  const fx = x - x0;
  const fy = y - y0;
  const left = x0 & (NOISE_SIZE - 1);
  const right = (x0 + 1) & (NOISE_SIZE - 1);
  const above = (y0 & (NOISE_SIZE - 1)) * NOISE_SIZE;
  const below = ((y0 + 1) & (NOISE_SIZE - 1)) * NOISE_SIZE;
  const a = NOISE[above + left]!;
  const b = NOISE[below + left]!;
  const upper = a + (NOISE[above + right]! - a) * fx;
  const lower = b + (NOISE[below + right]! - b) * fx;
  return upper + (lower - upper) * fy;
}

/** Octaves of smoothed chance that repeat at the edges, spread over 0–1. */
function fractalNoise(size: number, random: Random): Float32Array {
  const sum = new Float32Array(size * size);
  let weight = 1;
  for (let cells = 8; cells <= 256; cells *= 2, weight *= 0.55) {
    const lattice = Float32Array.from({ length: cells * cells }, () => random.next());
    const cell = size / cells;
    for (let y = 0; y < size; y++) {
      const [cy, ty] = [Math.floor(y / cell), ease((y % cell) / cell)];
      for (let x = 0; x < size; x++) {
        const cx = Math.floor(x / cell);
        const tx = ease((x % cell) / cell);
        const right = (cx + 1) % cells;
        const above = cy * cells;
        const below = ((cy + 1) % cells) * cells;
        const upper = lattice[above + cx]! + (lattice[above + right]! - lattice[above + cx]!) * tx;
        const lower = lattice[below + cx]! + (lattice[below + right]! - lattice[below + cx]!) * tx;
        const index = y * size + x;
        sum[index] = (sum[index] ?? 0) + weight * (upper + (lower - upper) * ty);
      }
    }
  }
  let [low, high] = [Infinity, -Infinity];
  for (const value of sum) {
    low = Math.min(low, value);
    high = Math.max(high, value);
  }
  return sum.map((value) => (value - low) / (high - low));
}

function ease(t: number): number {
  return t * t * (3 - 2 * t);
}

function smooth(low: number, high: number, value: number): number {
  return ease(Math.max(0, Math.min(1, (value - low) / (high - low))));
}

function mix(a: Colour, b: Colour, t: number): Colour {
  return [a[0] + (b[0] - a[0]) * t, a[1] + (b[1] - a[1]) * t, a[2] + (b[2] - a[2]) * t];
}

function scaled(colour: Colour, factor: number): Colour {
  return [colour[0] * factor, colour[1] * factor, colour[2] * factor];
}

function tinted(colour: Colour, tint: Colour): Colour {
  return [colour[0] * tint[0], colour[1] * tint[1], colour[2] * tint[2]];
}

function clamp(value: number): number {
  return value < 0 ? 0 : value > 255 ? 255 : value;
}
