// The light of a scene, and the kinds of ground it falls on.

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

export type Ground = 'beach' | 'meadow' | 'hills' | 'dunes' | 'harbour';

/** `rgb(…)` or `rgba(…)` of a colour. */
export function css(colour: Colour, alpha = 1): string {
  const [red, green, blue] = colour.map((value) => Math.max(0, Math.min(255, Math.round(value))));
  return `rgba(${red}, ${green}, ${blue}, ${alpha})`;
}

export function mix(a: Colour, b: Colour, part: number): Colour {
  return [a[0] + (b[0] - a[0]) * part, a[1] + (b[1] - a[1]) * part, a[2] + (b[2] - a[2]) * part];
}

/** A colour made darker (below 1) or lighter. */
export function scaled(colour: Colour, factor: number): Colour {
  return [colour[0] * factor, colour[1] * factor, colour[2] * factor];
}

/** A colour of a thing as it looks in a light. */
export function litBy(colour: Colour, { tint }: Pick<Light, 'tint'>): Colour {
  return [colour[0] * tint[0], colour[1] * tint[1], colour[2] * tint[2]];
}
