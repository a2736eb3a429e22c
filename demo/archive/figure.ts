// A person in a scene: the portrait, and below its shoulders a body drawn to fit, in the light and air of the scene.

import { createCanvas, type Canvas } from '@napi-rs/canvas';
import { css, mix, scaled, type Colour, type Light } from './light';
import { polygon } from './props';
import type { Portrait } from './portraits';
import type { Random } from './random';
import type { Context } from './textures';

export const POSES = ['still', 'reel', 'raised', 'hips', 'working'] as const;
export type Pose = (typeof POSES)[number];
const HOLDS_A_LINE: ReadonlySet<Pose> = new Set(['reel', 'raised']);

/** Heads that a standing person is high (a common measure of figure drawing), and where its joints are, from the top. */
const HEADS = 7.3;
const JOINTS = { waist: 2.85, hip: 3.95, knee: 5.5, foot: 7.15 };
/** The face that a portrait tells of is this part of the head's height. */
const FACE_OF_HEAD = 0.86;
const ABOVE_FACE = 0.12;

export interface Figure {
  canvas: Canvas;
  /** Where the canvas is to be drawn. */
  left: number;
  top: number;
  /** The face in the picture, in pixels. */
  face: { x: number; y: number; w: number; h: number };
  /** Where a hand holds a line, in the picture; undefined when none does. */
  hand: { x: number; y: number } | undefined;
  foot: number;
  height: number;
}

export interface Placed {
  portrait: Portrait;
  pose: Pose;
  /** The middle of the body, and where the feet stand (below the picture for those who are near). */
  x: number;
  foot: number;
  /** Of the whole person, in pixels. */
  height: number;
  light: Light;
  /** 0 near, 1 lost in the haze. */
  far: number;
  /** The height of the picture: nothing is drawn below it. */
  bottom: number;
  /** From which side the light comes. */
  lightFrom: -1 | 1;
}

const TROUSERS: readonly Colour[] = [
  [52, 66, 96],
  [44, 46, 54],
  [122, 104, 80],
  [84, 88, 82],
  [66, 54, 48],
  [96, 110, 132],
];
const SHOES: readonly Colour[] = [
  [40, 34, 30],
  [92, 62, 40],
  [214, 210, 202],
  [60, 64, 70],
];

/** Draws a person on a canvas of its own. */
export function drawFigure(placed: Placed, random: Random): Figure {
  const { portrait, pose, x, foot, height, bottom } = placed;
  const { shot, image } = portrait;
  const head = shot.face.h / FACE_OF_HEAD;
  const scale = height / (HEADS * head);
  const crown = shot.face.y - head * ABOVE_FACE;
  const middle = (portrait.left + portrait.right) / 2;
  // In pixels of the portrait: where its left upper corner lies in the picture.
  const [originX, originY] = [x - middle * scale, foot - HEADS * head * scale - crown * scale];
  const margin = head * 1.6;
  const canvasTop = Math.floor(originY - 4);
  const canvasLeft = Math.floor(originX - margin * scale);
  const canvas = createCanvas(
    Math.max(4, Math.ceil((shot.width + margin * 2) * scale)),
    Math.max(4, Math.ceil(Math.min(foot + height * 0.03, bottom) - canvasTop)),
  );
  const context = canvas.getContext('2d');
  context.translate(originX - canvasLeft, originY - canvasTop);
  context.scale(scale, scale);
  const at = (heads: number) => crown + heads * head;
  const wear = { trousers: random.pick(TROUSERS), shoes: random.pick(SHOES), stance: random.between(0.1, 0.2) };
  legs(context, portrait, at, wear);
  lowerTorso(context, portrait, at);
  const hands = arms(context, portrait, at, pose, 'behind');
  context.drawImage(image, 0, 0);
  arms(context, portrait, at, pose, 'before');
  context.setTransform(1, 0, 0, 1, 0, 0);
  lightOver(context, canvas, placed);
  const place = ({ x: px, y: py }: { x: number; y: number }) => ({ x: originX + px * scale, y: originY + py * scale });
  return {
    canvas,
    left: canvasLeft,
    top: canvasTop,
    face: { ...place(shot.face), w: shot.face.w * scale, h: shot.face.h * scale },
    hand: HOLDS_A_LINE.has(pose) ? place(hands) : undefined,
    foot,
    height,
  };
}

type At = (heads: number) => number;

/** A rounded limb, lit along its length. */
function limb(
  context: Context,
  from: readonly [number, number],
  to: readonly [number, number],
  widths: readonly [number, number],
  colour: Colour,
): void {
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
  const length = Math.hypot(dx, dy) || 1;
  const [nx, ny] = [-dy / length, dx / length];
  const [w0, w1] = [widths[0] / 2, widths[1] / 2];
  const across = context.createLinearGradient(
    from[0] - nx * w0,
    from[1] - ny * w0,
    from[0] + nx * w0,
    from[1] + ny * w0,
  );
  across.addColorStop(0, css(scaled(colour, 0.72)));
  across.addColorStop(0.45, css(scaled(colour, 1.05)));
  across.addColorStop(1, css(scaled(colour, 0.62)));
  context.fillStyle = across;
  context.beginPath();
  const angle = Math.atan2(dy, dx);
  context.arc(from[0], from[1], w0, angle + Math.PI / 2, angle - Math.PI / 2);
  context.arc(to[0], to[1], w1, angle - Math.PI / 2, angle + Math.PI / 2);
  context.closePath();
  context.fill();
}

function legs(
  context: Context,
  { left, right }: Portrait,
  at: At,
  { trousers, shoes, stance }: { trousers: Colour; shoes: Colour; stance: number },
): void {
  const across = right - left;
  const middle = (left + right) / 2;
  for (const side of [-1, 1]) {
    const [hip, knee, foot] = [
      middle + side * across * 0.13,
      middle + side * across * stance * 0.95,
      middle + side * across * stance * 1.1,
    ];
    limb(context, [hip, at(JOINTS.hip)], [knee, at(JOINTS.knee)], [across * 0.32, across * 0.24], trousers);
    limb(
      context,
      [knee, at(JOINTS.knee)],
      [foot, at(JOINTS.foot - 0.12)],
      [across * 0.24, across * 0.18],
      scaled(trousers, 0.94),
    );
    context.fillStyle = css(shoes);
    context.beginPath();
    context.ellipse(foot + side * across * 0.05, at(JOINTS.foot), across * 0.15, across * 0.07, 0, 0, 7);
    context.fill();
  }
  const belt = context.createLinearGradient(left, 0, right, 0);
  belt.addColorStop(0.2, css(scaled(trousers, 0.7)));
  belt.addColorStop(0.5, css(trousers));
  belt.addColorStop(0.8, css(scaled(trousers, 0.65)));
  polygon(
    context,
    [
      [middle - across * 0.3, at(JOINTS.hip - 0.8)],
      [middle + across * 0.3, at(JOINTS.hip - 0.8)],
      [middle + across * 0.31, at(JOINTS.hip + 0.2)],
      [middle, at(JOINTS.hip + 0.32)],
      [middle - across * 0.31, at(JOINTS.hip + 0.2)],
    ],
    belt,
  );
}

/** The cloth below the lower edge: the portrait mirrored, so that its pattern goes on, within the outline of a body. */
function lowerTorso(context: Context, { shot, image, left, right, cloth }: Portrait, at: At): void {
  const across = right - left;
  const middle = (left + right) / 2;
  const edge = shot.height - 2;
  const hem = at(JOINTS.hip - 0.25);
  context.save();
  context.beginPath();
  context.moveTo(middle - across * 0.39, edge - 3);
  context.bezierCurveTo(
    middle - across * 0.36,
    at(JOINTS.waist - 0.3),
    middle - across * 0.32,
    at(JOINTS.waist),
    middle - across * 0.33,
    hem,
  );
  context.quadraticCurveTo(middle, hem + (hem - edge) * 0.06, middle + across * 0.33, hem);
  context.bezierCurveTo(
    middle + across * 0.32,
    at(JOINTS.waist),
    middle + across * 0.36,
    at(JOINTS.waist - 0.3),
    middle + across * 0.37,
    edge - 3,
  );
  context.clip();
  context.fillStyle = css(cloth);
  context.fillRect(left, edge - 4, across, hem - edge + 200);
  // Twice, since one portrait may not reach down to the hem.
  const part = Math.round(shot.height * 0.24);
  for (let y = edge, flipped = true; y < hem + 60; y += part - 1, flipped = !flipped) {
    context.save();
    context.translate(0, flipped ? y + part : y);
    context.scale(1, flipped ? -1 : 1);
    context.drawImage(image, 0, shot.height - part - 1, shot.width, part, 0, 0, shot.width, part);
    context.restore();
  }
  const sides = context.createLinearGradient(middle - across * 0.39, 0, middle + across * 0.39, 0);
  sides.addColorStop(0, 'rgba(0,0,0,0.3)');
  sides.addColorStop(0.28, 'rgba(0,0,0,0.05)');
  sides.addColorStop(0.6, 'rgba(0,0,0,0)');
  sides.addColorStop(1, 'rgba(0,0,0,0.34)');
  context.fillStyle = sides;
  context.fillRect(left, edge, across, hem - edge + 200);
  context.restore();
}

/** Elbow and hand of each side by pose: across in parts of the width from the middle, down in heads. */
const ARMS: Record<
  Pose,
  { elbow: readonly [number, number]; hand: readonly [number, number]; before: boolean; lead?: -1 | 1 }
> = {
  still: { elbow: [0.46, 2.75], hand: [0.42, 3.95], before: false },
  hips: { elbow: [0.6, 2.7], hand: [0.32, 3.25], before: false },
  reel: { elbow: [0.5, 2.72], hand: [0.1, 2.72], before: true },
  raised: { elbow: [0.56, 2.6], hand: [0.66, 1.55], before: true, lead: 1 },
  working: { elbow: [0.54, 2.75], hand: [0.26, 3.15], before: true },
};

/** Draws the arms that are behind or before the body. Returns where a hand is that may hold something. */
function arms(
  context: Context,
  portrait: Portrait,
  at: At,
  pose: Pose,
  layer: 'behind' | 'before',
): { x: number; y: number } {
  const { left, right, shot, sleeve, skin } = portrait;
  const across = right - left;
  const middle = (left + right) / 2;
  const head = at(1) - at(0);
  let held = { x: middle, y: at(JOINTS.waist) };
  for (const side of [-1, 1] as const) {
    const chosen = ARMS[pose].lead !== undefined && ARMS[pose].lead !== side ? 'still' : pose;
    const { elbow, hand, before } = ARMS[chosen];
    const elbowAt = [middle + side * across * elbow[0], at(elbow[1])] as const;
    const handAt = [middle + side * across * hand[0], at(hand[1])] as const;
    if (chosen === pose) held = { x: handAt[0], y: handAt[1] };
    // Upper arms always go on from where the portrait ends, behind it.
    if (layer === 'behind')
      limb(
        context,
        [middle + side * across * 0.425, shot.height - head * 0.18],
        elbowAt,
        [across * 0.15, across * 0.13],
        sleeve,
      );
    if (before !== (layer === 'before')) continue;
    limb(context, elbowAt, handAt, [across * 0.125, across * 0.085], sleeve);
    context.fillStyle = css(scaled(skin, 0.95));
    context.beginPath();
    context.ellipse(handAt[0], handAt[1], across * 0.046, across * 0.078, 0.4 * side, 0, 7);
    context.fill();
  }
  if (layer === 'before' && pose === 'reel') reel(context, held.x - across * 0.1, held.y, across * 0.11);
  return pose === 'reel' ? { x: middle, y: held.y } : held;
}

/** A kite line on its reel. */
function reel(context: Context, x: number, y: number, size: number): void {
  context.strokeStyle = 'rgb(70, 48, 30)';
  context.lineWidth = size * 0.28;
  context.beginPath();
  context.moveTo(x - size * 1.7, y);
  context.lineTo(x + size * 1.7, y);
  context.stroke();
  context.fillStyle = 'rgb(206, 62, 44)';
  context.beginPath();
  context.ellipse(x, y, size * 0.85, size, 0, 0, 7);
  context.fill();
  context.fillStyle = 'rgb(238, 230, 206)';
  context.beginPath();
  context.ellipse(x, y, size * 0.55, size * 0.66, 0, 0, 7);
  context.fill();
}

/** The light of the scene, shadow on the side away from it, air before those who are far. */
function lightOver(context: Context, canvas: Canvas, { light, far, lightFrom }: Placed): void {
  const { width, height } = canvas;
  context.globalCompositeOperation = 'source-atop';
  const strength = light.sun > 0.3 ? 0.16 : 0.08;
  const side = context.createLinearGradient(
    lightFrom < 0 ? width * 0.2 : width * 0.8,
    0,
    lightFrom < 0 ? width * 0.8 : width * 0.2,
    0,
  );
  side.addColorStop(0, css([255, 236, 200], light.sun * 0.22));
  side.addColorStop(0.45, 'rgba(255, 236, 200, 0)');
  side.addColorStop(1, css(scaled(light.cloudShade, 0.25), strength));
  context.fillStyle = side;
  context.fillRect(0, 0, width, height);
  // A dim or coloured light lies over all; what is brighter than day is left to the light from the side.
  const [red, green, blue] = light.tint;
  const dim = 1 - Math.min(1, (red + green + blue) / 3);
  const strongest = Math.max(red, green, blue);
  context.fillStyle = css(
    [(red / strongest) * 60, (green / strongest) * 60, (blue / strongest) * 60],
    Math.min(0.5, dim * 0.75),
  );
  context.fillRect(0, 0, width, height);
  if (far > 0) {
    context.fillStyle = css(mix(light.sky[2], light.sky[1], 0.3), far * 0.5);
    context.fillRect(0, 0, width, height);
  }
  context.globalCompositeOperation = 'source-over';
}

/** The shadow that a figure casts, away from the light, and the dark where it touches the ground. */
export function castShadow(
  context: Context,
  { canvas, left, foot, height }: Figure,
  light: Light,
  lightFrom: -1 | 1,
  bottom: number,
): void {
  if (foot > bottom + height * 0.02) return;
  const middle = left + canvas.width / 2;
  const contact = context.createRadialGradient(0, 0, 0, 0, 0, height * 0.2);
  contact.addColorStop(0, 'rgba(16, 18, 24, 0.5)');
  contact.addColorStop(1, 'rgba(16, 18, 24, 0)');
  context.save();
  context.translate(middle, foot - height * 0.01);
  context.scale(1, 0.16);
  context.fillStyle = contact;
  context.fillRect(-height * 0.2, -height * 0.2, height * 0.4, height * 0.4);
  context.restore();
  if (light.sun <= 0) return;
  const length = light.sun > 0.5 ? 0.9 : 0.4;
  const silhouette = createCanvas(
    Math.max(2, Math.round(canvas.width / 8)),
    Math.max(2, Math.round(canvas.height / 8)),
  );
  const dark = silhouette.getContext('2d');
  dark.drawImage(canvas, 0, 0, silhouette.width, silhouette.height);
  dark.globalCompositeOperation = 'source-in';
  dark.fillStyle = 'rgb(20, 22, 30)';
  dark.fillRect(0, 0, silhouette.width, silhouette.height);
  context.save();
  context.globalAlpha = 0.3;
  // Laid down on the ground: the head falls away from the light.
  context.transform(1, 0, -lightFrom * -length, -0.16, middle, foot);
  context.drawImage(silhouette, -canvas.width / 2, -canvas.height, canvas.width, canvas.height);
  context.restore();
}
