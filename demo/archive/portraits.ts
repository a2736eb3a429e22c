// The portraits of made-up persons: which there are, and what a body drawn below one has to fit.

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { createCanvas, loadImage, type Image } from '@napi-rs/canvas';
import { ROOT } from '@stellin/server/root';
import type { Colour } from './light';
import type { Random } from './random';

export interface Shot {
  file: string;
  identity: string;
  width: number;
  height: number;
  /** Degrees; above 0 the face is turned to the right of the picture. */
  yaw: number;
  face: { x: number; y: number; w: number; h: number };
}

/** A portrait and what is seen at its lower edge, where it ends. */
export interface Portrait {
  shot: Shot;
  image: Image;
  /** From where to where clothes and arms reach at the lower edge. */
  left: number;
  right: number;
  cloth: Colour;
  /** What covers the arms there: cloth or skin. */
  sleeve: Colour;
  skin: Colour;
}

const FOLDER = join(ROOT, 'demo', 'portraits');
const SHOTS = (JSON.parse(readFileSync(join(FOLDER, 'manifest.json'), 'utf8')) as { shots: Shot[] }).shots;
const MAX_KEPT = 40;
const kept = new Map<string, Promise<Portrait>>();

/** A shot of a person; with `turnedTo` (−1 left, 1 right) one that looks there if there is one. */
export function shotOf(person: string, random: Random, turnedTo?: -1 | 1): Shot {
  const shots = SHOTS.filter(({ identity }) => identity === person);
  const turned = turnedTo === undefined ? [] : shots.filter(({ yaw }) => yaw * turnedTo > 12 && yaw * turnedTo < 38);
  return random.pick(turned.length > 0 ? turned : shots);
}

export function portraitOf(shot: Shot): Promise<Portrait> {
  const known = kept.get(shot.file) ?? loadPortrait(shot);
  kept.delete(shot.file);
  kept.set(shot.file, known);
  for (const oldest of kept.keys()) {
    if (kept.size <= MAX_KEPT) break;
    kept.delete(oldest);
  }
  return known;
}

async function loadPortrait(shot: Shot): Promise<Portrait> {
  const image = await loadImage(join(FOLDER, shot.file));
  const canvas = createCanvas(shot.width, shot.height);
  const context = canvas.getContext('2d');
  context.drawImage(image, 0, 0);
  const row = context.getImageData(0, shot.height - 6, shot.width, 1).data;
  const opaque = (x: number) => (row[x * 4 + 3] ?? 0) > 200;
  let [left, right] = [0, shot.width - 1];
  while (left < shot.width / 2 && !opaque(left)) left++;
  while (right > shot.width / 2 && !opaque(right)) right--;
  const average = (x: number, y: number, w: number, h: number): Colour => {
    const { data } = context.getImageData(Math.round(x), Math.round(y), Math.round(w), Math.round(h));
    const sum = [0, 0, 0, 0];
    for (let i = 0; i < data.length; i += 4) {
      if ((data[i + 3] ?? 0) < 200) continue;
      for (let c = 0; c < 3; c++) sum[c] = (sum[c] ?? 0) + (data[i + c] ?? 0);
      sum[3] = (sum[3] ?? 0) + 1;
    }
    const [red = 0, green = 0, blue = 0, count = 0] = sum;
    return count === 0 ? [120, 110, 100] : [red / count, green / count, blue / count];
  };
  const across = right - left;
  const { face } = shot;
  const cloth = average(left + across * 0.3, shot.height - 60, across * 0.4, 56);
  const edge = average(left + across * 0.02, shot.height - 40, across * 0.07, 36);
  const skin = average(face.x + face.w * 0.35, face.y + face.h * 0.45, face.w * 0.3, face.h * 0.15);
  return {
    shot,
    image,
    left,
    right,
    cloth,
    sleeve: apart(edge, skin) < apart(edge, cloth) ? skin : edge,
    skin,
  };
}

/** How different two colours are, whatever their brightness. */
function apart(a: Colour, b: Colour): number {
  const [sumA, sumB] = [a[0] + a[1] + a[2] + 1, b[0] + b[1] + b[2] + 1];
  return a.reduce((sum, value, i) => sum + Math.abs(value / sumA - (b[i] ?? 0) / sumB), 0);
}
