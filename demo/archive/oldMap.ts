// An old chart of the island, as a surveyor drew it: turned a little, and not quite right.

import sharp from 'sharp';
import type { MapPin } from '@stellin/core/timeplace/pinning';
import type { Point } from '@stellin/core/timeplace/areas';
import { COAST, NORLAND_SHORE } from './coast';

const [WIDTH, HEIGHT] = [1500, 1200];
const MIDDLE = { latitude: 55.935, longitude: 3.51 };
const PIXELS_PER_DEGREE = { latitude: 3300, longitude: 1850 };
/** Its north is not quite up, in degrees. */
const TURNED = 6;

/** Where the chart shows a point, in pixels. */
function spotOf({ latitude, longitude }: Point): { x: number; y: number } {
  const [east, north] = [
    (longitude - MIDDLE.longitude) * PIXELS_PER_DEGREE.longitude,
    (latitude - MIDDLE.latitude) * PIXELS_PER_DEGREE.latitude,
  ];
  const [cos, sin] = [Math.cos((TURNED * Math.PI) / 180), Math.sin((TURNED * Math.PI) / 180)];
  return { x: Math.round(WIDTH / 2 + east * cos + north * sin), y: Math.round(HEIGHT / 2 + east * sin - north * cos) };
}

/** The spots of the chart whose places are known. */
export const OLD_MAP_PINS: readonly MapPin[] = (['Saltmarsh', 'Kessel', 'Kolmer Point', 'Hask Hill'] as const).map(
  (name) => ({ ...spotOf(COAST[name]), ...COAST[name] }),
);

/** The picture of the chart as PNG. */
export function paintOldMap(): Promise<Buffer> {
  const line = (points: readonly Point[]) =>
    points
      .map(spotOf)
      .map(({ x, y }) => `${x},${y}`)
      .join(' ');
  const names = Object.entries(COAST).map(([name, point]) => {
    const { x, y } = spotOf(point);
    return `<circle cx="${x}" cy="${y}" r="7" fill="#5b4024"/><text x="${x + 14}" y="${y + 8}" font-size="30" font-style="italic">${name}</text>`;
  });
  // Depths, as charts have them.
  const depths = Array.from({ length: 60 }, (_, i) => {
    const [x, y] = [(i * 397) % WIDTH, (i * 233) % HEIGHT];
    return `<text x="${x}" y="${y}" font-size="16" fill="#8c7a5c">${3 + ((i * 7) % 19)}</text>`;
  });
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${WIDTH}" height="${HEIGHT}" font-family="serif" fill="#5b4024">
    <rect width="${WIDTH}" height="${HEIGHT}" fill="#e9dcbc"/>${depths.join('')}
    <polygon points="${line(NORLAND_SHORE)}" fill="#d9c390" stroke="#5b4024" stroke-width="4"/>
    <polygon points="${line(NORLAND_SHORE)}" fill="none" stroke="#5b4024" stroke-width="14" stroke-opacity=".25"/>
    ${names.join('')}
    <rect x="24" y="24" width="${WIDTH - 48}" height="${HEIGHT - 48}" fill="none" stroke="#5b4024" stroke-width="3"/>
    <text x="80" y="110" font-size="54">Chart of the Isle of Norland</text>
    <text x="80" y="156" font-size="28" font-style="italic">surveyed 1874; soundings in fathoms</text>
  </svg>`;
  return sharp(Buffer.from(svg)).png().toBuffer();
}
