// The sky: its colours from top to horizon, the sun, clouds that flatten and crowd towards the horizon.

import type { Canvas } from '@napi-rs/canvas';
import { css, type Light } from './light';
import type { Random } from './random';
import { cirrus, cloud, CLOUDS, type Context } from './textures';

export interface Sky {
  light: Light;
  width: number;
  /** Down to where it is seen, in pixels. */
  horizon: number;
  /** Where the sun is, as a part of the width; also when it is hidden. */
  sunAt: number;
}

/** How many clouds there are, and how much of the sky they cover, by light. */
const COVER: Record<string, { clouds: readonly [number, number]; alpha: number; veil: number }> = {
  morning: { clouds: [3, 9], alpha: 0.85, veil: 0.1 },
  noon: { clouds: [5, 14], alpha: 0.95, veil: 0 },
  clear: { clouds: [0, 4], alpha: 0.75, veil: 0 },
  golden: { clouds: [3, 10], alpha: 0.85, veil: 0.1 },
  dusk: { clouds: [4, 12], alpha: 0.85, veil: 0.1 },
  overcast: { clouds: [16, 24], alpha: 0.6, veil: 0.35 },
  storm: { clouds: [18, 28], alpha: 0.85, veil: 0.2 },
  mist: { clouds: [3, 8], alpha: 0.35, veil: 0.5 },
  night: { clouds: [2, 7], alpha: 0.55, veil: 0 },
};

export function paintSky(context: Context, { light, width, horizon, sunAt }: Sky, random: Random): void {
  const gradient = context.createLinearGradient(0, 0, 0, horizon);
  light.sky.forEach((colour, i) => gradient.addColorStop([0, 0.55, 1][i] ?? 1, css(colour)));
  context.fillStyle = gradient;
  context.fillRect(0, 0, width, horizon + 2);
  if (light.name === 'night') stars(context, width, horizon, random);
  const cover = COVER[light.name] ?? { clouds: [3, 9], alpha: 0.8, veil: 0 };
  if (random.chance(0.5)) {
    context.globalAlpha = 0.5;
    streak(context, cirrus(light), width, horizon, random);
  }
  glow(context, { light, width, horizon, sunAt });
  const count = random.int(...cover.clouds);
  // The far ones first: small, flat and near the horizon.
  const heights = Array.from({ length: count }, () => random.next() ** 1.3).sort((a, b) => b - a);
  for (const down of heights) {
    const size = width * random.between(0.22, 0.6) * (1.25 - down);
    const flat = 0.52 - 0.3 * down;
    context.globalAlpha = cover.alpha * (1 - 0.45 * down) * random.between(0.7, 1);
    const x = width * random.between(-0.15, 1) - size * 0.1;
    drawTurned(
      context,
      cloud(random.int(0, CLOUDS - 1), light),
      x,
      horizon * (down * 0.88 - 0.1),
      size,
      size * flat,
      random,
    );
  }
  context.globalAlpha = 1;
  haze(context, light, width, horizon, cover.veil);
}

function streak(context: Context, image: Canvas, width: number, horizon: number, random: Random): void {
  for (let i = 0; i < 3; i++)
    context.drawImage(
      image,
      width * random.between(-0.4, 0.5),
      horizon * random.between(-0.1, 0.5),
      width * random.between(0.6, 1.2),
      horizon * random.between(0.15, 0.4),
    );
}

function drawTurned(
  context: Context,
  image: Canvas,
  x: number,
  y: number,
  width: number,
  height: number,
  random: Random,
): void {
  context.save();
  context.translate(x + width / 2, y);
  if (random.chance(0.5)) context.scale(-1, 1);
  context.drawImage(image, -width / 2, 0, width, height);
  context.restore();
}

/** The sun, low in golden light, and what it does to the air around it. */
function glow(context: Context, { light, width, horizon, sunAt }: Sky): void {
  if (light.sun <= 0) return;
  const low = light.sun > 0.5;
  const [x, y] = [width * sunAt, horizon * (low ? 0.86 : 0.12)];
  const air = context.createRadialGradient(x, y, 0, x, y, width * (low ? 0.75 : 0.5));
  air.addColorStop(0, css([255, 244, 214], 0.85 * light.sun));
  air.addColorStop(0.25, css([255, 222, 160], 0.4 * light.sun));
  air.addColorStop(1, css([255, 210, 150], 0));
  context.globalCompositeOperation = 'screen';
  context.fillStyle = air;
  context.fillRect(0, 0, width, horizon + 2);
  context.globalCompositeOperation = 'source-over';
  if (!low) return;
  context.fillStyle = css([255, 250, 228], 0.95);
  context.beginPath();
  context.arc(x, y, width * 0.016, 0, Math.PI * 2);
  context.fill();
}

/** Air that lies before what is far, thicker towards the horizon. */
function haze(context: Context, light: Light, width: number, horizon: number, veil: number): void {
  const gradient = context.createLinearGradient(0, horizon * 0.4, 0, horizon);
  gradient.addColorStop(0, css(light.sky[2], veil * 0.6));
  gradient.addColorStop(1, css(light.sky[2], Math.min(0.85, 0.45 + veil)));
  context.fillStyle = gradient;
  context.fillRect(0, horizon * 0.4, width, horizon * 0.6 + 2);
}

function stars(context: Context, width: number, horizon: number, random: Random): void {
  for (let i = 0; i < 130; i++) {
    context.fillStyle = css([230, 235, 255], random.between(0.15, 0.8));
    const size = width * random.between(0.0004, 0.0011);
    context.fillRect(width * random.next(), horizon * random.next() ** 1.4, size, size);
  }
}
