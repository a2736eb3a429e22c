// Painting a planned photo: a backdrop, what stands in it as SVG, the people in front, grain and light over all.

import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import sharp, { type Sharp } from 'sharp';
import { ROOT } from '@stellin/server/root';
import { landscape, paper, room, type Backdrop, type Colour } from './backdrop';
import { canvasFrom, develop, lay, type Development, type Overlay } from './canvas';
import { kiteSvg, paletteOf, type PlacedKite } from './kites';
import type { PlannedPhoto } from './plan';
import { randomOf, type Random } from './random';

/** A face in the finished picture, as parts of its width and height, as it is seen upright. */
export interface PaintedFace {
  person: string;
  /** Left upper corner and size. */
  x: number;
  y: number;
  w: number;
  h: number;
}

export interface PaintedPhoto {
  /** Upright. */
  picture: Sharp;
  faces: PaintedFace[];
}

interface Shot {
  file: string;
  identity: string;
  width: number;
  height: number;
  face: { x: number; y: number; w: number; h: number };
}

const PORTRAITS = join(ROOT, 'demo', 'portraits');
const SHOTS = (JSON.parse(readFileSync(join(PORTRAITS, 'manifest.json'), 'utf8')) as { shots: Shot[] }).shots;
const BACKDROP_PIXELS = 420;

/** Paints a photo. The same plan gives the same picture. */
export async function paintPhoto(photo: PlannedPhoto): Promise<PaintedPhoto> {
  const random = randomOf(`paint ${photo.scene}`);
  const { width, height } = photo;
  const canvas = canvasFrom(backdropOf(photo, random), width, height);
  const kites = placeKites(photo, random);
  lay(canvas, await svgOverlay(width, height, sceneryBehind(photo, kites, random)));
  const figures = await placePeople(photo, random);
  for (const figure of figures.overlays) lay(canvas, figure);
  const before = sceneryBefore(photo, figures.faces.length > 0, random);
  // All of it stands in the lower half.
  const middle = Math.floor(height / 2);
  if (before) lay(canvas, await svgOverlay(width, height - middle, before, middle));
  develop(canvas, developmentOf(photo, random), random.int(1, 2 ** 30));
  const picture = sharp(canvas.pixels, { raw: { width, height, channels: 3 } });
  return { picture: photo.look === 'blurred' ? picture.blur(width / 140) : picture, faces: figures.faces };
}

/** What camera and lab do to the whole picture. */
function developmentOf(photo: PlannedPhoto, random: Random): Development {
  return {
    contrast: random.between(0.96, 1.1),
    saturation: random.between(0.85, 1.12),
    exposure: photo.look === 'dark' ? 0.28 : random.between(0.94, 1.05),
    vignette: photo.setting.kind === 'paper' ? 0 : random.between(0.1, 0.4),
    print: photo.look === 'scan',
    grain: photo.look === 'scan' ? random.between(14, 30) : random.between(5, 13),
  };
}

function backdropOf(photo: PlannedPhoto, random: Random): Backdrop {
  const scale = BACKDROP_PIXELS / Math.max(photo.width, photo.height);
  const [width, height] = [Math.round(photo.width * scale), Math.round(photo.height * scale)];
  const { setting } = photo;
  if (setting.kind === 'outdoors')
    return landscape(width, height, setting.light, setting.ground, setting.horizon, random);
  if (setting.kind === 'paper')
    return paper(
      width,
      height,
      setting.dark
        ? [52, 54, 58]
        : random.pick<Colour>([
            [214, 214, 210],
            [226, 222, 214],
            [190, 198, 200],
          ]),
      random,
    );
  const walls: readonly Colour[] = setting.gallery
    ? [
        [226, 224, 216],
        [204, 212, 214],
        [72, 84, 92],
      ]
    : [
        [214, 202, 178],
        [188, 196, 188],
        [206, 190, 170],
      ];
  return room(
    width,
    height,
    random.pick(walls),
    random.pick<Colour>([
      [138, 104, 70],
      [112, 108, 104],
      [158, 126, 88],
    ]),
    random,
  );
}

function placeKites(photo: PlannedPhoto, random: Random): PlacedKite[] {
  const { width, height, setting, kites, moment } = photo;
  const unit = Math.min(width, height);
  if (setting.kind === 'paper') {
    return kites.map((kind) => ({
      kind,
      x: width / 2,
      y: height * 0.46,
      size: unit * 0.62,
      rotation: random.between(-2, 2),
      colours: paletteOf(random),
    }));
  }
  if (setting.kind === 'room') {
    return kites.map((kind, i) => ({
      kind,
      x: width * ((i + 0.5 + random.between(-0.15, 0.15)) / kites.length),
      y: height * random.between(0.2, 0.34),
      size: unit * random.between(0.24, 0.42),
      rotation: random.between(-20, 20),
      colours: paletteOf(random),
    }));
  }
  const crowd = kites.length > 3 ? 0.5 : 1;
  return kites.map((kind, i) => {
    const near = random.between(0.12, 0.42) * crowd;
    const x = kites.length === 1 ? random.between(0.25, 0.75) : (i + random.between(0.2, 0.8)) / kites.length;
    return {
      kind,
      x: width * (x + moment * random.between(-0.06, 0.06)),
      y: height * setting.horizon * (random.between(0.16, 0.72) + moment * random.between(-0.06, 0.06)),
      size: unit * near,
      rotation: random.between(-24, 24) + moment * random.between(-10, 10),
      colours: paletteOf(random),
    };
  });
}

function sceneryBehind(photo: PlannedPhoto, kites: readonly PlacedKite[], random: Random): string {
  const { width, height, setting } = photo;
  const drawn = kites.map((kite) => kiteSvg(kite, random));
  if (setting.kind === 'paper') {
    const [kite] = kites;
    const shadow = kite
      ? `<g transform="translate(${width * 0.012} ${height * 0.016})" opacity="0.28" filter="url(#soft)"><g filter="url(#black)">${drawn.join('')}</g></g>`
      : '';
    return `<defs><filter id="soft" x="-20%" y="-20%" width="140%" height="140%"><feGaussianBlur stdDeviation="${width / 160}"/></filter><filter id="black"><feColorMatrix values="0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 0 1 0"/></filter></defs>${shadow}${drawn.join('')}${scaleBar(width, height)}`;
  }
  if (setting.kind === 'room')
    return setting.gallery
      ? galleryWalls(width, height, random) + drawn.map((kite, i) => hanger(kites[i], height) + kite).join('')
      : workshopWalls(width, height, random) + drawn.join('');
  const dim = setting.light.tint[0] < 0.5 ? 0.62 : 1;
  const lines = kites.map((kite) => {
    const [x, y] = [width * random.between(0.05, 0.95), height * random.between(setting.horizon + 0.06, 1.02)];
    return `<path d="M${kite.x} ${kite.y} Q${(kite.x + x) / 2} ${(kite.y + y) / 2 + height * 0.08} ${x} ${y}" fill="none" stroke="#20242a" stroke-opacity="0.35" stroke-width="${Math.max(1, width / 1500)}"/>`;
  });
  return `${details(photo, random)}${lines.join('')}<g opacity="${dim}">${drawn.join('')}</g>`;
}

/** Small things that make a place: a lighthouse, sails, far people, fences, gulls. */
function details(photo: PlannedPhoto, random: Random): string {
  const { width, height, setting } = photo;
  if (setting.kind !== 'outdoors') return '';
  const horizon = height * setting.horizon;
  const parts: string[] = [];
  if (setting.ground === 'harbour' || random.chance(0.16))
    parts.push(lighthouse(width * random.between(0.08, 0.92), horizon, height * random.between(0.14, 0.24)));
  if (setting.ground === 'harbour' || (setting.ground === 'beach' && random.chance(0.4))) {
    for (let i = 0; i < random.int(1, 4); i++)
      parts.push(
        boat(
          width * random.next(),
          horizon + height * random.between(0.005, 0.04),
          height * random.between(0.03, 0.08),
          random,
        ),
      );
  }
  if (photo.people.length === 0 || random.chance(0.6)) {
    const count = random.int(3, 26);
    for (let i = 0; i < count; i++) {
      const depth = random.between(0.08, 0.3);
      parts.push(passerBy(width * random.next(), horizon + height * depth, height * (0.02 + depth * 0.24), random));
    }
  }
  for (let i = 0; i < random.int(0, 5); i++) {
    const [x, y, s] = [
      width * random.next(),
      horizon * random.between(0.15, 0.8),
      width * random.between(0.004, 0.011),
    ];
    parts.push(
      `<path d="M${x - s} ${y} q${s / 2} ${-s * 0.7} ${s} 0 q${s / 2} ${-s * 0.7} ${s} 0" fill="none" stroke="#2c3238" stroke-opacity="0.7" stroke-width="${s * 0.18}"/>`,
    );
  }
  return parts.join('');
}

function lighthouse(x: number, base: number, size: number): string {
  const w = size * 0.2;
  const stripes = [0, 1, 2]
    .map(
      (i) =>
        `<rect x="${x - w * 0.45}" y="${base - size * (0.28 + i * 0.26)}" width="${w * 0.9}" height="${size * 0.13}" fill="#b5382c"/>`,
    )
    .join('');
  return `<polygon points="${x - w / 2},${base + size * 0.06} ${x + w / 2},${base + size * 0.06} ${x + w * 0.34},${base - size * 0.84} ${x - w * 0.34},${base - size * 0.84}" fill="#ece7dc"/>${stripes}<rect x="${x - w * 0.3}" y="${base - size}" width="${w * 0.6}" height="${size * 0.16}" fill="#38424a"/><polygon points="${x - w * 0.4},${base - size} ${x + w * 0.4},${base - size} ${x},${base - size * 1.12}" fill="#8e2f26"/><polygon points="${x},${base + size * 0.06} ${x + w / 2},${base + size * 0.06} ${x + w * 0.34},${base - size * 0.84} ${x},${base - size * 0.84}" fill="#00000022"/>`;
}

function boat(x: number, y: number, size: number, random: Random): string {
  const sail = random.pick(['#f3efe4', '#d8cdb4', '#b5482f', '#e8e6de']);
  return `<polygon points="${x - size * 0.5},${y - size * 0.12} ${x + size * 0.5},${y - size * 0.12} ${x + size * 0.34},${y} ${x - size * 0.36},${y}" fill="#3a3330"/><polygon points="${x},${y - size} ${x},${y - size * 0.18} ${x + size * 0.4},${y - size * 0.18}" fill="${sail}"/><polygon points="${x - size * 0.04},${y - size * 0.9} ${x - size * 0.04},${y - size * 0.18} ${x - size * 0.34},${y - size * 0.18}" fill="${sail}" opacity="0.85"/>`;
}

function passerBy(x: number, foot: number, size: number, random: Random): string {
  const coat = random.pick(['#2f4858', '#8c3b2e', '#b98a3a', '#3d5a45', '#5a4a68', '#20242a', '#c9c2b2', '#9a4f63']);
  const skin = random.pick(['#d9b090', '#a8734f', '#7b4f38', '#e6c4a8']);
  const step = size * random.between(0.04, 0.12);
  return `<ellipse cx="${x}" cy="${foot}" rx="${size * 0.24}" ry="${size * 0.04}" fill="#00000030"/><path d="M${x - step} ${foot} L${x} ${foot - size * 0.45} L${x + step} ${foot}" fill="none" stroke="#2b2d33" stroke-width="${size * 0.1}"/><path d="M${x - size * 0.13} ${foot - size * 0.4} q${size * 0.13} ${-size * 0.52} ${size * 0.26} 0z" fill="${coat}" stroke="${coat}" stroke-width="${size * 0.06}" stroke-linejoin="round"/><circle cx="${x}" cy="${foot - size * 0.86}" r="${size * 0.1}" fill="${skin}"/>`;
}

function hanger(kite: PlacedKite | undefined, height: number): string {
  if (!kite) return '';
  return `<path d="M${kite.x} 0V${kite.y - kite.size * 0.3}" stroke="#20242a" stroke-opacity="0.4" stroke-width="${height / 900}"/><ellipse cx="${kite.x + kite.size * 0.07}" cy="${kite.y + kite.size * 0.08}" rx="${kite.size * 0.42}" ry="${kite.size * 0.4}" fill="#000" opacity="0.12"/>`;
}

function galleryWalls(width: number, height: number, random: Random): string {
  const cases = Array.from({ length: random.int(1, 3) }, (_, i) => {
    const [x, w] = [width * (0.08 + i * 0.32 + random.between(0, 0.08)), width * random.between(0.16, 0.24)];
    const y = height * 0.66;
    return `<rect x="${x}" y="${y}" width="${w}" height="${height * 0.2}" fill="#6f5c48"/><rect x="${x}" y="${y - height * 0.1}" width="${w}" height="${height * 0.1}" fill="#dfeaea" opacity="0.45"/><rect x="${x + w * 0.1}" y="${y - height * 0.03}" width="${w * 0.24}" height="${height * 0.026}" fill="#c9b58c"/><rect x="${x + w * 0.5}" y="${y - height * 0.05}" width="${w * 0.3}" height="${height * 0.046}" fill="#a8442f" opacity="0.8"/>`;
  });
  const lamps = Array.from(
    { length: 4 },
    (_, i) =>
      `<polygon points="${width * (0.14 + i * 0.24)},0 ${width * (0.06 + i * 0.24)},${height * 0.5} ${width * (0.24 + i * 0.24)},${height * 0.5}" fill="#fff6dc" opacity="0.1"/>`,
  );
  return lamps.join('') + cases.join('');
}

function workshopWalls(width: number, height: number, random: Random): string {
  const parts: string[] = [];
  const wx = width * random.between(0.06, 0.6);
  const [ww, wh] = [width * 0.24, height * 0.34];
  parts.push(
    `<rect x="${wx}" y="${height * 0.1}" width="${ww}" height="${wh}" fill="#d4e6ee" stroke="#5e4a36" stroke-width="${width / 120}"/><path d="M${wx + ww / 2} ${height * 0.1}v${wh}M${wx} ${height * 0.1 + wh / 2}h${ww}" stroke="#5e4a36" stroke-width="${width / 200}"/>`,
  );
  for (let row = 0; row < 2; row++) {
    const [x, y, w] = [
      width * random.between(0.02, 0.5),
      height * (0.16 + row * 0.2),
      width * random.between(0.3, 0.44),
    ];
    parts.push(`<rect x="${x}" y="${y}" width="${w}" height="${height * 0.016}" fill="#7a5a3a"/>`);
    let at = x + w * 0.03;
    while (at < x + w * 0.92) {
      const [tw, th] = [w * random.between(0.03, 0.09), height * random.between(0.04, 0.11)];
      parts.push(
        `<rect x="${at}" y="${y - th}" width="${tw}" height="${th}" rx="${tw * 0.18}" fill="${random.pick(['#b3402e', '#e2b34a', '#2d6f8a', '#e9e2d0', '#4c6b4a', '#7b4a78', '#38424a'])}"/>`,
      );
      at += tw * random.between(1.1, 1.5);
    }
  }
  for (let i = 0; i < 7; i++) {
    const x = width * (0.86 + i * 0.018);
    parts.push(
      `<path d="M${x} ${height * 0.12}L${x + width * 0.01} ${height * 0.76}" stroke="${random.pick(['#c9a868', '#8a6a3c', '#e0c890'])}" stroke-width="${width / 260}"/>`,
    );
  }
  return parts.join('');
}

/** What stands in front of people, and hides where their pictures end. */
function sceneryBefore(photo: PlannedPhoto, people: boolean, random: Random): string {
  const { width, height, setting } = photo;
  if (setting.kind === 'paper') return '';
  if (setting.kind === 'room' && !setting.gallery) return bench(width, height, random);
  if (!people) return '';
  if (photo.distant) return fence(width, height * wallTop(photo), height, random);
  if (random.chance(0.22)) {
    const kite: PlacedKite = {
      kind: random.pick(['rokkaku', 'diamond', 'delta', 'edo']),
      x: width * random.between(0.15, 0.85),
      y: height * 0.98,
      size: Math.min(width, height) * 0.42,
      rotation: random.between(-30, 30),
      colours: paletteOf(random),
    };
    return kiteSvg(kite, random);
  }
  return '';
}

/** Where the wall or banner stands behind which distant people are, as a part of the height. */
function wallTop(photo: PlannedPhoto): number {
  return photo.setting.kind === 'outdoors' ? Math.min(0.86, photo.setting.horizon + 0.14) : 0.8;
}

function fence(width: number, top: number, height: number, random: Random): string {
  const colours = paletteOf(random);
  const cloth = Array.from(
    { length: 9 },
    (_, i) =>
      `<rect x="${(width / 9) * i}" y="${top}" width="${width / 9 + 1}" height="${height * 0.1}" fill="${colours[i % 4]}"/>`,
  ).join('');
  return (
    `${cloth}<rect x="0" y="${top}" width="${width}" height="${height * 0.012}" fill="#00000030"/><rect x="0" y="${top + height * 0.088}" width="${width}" height="${height * 0.012}" fill="#00000040"/>` +
    Array.from(
      { length: 10 },
      (_, i) =>
        `<rect x="${(width / 9) * i - width / 300}" y="${top - height * 0.02}" width="${width / 150}" height="${height * 0.2}" fill="#6b5136"/>`,
    ).join('')
  );
}

function bench(width: number, height: number, random: Random): string {
  const y = height * 0.83;
  const sheets = Array.from({ length: random.int(2, 4) }, () => {
    const [x, w] = [width * random.between(0.02, 0.8), width * random.between(0.1, 0.24)];
    return `<polygon points="${x},${y + height * 0.05} ${x + w},${y + height * 0.03} ${x + w * 0.9},${y + height * 0.11} ${x - w * 0.1},${y + height * 0.13}" fill="${random.pick(paletteOf(random))}" opacity="0.95"/>`;
  });
  return `<rect x="0" y="${y}" width="${width}" height="${height - y}" fill="#8a6843"/><rect x="0" y="${y}" width="${width}" height="${height * 0.02}" fill="#ffffff20"/>${sheets.join('')}<circle cx="${width * random.between(0.2, 0.8)}" cy="${y + height * 0.08}" r="${height * 0.028}" fill="#d9d2c0" stroke="#5b4630" stroke-width="${height * 0.006}"/>`;
}

function scaleBar(width: number, height: number): string {
  const [x, y, w] = [width * 0.08, height * 0.93, width * 0.3];
  const steps = Array.from(
    { length: 6 },
    (_, i) =>
      `<rect x="${x + (w / 6) * i}" y="${y}" width="${w / 6}" height="${height * 0.016}" fill="${i % 2 ? '#fff' : '#111'}"/>`,
  ).join('');
  const patches = ['#b5382c', '#3b7d4f', '#2c5aa0', '#e3c042', '#808080', '#f4f4f0']
    .map(
      (colour, i) =>
        `<rect x="${width * 0.62 + i * width * 0.05}" y="${y - height * 0.012}" width="${width * 0.045}" height="${height * 0.036}" fill="${colour}"/>`,
    )
    .join('');
  return steps + patches;
}

async function placePeople(
  photo: PlannedPhoto,
  random: Random,
): Promise<{ overlays: Overlay[]; faces: PaintedFace[] }> {
  const { width, height, people, distant, setting } = photo;
  const overlays: Overlay[] = [];
  const faces: PaintedFace[] = [];
  const bottom = distant
    ? height * (wallTop(photo) + 0.02)
    : setting.kind === 'room' && !setting.gallery
      ? height * 0.86
      : height;
  const room = width / Math.max(1, people.length);
  for (const [i, person] of people.entries()) {
    const shot = random.pick(SHOTS.filter(({ identity }) => identity === person));
    const wanted = distant
      ? height * random.between(0.14, 0.26)
      : height * random.between(people.length > 2 ? 0.36 : 0.46, people.length > 2 ? 0.5 : 0.72);
    const size = Math.min(wanted, (room * 1.35 * shot.height) / shot.width);
    const scale = size / shot.height;
    const [w, h] = [Math.round(shot.width * scale), Math.round(size)];
    const left = Math.round(room * (i + 0.5) - w / 2 + random.between(-0.1, 0.1) * room + photo.moment * width * 0.02);
    const top = Math.round(bottom - h * random.between(0.94, 1));
    overlays.push({ ...(await figureOverlay(shot, w, h, photo)), left, top });
    faces.push({
      person,
      x: (left + shot.face.x * scale) / width,
      y: (top + shot.face.y * scale) / height,
      w: (shot.face.w * scale) / width,
      h: (shot.face.h * scale) / height,
    });
  }
  return { overlays, faces };
}

/** A portrait in the light of the scene. */
async function figureOverlay(
  shot: Shot,
  w: number,
  h: number,
  photo: PlannedPhoto,
): Promise<Omit<Overlay, 'left' | 'top'>> {
  const tint = photo.setting.kind === 'outdoors' ? photo.setting.light.tint : ([1, 0.97, 0.92] as const);
  const { data, info } = await sharp(join(PORTRAITS, shot.file))
    .resize(w, h, { fit: 'fill' })
    .ensureAlpha()
    .linear([...tint, 1], [0, 0, 0, 0])
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { pixels: data, width: info.width, height: info.height };
}

async function svgOverlay(width: number, height: number, content: string, top = 0): Promise<Overlay> {
  const svg = Buffer.from(
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" viewBox="0 ${top} ${width} ${height}">${content}</svg>`,
  );
  return { pixels: await sharp(svg).ensureAlpha().raw().toBuffer(), width, height, left: 0, top };
}
