// Two site plans as the museum's draughtsman has them: the ground floor, and the meadow where kites are flown.

import sharp from 'sharp';
import type { Spot } from '@stellin/core/plans/pins';
import type { Tie } from '@stellin/core/plans/tying';

const PAPER = '#f6f3ea';
const LINE = '#3a4746';
const SOFT = '#8c9694';

const FLOOR = { width: 2400, height: 1500 };

/** A room of the ground floor by its corners, in parts of the plan. */
type Room = readonly [name: string, left: number, top: number, right: number, bottom: number];
export const ROOMS: readonly Room[] = [
  ['Great hall', 0.08, 0.1, 0.52, 0.62],
  ['Workshop', 0.52, 0.1, 0.78, 0.46],
  ['Paper room', 0.78, 0.1, 0.92, 0.46],
  ['Collection', 0.52, 0.46, 0.92, 0.9],
  ['Foyer', 0.08, 0.62, 0.52, 0.9],
];

export function outlineOf([, left, top, right, bottom]: Room): Spot[] {
  return [
    { x: left, y: top },
    { x: right, y: top },
    { x: right, y: bottom },
    { x: left, y: bottom },
  ];
}

/** The ground floor as PNG. */
export function paintFloor(): Promise<Buffer> {
  const { width, height } = FLOOR;
  const rooms = ROOMS.map(([name, left, top, right, bottom]) => {
    const [x, y, w, h] = [left * width, top * height, (right - left) * width, (bottom - top) * height];
    return `<rect x="${x}" y="${y}" width="${w}" height="${h}" fill="#fffdf6" stroke="${LINE}" stroke-width="14"/>
      <text x="${x + w / 2}" y="${y + h - 40}" font-size="44" text-anchor="middle" fill="${SOFT}">${name}</text>`;
  });
  const door = (x: number, y: number, isUpright: boolean) => {
    const [left, top, w, h] = isUpright
      ? [x * width - 12, y * height - 60, 24, 120]
      : [x * width - 60, y * height - 12, 120, 24];
    return `<rect x="${left}" y="${top}" width="${w}" height="${h}" fill="#fffdf6"/>`;
  };
  const doors = [
    door(0.3, 0.62, false),
    door(0.52, 0.28, true),
    door(0.78, 0.28, true),
    door(0.52, 0.75, true),
    door(0.3, 0.9, false),
    door(0.65, 0.46, false),
  ];
  const stairs = Array.from(
    { length: 9 },
    (_, i) =>
      `<line x1="${0.1 * width + i * 26}" y1="${0.66 * height}" x2="${0.1 * width + i * 26}" y2="${0.78 * height}"/>`,
  );
  return png(
    FLOOR,
    `${rooms.join('')}${doors.join('')}
    <g stroke="${LINE}" stroke-width="4">${stairs.join('')}</g>
    <text x="${0.08 * width}" y="80" font-size="60" fill="${LINE}">Saltmarsh Kite Museum · ground floor</text>
    <g stroke="${LINE}" stroke-width="6" fill="none" transform="translate(${0.95 * width} ${0.1 * height})">
      <circle r="44"/><path d="M0 34 L0 -34 M-14 -14 L0 -34 L14 -14"/></g>`,
  );
}

const MEADOW = { width: 2000, height: 1600 };

/** The corners of the meadow whose places are known. */
export const MEADOW_TIES: readonly Tie[] = [
  { x: 0.05, y: 0.05, latitude: 55.969, longitude: 3.303 },
  { x: 0.95, y: 0.05, latitude: 55.969, longitude: 3.329 },
  { x: 0.95, y: 0.95, latitude: 55.956, longitude: 3.329 },
];

/** The meadow with dike, pond and paths as PNG. */
export function paintMeadow(): Promise<Buffer> {
  const { width, height } = MEADOW;
  const grass = Array.from({ length: 240 }, (_, i) => {
    const [x, y] = [(i * 397) % width, (i * 613) % height];
    return `<path d="M${x} ${y} l6 -16 l6 16" stroke="#a9b98a" stroke-width="3" fill="none"/>`;
  });
  return png(
    MEADOW,
    `<rect width="${width}" height="${height}" fill="#dfe6c6"/>${grass.join('')}
    <path d="M0 1240 C 500 1120 900 1380 2000 1180 L2000 1600 L0 1600 Z" fill="#cfe0e2"/>
    <path d="M0 1240 C 500 1120 900 1380 2000 1180" stroke="#8d7b55" stroke-width="26" fill="none"/>
    <ellipse cx="620" cy="520" rx="210" ry="130" fill="#bcd7dc" stroke="#6f9aa0" stroke-width="8"/>
    <path d="M120 0 C 300 500 900 700 1300 760 S 1800 1000 1960 1200" stroke="#c9b58a" stroke-width="22" fill="none"/>
    <rect x="1440" y="220" width="300" height="180" fill="#e7d3b0" stroke="${LINE}" stroke-width="8"/>
    <g font-size="44" fill="${LINE}"><text x="1490" y="325">Tent</text><text x="560" y="535">Pond</text>
    <text x="60" y="90" font-size="60">Kite meadow · festival plan</text><text x="900" y="1330">Dike</text></g>`,
  );
}

function png({ width, height }: { width: number; height: number }, drawn: string): Promise<Buffer> {
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" font-family="sans-serif">
    <rect width="${width}" height="${height}" fill="${PAPER}"/>${drawn}</svg>`;
  return sharp(Buffer.from(svg)).png().toBuffer();
}
