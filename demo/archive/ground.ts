// The ground of a landscape, from the far shore to what lies at one's feet.

import { css, litBy, mix, scaled, type Colour, type Ground, type Light } from './light';
import { noise } from './noise';
import type { Random } from './random';
import { boat, house, lighthouse, tree, tuft } from './props';
import { grass, rough, type Context } from './textures';

export interface Land {
  ground: Ground;
  light: Light;
  width: number;
  height: number;
  horizon: number;
  sunAt: number;
}

/** Paints the ground of a landscape below (and a little above) its horizon. */
export function paintGround(context: Context, land: Land, random: Random): void {
  GROUNDS[land.ground](context, land, random);
  shine(context, land);
}

/** How far down the quay of the harbour may begin, as a part of what is below the horizon. */
export const QUAY = 0.5;

const GRASS_GREEN: Colour = [104, 142, 62];
const DUNE_GREEN: Colour = [142, 148, 92];
const HILL_GREEN: Colour = [116, 140, 72];
const DUNE_SAND: Colour = [214, 196, 152];

const GROUNDS: Record<Ground, (context: Context, land: Land, random: Random) => void> = {
  beach(context, land, random) {
    const { height, horizon, width } = land;
    farShore(context, land, random, 0.02);
    const edge = horizon + (height - horizon) * random.between(0.14, 0.34);
    sea(context, land, edge + height * 0.02, random);
    boats(context, land, edge, random, random.int(0, 4));
    sand(context, land, edge, random);
    foam(context, width, edge, height, random);
    if (random.chance(0.45)) tufts(context, land, random, random.int(3, 9));
  },
  dunes(context, land, random) {
    const { height, horizon } = land;
    if (random.chance(0.6)) sea(context, land, horizon + (height - horizon) * 0.12, random);
    const depth = height - horizon;
    for (const part of [0.06, 0.2, 0.45]) {
      const top = horizon + depth * part;
      ridge(
        context,
        land,
        { top, roll: depth * (0.16 + part * 0.2), wave: random.between(1.2, 2.6) },
        DUNE_SAND,
        random,
      );
      tufts(context, { ...land, horizon: top }, random, random.int(12, 26), 0.5 + part);
    }
    sandTexture(context, land, horizon + depth * 0.3);
    tufts(context, land, random, random.int(8, 18));
  },
  meadow(context, land, random) {
    farHills(context, land, random, 2, 0.05);
    treeLine(context, land, random);
    turf(context, land, land.horizon + (land.height - land.horizon) * 0.03, GRASS_GREEN, random);
    if (random.chance(0.5)) flowers(context, land, random);
  },
  hills(context, land, random) {
    const { height, horizon } = land;
    farHills(context, land, random, 4, 0.14);
    const depth = height - horizon;
    ridge(context, land, { top: horizon + depth * 0.05, roll: depth * 0.22, wave: 1.3 }, HILL_GREEN, random);
    treeLine(context, { ...land, horizon: horizon + depth * 0.02 }, random, 8);
    turf(context, land, horizon + depth * 0.22, HILL_GREEN, random);
  },
  harbour(context, land, random) {
    const { width, height, horizon, light } = land;
    farShore(context, land, random, 0.03);
    town(context, land, random);
    const edge = horizon + (height - horizon) * random.between(0.34, QUAY);
    sea(context, land, edge + 4, random);
    lighthouse(
      context,
      width * random.pick([0.12, 0.2, 0.8, 0.9]),
      horizon + height * 0.012,
      height * random.between(0.14, 0.22),
      light,
    );
    boats(context, land, edge, random, random.int(3, 6));
    quay(context, land, edge, random);
  },
};

function fillDown(
  context: Context,
  { width, height }: Land,
  top: number,
  stops: readonly (readonly [number, Colour])[],
): void {
  const gradient = context.createLinearGradient(0, top, 0, height);
  for (const [at, colour] of stops) gradient.addColorStop(at, css(colour));
  context.fillStyle = gradient;
  context.fillRect(0, top, width, height - top);
}

interface Outline {
  top: number;
  /** How much it rises and falls. */
  roll: number;
  /** How often it does. */
  wave: number;
}

/** The outline of hills or dunes, shaped by noise, filled down to the lower edge. */
function silhouette(
  context: Context,
  { width, height }: Land,
  { top, roll, wave }: Outline,
  fill: Context['fillStyle'],
  random: Random,
): void {
  const offset = random.between(0, 250);
  const steps = 160;
  context.fillStyle = fill;
  context.beginPath();
  context.moveTo(0, height);
  for (let i = 0; i <= steps; i++)
    context.lineTo((width * i) / steps, top - roll * (noise(offset + (i / steps) * 26 * wave, offset) - 0.42));
  context.lineTo(width, height);
  context.fill();
}

/** A dune or hill that is lit from above. */
function ridge(context: Context, land: Land, outline: Outline, colour: Colour, random: Random): void {
  const { light, height } = land;
  const gradient = context.createLinearGradient(0, outline.top - outline.roll * 0.5, 0, height);
  gradient.addColorStop(0, css(litBy(mix(colour, light.sky[2], 0.3), light)));
  gradient.addColorStop(0.35, css(litBy(colour, light)));
  gradient.addColorStop(1, css(litBy(scaled(colour, 0.7), light)));
  silhouette(context, land, outline, gradient, random);
}

/** Hills one behind the other, each paler than the one before it. */
function farHills(context: Context, land: Land, random: Random, count: number, rise: number): void {
  const { light, height, horizon } = land;
  for (let i = 0; i < count; i++) {
    const far = 1 - (i + 0.5) / count;
    const colour = mix(litBy([86, 116, 92], light), light.sky[2], 0.25 + 0.6 * far);
    const outline = {
      top: horizon + height * 0.012 * i - height * rise * far * 0.6,
      roll: height * rise * (0.5 + far),
      wave: 0.8 + i * 0.5,
    };
    silhouette(context, land, outline, css(colour), random);
  }
}

function farShore(context: Context, land: Land, random: Random, rise: number): void {
  const { light, height, horizon } = land;
  const colour = mix(litBy([98, 116, 112], light), light.sky[2], 0.6);
  if (random.chance(0.8))
    silhouette(context, land, { top: horizon, roll: height * rise, wave: 0.7 }, css(colour), random);
}

function sea(context: Context, land: Land, bottom: number, random: Random): void {
  const { width, light, horizon, sunAt } = land;
  const gradient = context.createLinearGradient(0, horizon, 0, bottom);
  const deep = litBy([52, 104, 122], light);
  gradient.addColorStop(0, css(mix(deep, light.sky[2], 0.55)));
  gradient.addColorStop(0.35, css(mix(deep, light.sky[1], 0.25)));
  gradient.addColorStop(1, css(mix(deep, light.sky[1], 0.1)));
  context.fillStyle = gradient;
  context.fillRect(0, horizon, width, bottom - horizon);
  const depth = bottom - horizon;
  for (let i = 0; i < 260; i++) {
    const down = random.next() ** 1.6;
    const y = horizon + depth * down;
    const length = width * (0.006 + 0.05 * down) * random.between(0.5, 1.5);
    context.fillStyle = random.chance(0.45) ? css(light.cloud, 0.1 + 0.25 * down) : css(scaled(deep, 0.7), 0.2);
    context.fillRect(width * random.between(-0.05, 1), y, length, Math.max(0.6, depth * 0.011 * (0.25 + down)));
  }
  if (light.sun < 0.1) return;
  // The path that the sun draws on the water.
  context.globalCompositeOperation = 'screen';
  for (let i = 0; i < 200 * light.sun; i++) {
    const down = random.next();
    const spread = width * (0.015 + 0.09 * down);
    context.fillStyle = css([255, 232, 180], random.between(0.15, 0.6));
    context.fillRect(
      width * sunAt + random.between(-spread, spread),
      horizon + depth * down,
      width * random.between(0.006, 0.03) * (0.4 + down),
      Math.max(0.8, depth * 0.012 * (0.3 + down)),
    );
  }
  context.globalCompositeOperation = 'source-over';
}

function sand(context: Context, land: Land, top: number, random: Random): void {
  const { light, width, height } = land;
  fillDown(context, land, top, [
    [0, litBy([150, 134, 108], light)],
    [0.14, litBy([192, 172, 134], light)],
    [0.3, litBy([222, 202, 160], light)],
    [1, litBy([198, 176, 134], light)],
  ]);
  sandTexture(context, land, top);
  // Wet sand mirrors the sky.
  context.globalAlpha = 0.5;
  fillBand(context, width, top, (height - top) * 0.14, css(light.sky[1], 0.7), css(light.sky[1], 0));
  context.globalAlpha = 1;
  for (let i = 0; i < 46; i++) {
    const down = random.next() ** 0.6;
    const size = height * 0.004 * (0.3 + down * 1.6);
    context.fillStyle = css(litBy(random.chance(0.3) ? [120, 104, 84] : [168, 148, 114], light), 0.55);
    context.beginPath();
    context.ellipse(width * random.next(), top + (height - top) * (0.2 + 0.8 * down), size * 1.7, size * 0.6, 0, 0, 7);
    context.fill();
  }
}

function fillBand(context: Context, width: number, top: number, depth: number, from: string, to: string): void {
  const gradient = context.createLinearGradient(0, top, 0, top + depth);
  gradient.addColorStop(0, from);
  gradient.addColorStop(1, to);
  context.fillStyle = gradient;
  context.fillRect(0, top, width, depth);
}

/** Roughness in perspective: strips of a texture that grow towards the viewer. */
function sandTexture(context: Context, { width, height }: Land, top: number): void {
  const image = rough();
  context.globalCompositeOperation = 'overlay';
  const strips = 16;
  for (let i = 0; i < strips; i++) {
    const [from, to] = [(i / strips) ** 1.7, ((i + 1) / strips) ** 1.7];
    const [y, depth] = [top + (height - top) * from, (height - top) * (to - from) + 1];
    const across = Math.max(40, 256 * (1 - from * 0.6));
    context.globalAlpha = 0.35 + 0.3 * from;
    for (let x = 0, n = 0; x < width; x += width / 3, n++)
      context.drawImage(
        image,
        (i * 37 + n * 71) % Math.max(1, 256 - across),
        (i * 16) % 200,
        across,
        40,
        x,
        y,
        width / 3 + 1,
        depth,
      );
  }
  context.globalAlpha = 1;
  context.globalCompositeOperation = 'source-over';
}

/** Where waves run out. */
function foam(context: Context, width: number, edge: number, height: number, random: Random): void {
  for (let line = 0; line < 3; line++) {
    const offset = random.between(0, 200);
    const y = edge - height * 0.018 * line;
    context.strokeStyle = css([248, 250, 248], 0.75 - 0.2 * line);
    context.lineWidth = height * (0.006 - 0.0015 * line);
    context.beginPath();
    for (let i = 0; i <= 60; i++)
      context.lineTo((width * i) / 60, y + height * 0.018 * (noise(offset + i * 0.9, line * 20) - 0.5));
    context.stroke();
  }
}

function boats(context: Context, land: Land, edge: number, random: Random, count: number): void {
  const { width, horizon, height, light } = land;
  for (let i = 0; i < count; i++) {
    const down = random.next() ** 2 * 0.7;
    const size = height * (0.025 + 0.12 * down);
    boat(context, width * random.next(), horizon + (edge - horizon) * (0.03 + down), size, light, random);
  }
}

/** Grass that begins somewhere and grows larger towards the viewer. */
function turf(context: Context, land: Land, top: number, colour: Colour, random: Random): void {
  const { light, width, height } = land;
  fillDown(context, land, top, [
    [0, litBy(mix(colour, light.sky[2], 0.35), light)],
    [0.2, litBy(mix(colour, [182, 176, 104], 0.3), light)],
    [1, litBy(scaled(colour, 0.62), light)],
  ]);
  const blades = grass(litBy(colour, light));
  const rows = 15;
  for (let i = 1; i <= rows; i++) {
    const down = (i / rows) ** 1.8;
    const size = 4 + height * 0.085 * down;
    const across = size * 5;
    const y = top + (height - top) * down + size * 0.3;
    context.globalAlpha = 0.35 + 0.5 * down;
    for (let x = -across * random.next(); x < width; x += across) context.drawImage(blades, x, y - size, across, size);
  }
  context.globalAlpha = 1;
}

function tufts(context: Context, land: Land, random: Random, count: number, scale = 1): void {
  const { light, width, height, horizon } = land;
  const colour = litBy(DUNE_GREEN, light);
  const downs = Array.from({ length: count }, () => random.next()).sort((a, b) => a - b);
  for (const down of downs)
    tuft(
      context,
      width * random.next(),
      horizon + (height - horizon) * (0.1 + 0.92 * down),
      height * (0.015 + 0.07 * down) * scale,
      colour,
      random,
    );
}

function flowers(context: Context, { width, height, horizon, light }: Land, random: Random): void {
  const colour = random.pick<Colour>([
    [246, 240, 226],
    [240, 206, 70],
    [206, 72, 60],
    [150, 110, 190],
  ]);
  for (let i = 0; i < 260; i++) {
    const down = random.next() ** 0.7;
    const size = height * 0.0045 * (0.15 + down);
    context.fillStyle = css(litBy(colour, light), 0.85);
    context.beginPath();
    context.arc(width * random.next(), horizon + (height - horizon) * (0.1 + 0.9 * down), size, 0, 7);
    context.fill();
  }
}

function treeLine(context: Context, land: Land, random: Random, count = random.int(8, 26)): void {
  const { light, width, height, horizon } = land;
  for (let i = 0; i < count; i++) {
    const size = height * random.between(0.025, 0.07);
    const colour = mix(litBy([62, 92, 56], light), light.sky[2], random.between(0.15, 0.4));
    tree(context, width * random.next(), horizon + height * 0.012, size, colour, random);
  }
  if (random.chance(0.4))
    house(context, width * random.between(0.1, 0.9), horizon + height * 0.012, height * 0.045, light, random);
}

function town(context: Context, { width, height, horizon, light }: Land, random: Random): void {
  const from = width * random.between(0, 0.5);
  for (let i = 0; i < 14; i++)
    house(
      context,
      from + width * 0.034 * i * random.between(0.8, 1.1),
      horizon + height * 0.008,
      height * random.between(0.025, 0.05),
      light,
      random,
    );
}

function quay(context: Context, land: Land, edge: number, random: Random): void {
  const { width, height, light } = land;
  fillDown(context, land, edge, [
    [0, litBy([176, 168, 156], light)],
    [0.5, litBy([152, 146, 136], light)],
    [1, litBy([120, 116, 110], light)],
  ]);
  context.fillStyle = css(litBy([92, 88, 82], light));
  context.fillRect(0, edge - height * 0.008, width, height * 0.02);
  context.strokeStyle = css(litBy([84, 80, 76], light), 0.5);
  context.lineWidth = Math.max(1, height / 900);
  for (let i = -14; i <= 14; i++) {
    context.beginPath();
    context.moveTo(width / 2 + (i * width) / 11, edge);
    context.lineTo(width / 2 + ((i * width) / 11) * 3.4, height);
    context.stroke();
  }
  for (let i = 1; i < 7; i++) {
    const y = edge + (height - edge) * (i / 7) ** 1.7;
    context.strokeRect(-5, y, width + 10, 0.5);
  }
  sandTexture(context, land, edge);
  for (let i = 0; i < 4; i++) {
    const x = width * (0.1 + 0.27 * i + random.between(-0.04, 0.04));
    const size = height * 0.028;
    context.fillStyle = css(litBy([44, 46, 50], light));
    context.beginPath();
    context.ellipse(x, edge + size * 0.2, size * 0.42, size, 0, Math.PI, 0);
    context.fill();
  }
}

/** The sun warms what faces it. */
function shine(context: Context, { light, width, height, horizon, sunAt }: Land): void {
  if (light.sun < 0.3) return;
  const warm = context.createRadialGradient(width * sunAt, horizon, 0, width * sunAt, horizon, width * 0.8);
  warm.addColorStop(0, css([255, 214, 140], 0.5 * light.sun));
  warm.addColorStop(1, css([255, 200, 130], 0));
  context.globalCompositeOperation = 'overlay';
  context.fillStyle = warm;
  context.fillRect(0, horizon, width, height - horizon);
  context.globalCompositeOperation = 'source-over';
}
