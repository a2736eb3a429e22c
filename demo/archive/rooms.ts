// Rooms: a workshop with window, shelves and bench, a gallery with lit walls, the photographer's paper.

import { css, scaled, type Colour } from './light';
import { noise } from './noise';
import { paletteOf } from './kites';
import { polygon } from './props';
import type { Random } from './random';
import { rough, type Context } from './textures';

export interface Room {
  width: number;
  height: number;
  /** Where wall and floor meet, in pixels. */
  edge: number;
}

const WALLS: Record<'workshop' | 'gallery', readonly Colour[]> = {
  workshop: [
    [222, 208, 182],
    [190, 202, 196],
    [212, 196, 176],
    [202, 206, 210],
  ],
  gallery: [
    [232, 230, 222],
    [208, 214, 216],
    [66, 78, 88],
    [222, 214, 200],
    [92, 74, 70],
  ],
};
const FLOORS: readonly Colour[] = [
  [146, 112, 76],
  [120, 116, 112],
  [166, 134, 94],
  [98, 84, 72],
];

/** An empty room, lit from a lamp or a window. */
function paintRoom(context: Context, { width, height, edge }: Room, wall: Colour, random: Random): void {
  const floor = random.pick(FLOORS);
  const lamp = width * random.between(0.15, 0.85);
  context.fillStyle = css(scaled(wall, 0.86));
  context.fillRect(0, 0, width, edge);
  const light = context.createRadialGradient(lamp, edge * 0.3, 0, lamp, edge * 0.3, width * 0.85);
  light.addColorStop(0, 'rgba(255, 248, 228, 0.55)');
  light.addColorStop(0.5, 'rgba(255, 248, 228, 0.08)');
  light.addColorStop(1, 'rgba(20, 20, 34, 0.32)');
  const ground = context.createLinearGradient(0, edge, 0, height);
  ground.addColorStop(0, css(scaled(floor, 0.72)));
  ground.addColorStop(1, css(scaled(floor, 1.02)));
  context.fillStyle = ground;
  context.fillRect(0, edge, width, height - edge);
  context.strokeStyle = 'rgba(30, 20, 12, 0.35)';
  context.lineWidth = Math.max(1, height / 700);
  for (let i = -16; i <= 16; i++) {
    context.beginPath();
    context.moveTo(width / 2 + (i * width) / 15, edge);
    context.lineTo(width / 2 + ((i * width) / 15) * 2.6, height);
    context.stroke();
  }
  context.globalCompositeOperation = 'overlay';
  context.globalAlpha = 0.35;
  context.drawImage(rough(), 0, 0, width, height);
  context.globalCompositeOperation = 'source-over';
  context.globalAlpha = 1;
  context.fillStyle = light;
  context.fillRect(0, 0, width, height);
  context.fillStyle = css(scaled(wall, 0.6));
  context.fillRect(0, edge - height * 0.022, width, height * 0.022);
  context.fillStyle = 'rgba(0, 0, 0, 0.25)';
  context.fillRect(0, edge, width, height * 0.008);
}

export function paintWorkshop(context: Context, room: Room, random: Random): void {
  const { width, height, edge } = room;
  paintRoom(context, room, random.pick(WALLS.workshop), random);
  // The window on one side, shelves on the other.
  const [windowAt, shelvesAt] = random.chance(0.5) ? [0.05, 0.42] : [0.54, 0.04];
  const wide = width * random.between(0.18, 0.26);
  paintWindow(context, width * (windowAt + random.between(0, 0.08)), edge * 0.1, wide, edge * 0.55, random);
  for (let row = 0; row < 2; row++) {
    const [x, y] = [width * (shelvesAt + random.between(0, 0.08)), edge * (0.3 + row * 0.3)];
    shelf(context, x, y, width * random.between(0.26, 0.36), height, random);
  }
  // Spars that lean in the corner.
  for (let i = 0; i < 9; i++) {
    const x = width * (0.87 + i * 0.014);
    context.strokeStyle = random.pick(['#c9a868', '#8a6a3c', '#e0c890', '#3c4248']);
    context.lineWidth = width / random.between(230, 380);
    context.beginPath();
    context.moveTo(x, edge * random.between(0.1, 0.25));
    context.lineTo(x + width * 0.012, edge + height * 0.03);
    context.stroke();
  }
  if (random.chance(0.6)) pegboard(context, width * (windowAt + 0.02), edge * 0.71, width * 0.2, edge * 0.22, random);
}

function paintWindow(context: Context, x: number, y: number, w: number, h: number, random: Random): void {
  const sky = context.createLinearGradient(0, y, 0, y + h);
  sky.addColorStop(0, '#cfe2ee');
  sky.addColorStop(1, '#f3f4ea');
  context.fillStyle = '#6a523c';
  context.fillRect(x - w * 0.05, y - w * 0.05, w * 1.1, h + w * 0.1);
  context.fillStyle = sky;
  context.fillRect(x, y, w, h);
  context.fillStyle = 'rgba(110, 140, 90, 0.7)';
  context.beginPath();
  context.ellipse(x + w * random.between(0.2, 0.8), y + h, w * 0.4, h * 0.34, 0, Math.PI, 0);
  context.fill();
  context.fillStyle = '#6a523c';
  context.fillRect(x + w / 2 - w * 0.02, y, w * 0.04, h);
  context.fillRect(x, y + h * 0.45, w, w * 0.04);
  // Light that falls in.
  context.globalCompositeOperation = 'screen';
  polygon(
    context,
    [
      [x, y + h],
      [x + w, y + h],
      [x + w * 2.1, y + h * 2.6],
      [x + w * 0.5, y + h * 2.6],
    ],
    'rgba(255, 244, 214, 0.16)',
  );
  context.globalCompositeOperation = 'source-over';
}

function shelf(context: Context, x: number, y: number, w: number, height: number, random: Random): void {
  let at = x + w * 0.02;
  while (at < x + w * 0.94) {
    const [tw, th] = [w * random.between(0.03, 0.1), height * random.between(0.035, 0.1)];
    const colour = random.pick([
      '#b3402e',
      '#e2b34a',
      '#2d6f8a',
      '#e9e2d0',
      '#4c6b4a',
      '#7b4a78',
      '#38424a',
      '#d9784a',
    ]);
    const round = random.chance(0.4);
    context.fillStyle = colour;
    context.beginPath();
    context.roundRect(at, y - th, tw, th, round ? tw * 0.4 : tw * 0.06);
    context.fill();
    context.fillStyle = 'rgba(0, 0, 0, 0.22)';
    context.fillRect(at + tw * 0.72, y - th, tw * 0.28, th);
    at += tw * random.between(1.04, 1.5);
  }
  context.fillStyle = '#7a5a3a';
  context.fillRect(x, y, w, height * 0.016);
  context.fillStyle = 'rgba(0, 0, 0, 0.28)';
  context.fillRect(x, y + height * 0.016, w, height * 0.012);
}

function pegboard(context: Context, x: number, y: number, w: number, h: number, random: Random): void {
  context.fillStyle = 'rgba(150, 116, 78, 0.9)';
  context.fillRect(x, y, w, h);
  for (let i = 0; i < 7; i++) {
    const [tx, ty] = [x + w * (0.08 + 0.13 * i), y + h * random.between(0.1, 0.3)];
    context.strokeStyle = random.pick(['#3a3f44', '#8a8f94', '#a33c2c']);
    context.lineWidth = w * 0.03;
    context.beginPath();
    context.moveTo(tx, ty);
    context.lineTo(tx, ty + h * random.between(0.25, 0.55));
    context.stroke();
    context.beginPath();
    context.arc(tx, ty, w * 0.03, 0, 7);
    context.stroke();
  }
}

/** The bench that people work at, with what lies on it; hides what is below. */
export function paintBench(context: Context, { width, height }: Room, top: number, random: Random): void {
  const wood = context.createLinearGradient(0, top, 0, height);
  wood.addColorStop(0, '#b08a5c');
  wood.addColorStop(0.5, '#96714a');
  wood.addColorStop(1, '#6b4e33');
  context.fillStyle = 'rgba(0, 0, 0, 0.25)';
  context.fillRect(0, top - height * 0.012, width, height * 0.012);
  context.fillStyle = wood;
  context.fillRect(0, top, width, height - top);
  context.strokeStyle = 'rgba(70, 46, 26, 0.35)';
  context.lineWidth = Math.max(1, height / 600);
  for (let i = 0; i < 9; i++) {
    context.beginPath();
    for (let s = 0; s <= 20; s++)
      context.lineTo(
        (width * s) / 20,
        top + (height - top) * (i / 9) ** 1.4 + height * 0.008 * noise(s * 3 + i * 20, i * 9),
      );
    context.stroke();
  }
  const deep = height - top;
  for (let i = 0; i < random.int(2, 4); i++) {
    const [x, y] = [width * random.between(-0.05, 0.75), top + deep * random.between(0.12, 0.5)];
    const [w, h] = [width * random.between(0.16, 0.34), deep * random.between(0.2, 0.45)];
    const colour = random.pick(paletteOf(random));
    polygon(
      context,
      [
        [x + w * 0.03, y + h * 0.08],
        [x + w * 1.03, y],
        [x + w * 0.93, y + h * 0.94],
        [x - w * 0.1, y + h * 1.12],
      ],
      'rgba(30, 18, 8, 0.35)',
    );
    polygon(
      context,
      [
        [x, y],
        [x + w, y - h * 0.08],
        [x + w * 0.9, y + h * 0.85],
        [x - w * 0.12, y + h],
      ],
      colour,
    );
    polygon(
      context,
      [
        [x + w * 0.4, y - h * 0.03],
        [x + w * 0.52, y - h * 0.045],
        [x + w * 0.4, y + h * 0.93],
        [x + w * 0.26, y + h * 0.95],
      ],
      'rgba(255, 255, 255, 0.16)',
    );
  }
  for (let i = 0; i < random.int(2, 5); i++) {
    const [x, y, r] = [width * random.next(), top + deep * random.between(0.2, 0.8), deep * random.between(0.05, 0.09)];
    context.fillStyle = 'rgba(30, 18, 8, 0.35)';
    context.beginPath();
    context.ellipse(x + r * 0.3, y + r * 0.5, r, r * 0.5, 0, 0, 7);
    context.fill();
    context.fillStyle = random.pick(['#e2ddcc', '#c33e2e', '#2f6f92', '#e5b445', '#3c3c40']);
    context.fillRect(x - r * 0.7, y - r * 1.1, r * 1.4, r * 1.4);
    context.fillStyle = '#d8c49a';
    for (const dy of [-1.2, 0.2]) {
      context.beginPath();
      context.ellipse(x, y + r * dy, r * 0.9, r * 0.36, 0, 0, 7);
      context.fill();
    }
  }
}

export function paintGallery(context: Context, room: Room, random: Random): void {
  const { width, height, edge } = room;
  paintRoom(context, room, random.pick(WALLS.gallery), random);
  context.globalCompositeOperation = 'screen';
  const lamps = random.int(2, 5);
  for (let i = 0; i < lamps; i++) {
    const x = (width * (i + 0.5)) / lamps;
    const cone = context.createRadialGradient(x, edge * 0.42, 0, x, edge * 0.42, width * 0.22);
    cone.addColorStop(0, 'rgba(255, 244, 214, 0.4)');
    cone.addColorStop(1, 'rgba(255, 244, 214, 0)');
    context.fillStyle = cone;
    context.fillRect(x - width * 0.25, 0, width * 0.5, edge);
  }
  context.globalCompositeOperation = 'source-over';
  context.fillStyle = 'rgba(24, 26, 30, 0.8)';
  context.fillRect(0, edge * 0.03, width, height * 0.006);
  for (let i = 0; i < random.int(0, 3); i++) vitrine(context, room, width * random.between(0.02, 0.8), random);
  for (let i = 0; i < random.int(1, 4); i++)
    label(context, width * random.next(), edge * random.between(0.62, 0.72), height);
}

function vitrine(context: Context, { width, height, edge }: Room, x: number, random: Random): void {
  const [w, h] = [width * random.between(0.13, 0.22), height * 0.16];
  const y = edge - h * 0.4;
  context.fillStyle = 'rgba(20, 16, 12, 0.3)';
  context.fillRect(x + w * 0.05, y + h, w, h * 0.1);
  context.fillStyle = '#6f5c48';
  context.fillRect(x, y, w, h);
  context.fillStyle = 'rgba(0, 0, 0, 0.2)';
  context.fillRect(x + w * 0.7, y, w * 0.3, h);
  context.fillStyle = random.pick(['#c9b58c', '#a8442f', '#2f6a7c']);
  context.fillRect(x + w * 0.2, y - h * 0.24, w * 0.26, h * 0.22);
  context.fillStyle = 'rgba(225, 238, 240, 0.35)';
  context.fillRect(x, y - h * 0.55, w, h * 0.55);
  context.strokeStyle = 'rgba(255, 255, 255, 0.6)';
  context.lineWidth = Math.max(1, width / 1200);
  context.strokeRect(x, y - h * 0.55, w, h * 0.55);
}

function label(context: Context, x: number, y: number, height: number): void {
  context.fillStyle = 'rgba(250, 250, 246, 0.9)';
  context.fillRect(x, y, height * 0.04, height * 0.026);
  context.fillStyle = 'rgba(60, 60, 60, 0.7)';
  for (let i = 0; i < 3; i++)
    context.fillRect(x + height * 0.005, y + height * (0.006 + i * 0.006), height * 0.026, height * 0.002);
}

/** Photographer's paper behind a single object: a light that falls off, no edge. */
export function paintPaper(context: Context, width: number, height: number, tone: Colour, random: Random): void {
  const [cx, cy] = [width * random.between(0.4, 0.6), height * random.between(0.35, 0.5)];
  const light = context.createRadialGradient(cx, cy, 0, cx, cy, Math.max(width, height) * 0.8);
  light.addColorStop(0, css(scaled(tone, 1.1)));
  light.addColorStop(1, css(scaled(tone, 0.66)));
  context.fillStyle = light;
  context.fillRect(0, 0, width, height);
}

/** What goes with a collection shot: a scale in black and white, patches of known colours. */
export function paintScale(context: Context, width: number, height: number): void {
  const [x, y, w] = [width * 0.07, height * 0.93, width * 0.3];
  for (let i = 0; i < 6; i++) {
    context.fillStyle = i % 2 ? '#fff' : '#111';
    context.fillRect(x + (w / 6) * i, y, w / 6, height * 0.016);
  }
  ['#b5382c', '#3b7d4f', '#2c5aa0', '#e3c042', '#808080', '#f4f4f0'].forEach((colour, i) => {
    context.fillStyle = colour;
    context.fillRect(width * 0.62 + i * width * 0.05, y - height * 0.012, width * 0.045, height * 0.036);
  });
}
