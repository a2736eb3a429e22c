// How well a picture of a face shows who it is, and what its expression is: from the mesh of points that a model laid over
// it, and from its pixels. The points are numbered as in the 468-point face mesh of Y. Kartynnik et al., 2019.

type Point = readonly (number | undefined)[];

export interface Expression {
  /** 0 to 1 each. */
  smile: number;
  eyesOpen: number;
}

/** Corners and lids of an eye: outer corner, inner corner, upper lid, lower lid. */
const EYES = [
  [33, 133, 159, 145],
  [263, 362, 386, 374],
] as const;
const MOUTH = { left: 61, right: 291, upper: 13, lower: 14 };
const FACE = { top: 10, chin: 152 };

/** Lids so far apart, as a part of the eye's width, are shut or wide open. */
const SHUT_EYES_RATIO = 0.22;
const OPEN_EYES_RATIO = 0.32;

/** Smile and open eyes. `happy` is what a model of expressions says, 0 to 1. */
export function expressionOf(mesh: readonly Point[], happy: number): Expression {
  const at = (i: number): readonly [number, number] => [mesh[i]?.[0] ?? 0, mesh[i]?.[1] ?? 0];
  const apart = (a: number, b: number) => Math.hypot(at(a)[0] - at(b)[0], at(a)[1] - at(b)[1]);
  // Of a face turned away the nearer eye tells.
  const lids = Math.max(
    ...EYES.map(([outer, inner, upper, lower]) => apart(upper, lower) / (apart(outer, inner) || 1)),
  );
  const [down, across] = [
    [at(FACE.chin)[0] - at(FACE.top)[0], at(FACE.chin)[1] - at(FACE.top)[1]] as const,
    apart(MOUTH.left, MOUTH.right) || 1,
  ];
  const downLength = Math.hypot(...down) || 1;
  const middle = [(at(13)[0] + at(14)[0]) / 2, (at(13)[1] + at(14)[1]) / 2] as const;
  const corners = [(at(MOUTH.left)[0] + at(MOUTH.right)[0]) / 2, (at(MOUTH.left)[1] + at(MOUTH.right)[1]) / 2] as const;
  // How far the corners of the mouth lie above its middle, and how wide it is against the eyes.
  const lift = ((middle[0] - corners[0]) * down[0] + (middle[1] - corners[1]) * down[1]) / downLength / across;
  const wide = across / (apart(33, 263) || 1);
  const gape = apart(MOUTH.upper, MOUTH.lower) / across;
  const score = 30 * (lift - 0.03) + 12 * (wide - 0.645) + 4 * happy - 8 * Math.max(0, gape - 0.12);
  return {
    smile: 1 / (1 + Math.exp(-score)),
    eyesOpen: between((lids - SHUT_EYES_RATIO) / (OPEN_EYES_RATIO - SHUT_EYES_RATIO)),
  };
}

/** Where the face looks, in degrees: to the image's right, up, tilted clockwise. */
export interface Pose {
  yaw: number;
  pitch: number;
  roll: number;
}

export interface Seen {
  /** Height of the face in pixels of the picture. */
  pixels: number;
  /** 0 to 1, from `sharpnessOf`. */
  sharpness: number;
  /** Mean brightness of the face, 0 to 1. */
  light: number;
  pose: Pose;
  /** How sure the model is that it sees a whole face, 0 to 1: one that is covered is less so. */
  sure: number;
}

/** A face of this height shows all that the model can use. */
const ENOUGH_PIXELS = 110;

/** How well a face shows who it is, 0 to 1: the weakest of size, sharpness, light and pose weighs most. */
export function qualityOf({ pixels, sharpness, light, pose, sure }: Seen): number {
  const size = between(Math.log2(pixels / 16) / Math.log2(ENOUGH_PIXELS / 16));
  const lit = between(Math.min(light / 0.2, (1 - light) / 0.12));
  const facing = between(1.15 - Math.hypot(pose.yaw, pose.pitch * 0.8) / 75);
  const parts = [size, between(0.25 + sharpness), lit, facing, between(sure * 1.2)];
  return Math.min(...parts) * 0.5 + 0.5 * parts.reduce((product, value) => product * value, 1) ** (1 / parts.length);
}

/**
 * How sharp a grey picture of a face is, 0 to 1: the variance of its Laplacian against the variance of its light
 * (J. L. Pech-Pacheco et al., 2000).
 */
export function sharpnessOf(grey: Uint8Array, width: number, height: number): number {
  let [sum, squares, laplacian, count] = [0, 0, 0, 0];
  for (let y = 1; y < height - 1; y++)
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      const value = grey[i] ?? 0;
      const edge =
        4 * value - (grey[i - 1] ?? 0) - (grey[i + 1] ?? 0) - (grey[i - width] ?? 0) - (grey[i + width] ?? 0);
      sum += value;
      squares += value * value;
      laplacian += edge * edge;
      count += 1;
    }
  if (count === 0) return 0;
  const variance = squares / count - (sum / count) ** 2;
  return between(Math.sqrt(laplacian / count / (variance + 20)) * 2);
}

function between(value: number): number {
  return Math.min(1, Math.max(0, value));
}
