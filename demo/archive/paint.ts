// Painting a planned photo: the place in its light, kites, people who stand in it, and what camera and lab do to the whole.

import { createCanvas, type Canvas } from '@napi-rs/canvas';
import { develop } from './development';
import { castShadow, drawFigure, type Figure, type Pose } from './figure';
import { paintGround, QUAY, type Land } from './ground';
import { drawKite, paletteOf, type KiteKind, type PlacedKite } from './kites';
import { LIGHTS, type Colour, type Light } from './light';
import type { PlannedPhoto, Setting } from './plan';
import { portraitOf, shotOf } from './portraits';
import { banner, bunting, gull, passerBy } from './props';
import { randomOf, type Random } from './random';
import { paintBench, paintGallery, paintPaper, paintScale, paintWorkshop, type Room } from './rooms';
import { paintSky } from './sky';
import { shrunk, type Context } from './textures';

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
  canvas: Canvas;
  faces: PaintedFace[];
}

/** Paints a photo. The same plan gives the same picture. */
export async function paintPhoto(photo: PlannedPhoto): Promise<PaintedPhoto> {
  const random = randomOf(`paint ${photo.scene}`);
  const canvas = createCanvas(photo.width, photo.height);
  const painter = { photo, canvas, context: canvas.getContext('2d'), random };
  const faces = await SETTINGS[photo.setting.kind](painter);
  // Of a burst no two frames are the same.
  develop(canvas, photo, randomOf(`develop ${photo.scene} ${photo.moment}`));
  return { canvas, faces };
}

interface Painter {
  photo: PlannedPhoto;
  canvas: Canvas;
  context: Context;
  random: Random;
}

const SETTINGS: Record<Setting['kind'], (painter: Painter) => Promise<PaintedFace[]>> = {
  outdoors: paintOutdoors,
  room: paintRoom,
  paper: paintCollection,
};

/** The light of rooms. */
const INDOORS: Light = { ...(LIGHTS[1] as Light), name: 'indoors', tint: [1, 0.97, 0.92], sun: 0.12 };

/** What is behind the focus is painted small, and sharp skies smaller: both are soft, and it takes a part of the time. */
const SOFT_PART = 0.18;
const DETAIL_PART = 0.07;
const SKY_PART = 0.5;

async function paintOutdoors(painter: Painter): Promise<PaintedFace[]> {
  const { photo, context, random } = painter;
  const { width, height, setting } = photo;
  if (setting.kind !== 'outdoors') return [];
  const { light } = setting;
  const land: Land = {
    ground: setting.ground,
    light,
    width,
    height,
    horizon: height * setting.horizon,
    sunAt: random.between(0.1, 0.9),
  };
  const stage = stageOf(photo, random);
  if (photo.view === 'detail') {
    drawSoft(painter, paintLand(painter, land, stage.eye, DETAIL_PART));
    await paintDetail(painter, light);
    return [];
  }
  const near = photo.people.length > 0 && photo.distance === 'near';
  if (near) drawSoft(painter, paintLand(painter, land, stage.eye, SOFT_PART));
  else paintLand(painter, land, stage.eye);
  for (let i = 0; i < random.int(0, 5); i++)
    gull(
      context,
      width * random.next(),
      land.horizon * random.between(0.15, 0.85),
      width * random.between(0.004, 0.009),
    );
  const figures = await figuresOf(painter, light, stage, land.sunAt < 0.5 ? -1 : 1);
  const kites = placeKites(photo, random);
  const hands = kites.map((_, i) => figures[i]?.hand);
  const lines = kites.map((kite, i) => hands[i] ?? farEndOf(kite, painter));
  // The lines of those who stand there end in their hands, before them; all others begin far away.
  for (const [i, kite] of kites.entries()) {
    if (!hands[i]) drawLine(context, kite, lines[i] ?? kite, width);
    if (light.name === 'night' || light.name === 'dusk') glowAround(context, kite);
    await drawKite(context, kite, random, light.tint[0] < 0.5 ? 0.5 : 0.25);
  }
  for (const figure of figures) castShadow(context, figure, light, land.sunAt < 0.5 ? -1 : 1, height);
  drawInOrder(context, figures);
  for (const [i, kite] of kites.entries()) if (hands[i]) drawLine(context, kite, lines[i] ?? kite, width);
  if (photo.people.length > 0 && photo.distance !== 'far' && random.chance(0.16)) await paintForeground(painter);
  return facesOf(photo, figures);
}

/** Where people stand: how high those are that matter, and how high above the ground the camera is, in heights of a person. */
interface Stage {
  person: number;
  eye: number;
}

const PERSON_HEIGHT: Record<PlannedPhoto['distance'], readonly [number, number]> = {
  near: [1.2, 1.6],
  middle: [0.7, 0.86],
  far: [0.48, 0.62],
};
/** From one person to the next, as a part of their height: shoulders touch. */
const APART = 0.235;

function stageOf({ width, height, people, distance, setting }: PlannedPhoto, random: Random): Stage {
  const horizon = setting.kind === 'outdoors' ? setting.horizon : 0.42;
  const wanted = height * random.between(...PERSON_HEIGHT[distance]);
  const person = Math.min(wanted, (width * 0.98) / (APART * Math.max(1, people.length) + 0.06));
  // Heads are at the horizon for a camera held at the eyes. A low camera sees them before the sky.
  const foot =
    distance === 'near' ? height * random.between(0.09, 0.16) + person * 0.99 : height * random.between(0.9, 0.975);
  const eye = Math.max(0.3, Math.min(1.05, (foot - height * horizon) / person));
  return { person, eye };
}

/** Draws the people of a photo on canvases of their own, left to right. */
async function figuresOf(
  { photo, random }: Painter,
  light: Light,
  { person, eye }: Stage,
  lightFrom: -1 | 1,
): Promise<Figure[]> {
  const { width, height, people, setting, distance, moment } = photo;
  const horizon = height * (setting.kind === 'outdoors' ? setting.horizon : 0.42);
  const room = Math.min(width / Math.max(1, people.length), person * APART * random.between(1, 1.5));
  const start = width * (people.length === 1 ? random.pick([0.3, 0.36, 0.5, 0.64, 0.7]) : random.between(0.44, 0.56));
  const figures: Figure[] = [];
  for (const [i, id] of people.entries()) {
    // In a group all look at the camera; of two or one, one may look up to the kite.
    const looksAway = people.length < 3 && i === 0 && random.chance(0.3);
    const turnedTo = looksAway ? (start < width / 2 ? 1 : -1) : undefined;
    const portrait = await portraitOf(shotOf(id, random, turnedTo));
    const own = person * random.between(0.9, 1.05);
    // Each a little nearer or further than the next.
    const stands = horizon + own * eye + (setting.kind === 'outdoors' ? random.between(-0.02, 0.03) * own : 0);
    const limit = own * 0.13;
    const x = start + (i - (people.length - 1) / 2) * room + random.between(-0.13, 0.13) * room + moment * width * 0.02;
    figures.push(
      drawFigure(
        {
          portrait,
          pose: poseOf(photo, i, random),
          x: Math.max(limit, Math.min(width - limit, x)),
          foot: Math.max(stands, own * 1.005 + height * 0.02),
          height: own,
          light,
          far: distance === 'far' ? 0.13 : 0,
          bottom: height,
          lightFrom,
        },
        random,
      ),
    );
  }
  return figures;
}

function poseOf({ setting, kites }: PlannedPhoto, index: number, random: Random): Pose {
  if (setting.kind === 'room') return setting.gallery ? random.pick(['still', 'still', 'hips', 'working']) : 'working';
  if (index < kites.length && random.chance(index === 0 ? 0.75 : 0.4)) return random.pick(['reel', 'reel', 'raised']);
  return random.pick(['still', 'still', 'hips']);
}

/** Those who stand nearer are before the others. */
function drawInOrder(context: Context, figures: readonly Figure[]): void {
  for (const { canvas, left, top } of [...figures].sort((a, b) => a.foot - b.foot))
    context.drawImage(canvas, left, top);
}

function facesOf({ width, height, people }: PlannedPhoto, figures: readonly Figure[]): PaintedFace[] {
  return figures.map(({ face }, i) => ({
    person: people[i] ?? '',
    x: face.x / width,
    y: face.y / height,
    w: face.w / width,
    h: face.h / height,
  }));
}

interface Point {
  x: number;
  y: number;
}

/** Where the line of a kite ends that somebody far away flies. */
function farEndOf(kite: PlacedKite, { photo, random }: Painter): Point {
  const { width, height, setting } = photo;
  const horizon = setting.kind === 'outdoors' ? setting.horizon : 0.5;
  return {
    x: kite.x + width * random.between(-0.35, 0.35),
    y: height * random.between(horizon + 0.03, horizon + 0.12),
  };
}

function drawLine(context: Context, kite: PlacedKite, hand: Point, width: number): void {
  context.strokeStyle = 'rgba(32, 36, 42, 0.42)';
  context.lineWidth = Math.max(0.8, width / 1700);
  context.beginPath();
  context.moveTo(kite.x, kite.y);
  // A line sags under its own weight.
  context.quadraticCurveTo(
    (kite.x + hand.x) / 2,
    (kite.y + hand.y) / 2 + Math.abs(hand.y - kite.y) * 0.12,
    hand.x,
    hand.y,
  );
  context.stroke();
}

function glowAround(context: Context, { x, y, size, colours }: PlacedKite): void {
  const glow = context.createRadialGradient(x, y, 0, x, y, size * 0.9);
  glow.addColorStop(0, 'rgba(255, 226, 160, 0.5)');
  glow.addColorStop(1, 'rgba(255, 226, 160, 0)');
  context.globalCompositeOperation = 'screen';
  context.fillStyle = glow;
  context.fillRect(x - size, y - size, size * 2, size * 2);
  context.globalAlpha = 0.25;
  context.fillStyle = colours[1] ?? '#fff';
  context.beginPath();
  context.arc(x, y, size * 0.45, 0, 7);
  context.fill();
  context.globalAlpha = 1;
  context.globalCompositeOperation = 'source-over';
}

function placeKites({ width, height, setting, kites, moment, people }: PlannedPhoto, random: Random): PlacedKite[] {
  if (setting.kind !== 'outdoors') return [];
  const unit = Math.min(width, height);
  const crowd = kites.length > 3 ? 0.55 : 1;
  const sky = Math.min(setting.horizon, people.length > 0 ? 0.62 : 1);
  return kites.map((kind, i) => {
    const x = kites.length === 1 ? random.between(0.22, 0.78) : (i + random.between(0.2, 0.8)) / kites.length;
    return {
      kind,
      x: width * (x + moment * random.between(-0.06, 0.06)),
      y: height * sky * (random.between(0.14, 0.72) + moment * random.between(-0.06, 0.06)),
      size: unit * random.pick([0.1, 0.14, 0.18, 0.24, 0.32, 0.4]) * crowd * random.between(0.9, 1.1),
      rotation: random.between(-26, 26) + moment * random.between(-10, 10),
      colours: paletteOf(random),
    };
  });
}

/** One kite so near that it does not fit in. */
async function paintDetail({ photo, context, random }: Painter, light: Light): Promise<void> {
  const { width, height, kites, moment } = photo;
  const kind: KiteKind = kites[0] ?? 'delta';
  const kite: PlacedKite = {
    kind,
    x: width * random.between(0.3, 0.7),
    y: height * random.between(0.34, 0.6) + moment * height * 0.04,
    size: Math.min(width, height) * random.between(1.1, 1.9),
    rotation: random.between(-35, 35),
    colours: paletteOf(random),
  };
  await drawKite(context, kite, random, light.tint[0] < 0.5 ? 0.5 : 0.2);
}

/** Paints the place without those whom the photo is about: on the picture itself, or on a canvas of a part of its size. */
function paintLand({ photo, canvas, context, random }: Painter, land: Land, eye: number, part = 1): Canvas {
  const target = part === 1 ? canvas : smaller(canvas, part);
  const onTarget = { photo, canvas: target, context: part === 1 ? context : target.getContext('2d'), random };
  const scaledLand = scaledBy(land, part);
  if (part === 1) {
    const sky = smaller(canvas, SKY_PART);
    paintSky(sky.getContext('2d'), scaledBy(land, SKY_PART), random);
    context.drawImage(sky, 0, 0, canvas.width, canvas.height);
  } else paintSky(onTarget.context, scaledLand, random);
  paintGround(onTarget.context, scaledLand, random);
  paintFestival(onTarget, scaledLand);
  paintCrowd(onTarget, scaledLand, eye);
  return target;
}

function scaledBy(land: Land, part: number): Land {
  return { ...land, width: land.width * part, height: land.height * part, horizon: land.horizon * part };
}

/** An empty canvas of a part of a picture's width and height. */
function smaller({ width, height }: Canvas, part: number): Canvas {
  return createCanvas(Math.max(8, Math.ceil(width * part)), Math.max(8, Math.ceil(height * part)));
}

/** Draws a small canvas over the whole picture, soft as what is out of focus. */
function drawSoft({ canvas, context }: Painter, small: Canvas): void {
  const soft = createCanvas(small.width, small.height);
  const blurring = soft.getContext('2d');
  // Laid under it first, or the edges would become clear.
  blurring.drawImage(small, 0, 0);
  blurring.filter = 'blur(1.2px)';
  blurring.drawImage(small, 0, 0);
  context.drawImage(soft, 0, 0, canvas.width, canvas.height);
}

/** What a festival has put up. */
function paintFestival({ photo, context, random }: Painter, { width, height, horizon }: Land): void {
  if (!photo.festive) return;
  const colours = paletteOf(random);
  if (random.chance(0.55))
    for (let i = 0; i < random.int(2, 7); i++) {
      const down = random.next() * 0.4;
      banner(
        context,
        width * random.next(),
        horizon + (height - horizon) * (0.06 + down),
        height * (0.1 + 0.34 * down),
        paletteOf(random),
      );
    }
  if (random.chance(0.3))
    bunting(
      context,
      [-width * 0.02, height * random.between(0.02, 0.2)],
      [width * 1.02, height * random.between(0.02, 0.2)],
      height * random.between(0.03, 0.05),
      colours,
    );
}

/** People far away, as large as those at that place are. */
function paintCrowd(
  { photo, context, random }: Painter,
  { width, height, horizon, light, ground }: Land,
  eye: number,
): void {
  const busy = photo.festive ? random.int(8, 34) : random.chance(0.5) ? random.int(1, 6) : 0;
  // At the harbour the ground begins at the quay.
  const least = ground === 'harbour' ? ((height - horizon) * QUAY) / eye : height * 0.025;
  const most = height * (photo.people.length > 0 ? 0.12 : 0.19);
  if (least > most) return;
  const sizes = Array.from({ length: busy }, () => least + (most - least) * random.next() ** 2.2);
  for (const size of sizes.sort((a, b) => a - b))
    passerBy(context, width * random.next(), horizon + size * eye, size, light, 1 - size / most, random);
}

/** A kite that somebody holds into the picture from below. */
async function paintForeground({ photo, context, random }: Painter): Promise<void> {
  const { width, height } = photo;
  const kite: PlacedKite = {
    kind: random.pick(['rokkaku', 'diamond', 'delta', 'edo']),
    x: width * random.pick([0.04, 0.96]),
    y: height * 1.02,
    size: Math.min(width, height) * 0.4,
    rotation: random.between(-30, 30),
    colours: paletteOf(random),
  };
  await drawKite(context, kite, random);
}

async function paintRoom(painter: Painter): Promise<PaintedFace[]> {
  const { photo, context, random } = painter;
  const { width, height, setting, kites, people } = photo;
  const gallery = setting.kind === 'room' && setting.gallery;
  const room: Room = { width, height, edge: height * random.between(0.66, 0.78) };
  (gallery ? paintGallery : paintWorkshop)(context, room, random);
  const unit = Math.min(width, height);
  const stage = gallery ? galleryStage(photo, random) : benchStage(photo, random);
  for (const [i, kind] of kites.entries()) {
    const size = unit * random.between(0.26, 0.5) * (kites.length > 3 ? 0.75 : 1);
    const kite: PlacedKite = {
      kind,
      x: width * ((i + 0.5 + random.between(-0.16, 0.16)) / kites.length),
      y: room.edge * random.between(0.26, 0.44),
      size,
      rotation: random.between(-16, 16),
      colours: paletteOf(random),
    };
    context.strokeStyle = 'rgba(30, 32, 36, 0.4)';
    context.lineWidth = Math.max(1, height / 1000);
    context.beginPath();
    context.moveTo(kite.x, 0);
    context.lineTo(kite.x, kite.y - size * 0.3);
    context.stroke();
    const shadow = context.createRadialGradient(
      kite.x + size * 0.1,
      kite.y + size * 0.12,
      0,
      kite.x + size * 0.1,
      kite.y + size * 0.12,
      size * 0.6,
    );
    shadow.addColorStop(0, 'rgba(0, 0, 0, 0.25)');
    shadow.addColorStop(1, 'rgba(0, 0, 0, 0)');
    context.fillStyle = shadow;
    context.fillRect(kite.x - size, kite.y - size, size * 2.2, size * 2.2);
    await drawKite(context, kite, random, 0.2);
  }
  if (people.length > 0 && photo.distance === 'near') drawSoft(painter, shrunk(painter.canvas, SOFT_PART));
  const figures = await figuresOf(painter, INDOORS, stage, random.pick([-1, 1] as const));
  if (gallery) for (const figure of figures) castShadow(context, figure, INDOORS, 1, height);
  drawInOrder(context, figures);
  if (!gallery) paintBench(context, room, height * random.between(0.74, 0.8), random);
  return facesOf(photo, figures);
}

/** Visitors stand on the floor. */
function galleryStage(photo: PlannedPhoto, random: Random): Stage {
  const { person } = stageOf(photo, random);
  const size = photo.distance === 'near' ? person : Math.min(person, photo.height * 0.74);
  const foot = photo.distance === 'near' ? photo.height * 0.12 + size : photo.height * random.between(0.92, 0.97);
  return { person: size, eye: (foot - photo.height * 0.42) / size };
}

/** Those who work stand behind the bench, which hides them from the hips down. */
function benchStage({ width, height, people, distance }: PlannedPhoto, random: Random): Stage {
  const wanted = height * (distance === 'far' ? random.between(0.85, 0.95) : random.between(1, 1.25));
  const person = Math.min(wanted, (width * 0.98) / (APART * Math.max(1, people.length) + 0.06));
  const foot = height * 0.78 + person * 0.48;
  return { person, eye: (foot - height * 0.42) / person };
}

async function paintCollection({ photo, context, random }: Painter): Promise<PaintedFace[]> {
  const { width, height, setting, kites } = photo;
  const tone: Colour =
    setting.kind === 'paper' && setting.dark
      ? [52, 54, 58]
      : random.pick<Colour>([
          [214, 214, 210],
          [226, 222, 214],
          [190, 198, 200],
        ]);
  paintPaper(context, width, height, tone, random);
  const unit = Math.min(width, height);
  const close = photo.view === 'detail';
  for (const kind of kites) {
    const kite: PlacedKite = {
      kind,
      x: width * (close ? random.between(0.3, 0.7) : 0.5),
      y: height * (close ? random.between(0.3, 0.6) : 0.44),
      size: unit * (close ? random.between(1.2, 1.8) : 0.62),
      rotation: random.between(-2, 2),
      colours: paletteOf(random),
    };
    const shadow = context.createRadialGradient(
      kite.x,
      kite.y + unit * 0.03,
      0,
      kite.x,
      kite.y + unit * 0.03,
      kite.size * 0.62,
    );
    shadow.addColorStop(0, 'rgba(0, 0, 0, 0.34)');
    shadow.addColorStop(1, 'rgba(0, 0, 0, 0)');
    context.fillStyle = shadow;
    context.fillRect(0, 0, width, height);
    await drawKite(context, kite, random, 0.15);
  }
  paintScale(context, width, height);
  return [];
}
