// Kites, each kind by its real outline: SVG around the origin, some 200 wide and high without tails, nose up.

import { createCanvas, loadImage } from '@napi-rs/canvas';
import type { Random } from './random';
import type { Context } from './textures';

export const KITE_KINDS = [
  'delta',
  'diamond',
  'box',
  'rokkaku',
  'sled',
  'parafoil',
  'train',
  'cellular',
  'stunt',
  'bird',
  'star',
  'dragon',
  'octopus',
  'edo',
  'roller',
] as const;
export type KiteKind = (typeof KITE_KINDS)[number];

/** The vocabulary's term for each kind. */
export const TERM_OF_KIND: Record<KiteKind, string> = {
  delta: 'Delta',
  diamond: 'Diamond',
  box: 'Box kite',
  rokkaku: 'Rokkaku',
  sled: 'Sled',
  parafoil: 'Parafoil',
  train: 'Diamond train',
  cellular: 'Cody-type',
  stunt: 'Stunt delta',
  bird: 'Bird kite',
  star: 'Star kite',
  dragon: 'Dragon train',
  octopus: 'Octopus',
  edo: 'Edo',
  roller: 'Roller',
};

const PALETTES: readonly (readonly string[])[] = [
  ['#d9402a', '#f3b43c', '#1f4e79', '#f4efe2'],
  ['#e2682f', '#2b8a78', '#f6ead0', '#22314f'],
  ['#7a3b8f', '#f2c230', '#e14b5a', '#ffffff'],
  ['#0f7f9e', '#f08a24', '#ffffff', '#1c2733'],
  ['#1d6b3a', '#f3d34a', '#b5261e', '#f7f4ea'],
  ['#22314f', '#c9352b', '#f3efe4', '#e9a23b'],
  ['#ec5f7c', '#f9d9c0', '#5f4bb6', '#2aa7b8'],
  ['#2d2a28', '#d8b25c', '#a83a2c', '#efe6d2'],
];

export function paletteOf(random: Random): readonly string[] {
  return random.pick(PALETTES);
}

type Draw = (colours: readonly string[], random: Random) => string;

const SPAR = spar(1.6, 0.7);
const EDGE = 'stroke="#00000030" stroke-width="1" stroke-linejoin="round"';

function spar(width: number, opacity: number): string {
  return `stroke="#2a2622" stroke-width="${width}" stroke-opacity="${opacity}" fill="none" stroke-linecap="round"`;
}

function panel(points: string, fill: string | undefined): string {
  return `<polygon points="${points}" fill="${fill ?? '#fff'}" ${EDGE}/>`;
}

function tail(x: number, y: number, length: number, colour: string | undefined, random: Random, width = 5): string {
  const sway = random.between(-28, 28);
  return `<path d="M${x} ${y} q${sway} ${length * 0.3} ${-sway * 0.4} ${length * 0.55} t${sway * 0.6} ${length * 0.45}" fill="none" stroke="${colour ?? '#c33'}" stroke-width="${width}" stroke-linecap="round"/>`;
}

function tails(xs: readonly number[], y: number, length: number, colours: readonly string[], random: Random): string {
  return xs
    .map((x, i) => tail(x, y, length * random.between(0.8, 1.1), colours[i % colours.length], random, 4))
    .join('');
}

const DRAWINGS: Record<KiteKind, Draw> = {
  delta: (c, r) =>
    panel('0,-62 -98,44 0,20', c[0]) +
    panel('0,-62 98,44 0,20', c[0]) +
    panel('0,-62 -46,4 0,20', c[1]) +
    panel('0,-62 46,4 0,20', c[1]) +
    panel('-98,44 -70,14 -36,31', c[2]) +
    panel('98,44 70,14 36,31', c[2]) +
    `<path d="M0 -62V22M-60 4H60M0 -62L-98 44M0 -62L98 44" ${SPAR}/>` +
    tail(0, 22, 120, c[1], r) +
    tail(-60, 34, 70, c[2], r) +
    tail(60, 34, 70, c[2], r),
  diamond: (c, r) =>
    panel('0,-92 -68,-26 0,-26', c[0]) +
    panel('0,-92 68,-26 0,-26', c[1]) +
    panel('-68,-26 0,-26 0,92', c[1]) +
    panel('68,-26 0,-26 0,92', c[0]) +
    `<circle cx="0" cy="-20" r="22" fill="${c[2]}"/><path d="M0 -92V92M-68 -26H68" ${SPAR}/>` +
    tail(0, 92, 150, c[2], r) +
    tail(0, 92, 120, c[3], r),
  box: (c) => {
    const cell = (y: number, a: string | undefined, b: string | undefined) =>
      panel(`-62,${y} 18,${y + 14} 18,${y + 58} -62,${y + 44}`, a) +
      panel(`18,${y + 14} 66,${y - 6} 66,${y + 38} 18,${y + 58}`, b) +
      `<polygon points="-62,${y} -14,${y - 20} 66,${y - 6} 18,${y + 14}" fill="#00000040"/>`;
    return (
      `<path d="M-62 -84V88M18 -70V98M66 -90V82M-14 -104V66" ${SPAR}/>` + cell(-80, c[0], c[1]) + cell(36, c[0], c[1])
    );
  },
  rokkaku: (c) =>
    panel('0,-98 -72,-48 -72,48 0,98 72,48 72,-48', c[0]) +
    panel('-72,-48 72,-48 72,48 -72,48', c[1]) +
    panel('0,-98 -72,-48 72,-48', c[0]) +
    `<circle cx="0" cy="0" r="34" fill="${c[2]}"/><circle cx="0" cy="0" r="17" fill="${c[3]}"/><path d="M0 -98V98M-72 -48H72M-72 48H72" ${SPAR}/>`,
  sled: (c, r) =>
    panel('-42,-80 42,-80 42,60 -42,60', c[0]) +
    panel('-42,-80 -86,-12 -42,60', c[1]) +
    panel('42,-80 86,-12 42,60', c[1]) +
    `<ellipse cx="-18" cy="28" rx="9" ry="16" fill="#00000035"/><ellipse cx="18" cy="28" rx="9" ry="16" fill="#00000035"/><path d="M-42 -80V60M42 -80V60" ${SPAR}/>` +
    tails([-30, 0, 30], 60, 90, [c[2] ?? '', c[3] ?? ''], r),
  parafoil: (c, r) =>
    Array.from({ length: 8 }, (_, i) => {
      const x = -96 + i * 24;
      const bow = (n: number) => 18 * ((n - 4) / 4) ** 2;
      return `<path d="M${x} ${-30 + bow(i)} q12 -14 24 ${bow(i + 1) - bow(i)} v64 q-12 8 -24 ${bow(i) - bow(i + 1)} z" fill="${c[i % 4]}" ${EDGE}/><path d="M${x} ${-30 + bow(i)} q12 -14 24 ${bow(i + 1) - bow(i)} v9 q-12 -8 -24 ${bow(i) - bow(i + 1)} z" fill="#00000055"/>`;
    }).join('') + tails([-60, 0, 60], 42, 130, [c[0] ?? '', c[2] ?? ''], r),
  train: (c) =>
    Array.from({ length: 9 }, (_, i) => {
      const t = i / 8;
      const [x, y, s] = [-80 + 150 * t + 20 * Math.sin(t * 5), -92 + 170 * t, 0.32 - 0.1 * t];
      return `<g transform="translate(${x} ${y}) scale(${s}) rotate(${-14 + t * 20})">${panel('0,-70 -54,-18 0,70 54,-18', c[i % 3])}${panel('0,-70 -54,-18 0,-18', c[3])}</g>`;
    }).join('') + `<path d="M-80 -92 Q-20 -40 0 0 T70 78" ${spar(0.8, 0.7)}/>`,
  cellular: (c) =>
    `<path d="M-40 -90V90M40 -90V90M-96 -70L96 -10M96 -70L-96 -10M-80 30L80 78M80 30L-80 78" ${SPAR}/>` +
    panel('-40,-80 40,-80 40,-36 -40,-36', c[0]) +
    panel('-40,32 40,32 40,76 -40,76', c[0]) +
    panel('-40,-80 -98,-66 -98,-44 -40,-36', c[1]) +
    panel('40,-80 98,-66 98,-44 40,-36', c[1]) +
    panel('-40,-92 40,-92 0,-116', c[2]) +
    panel('-40,32 -78,42 -78,58 -40,76', c[1]) +
    panel('40,32 78,42 78,58 40,76', c[1]),
  stunt: (c) =>
    panel('0,-50 -112,40 -92,52 0,18', c[0]) +
    panel('0,-50 112,40 92,52 0,18', c[0]) +
    panel('0,-50 -56,0 0,18', c[1]) +
    panel('0,-50 56,0 0,18', c[1]) +
    panel('-112,40 -66,3 -52,36', c[2]) +
    panel('112,40 66,3 52,36', c[2]) +
    `<path d="M0 -50V18M-54 0L54 0M0 -50L-112 40M0 -50L112 40" ${SPAR}/>`,
  bird: (c, r) =>
    `<path d="M0 -40 C-30 -66 -76 -60 -112 -18 C-80 -30 -54 -20 -40 6 L-14 20 L0 70 L14 20 L40 6 C54 -20 80 -30 112 -18 C76 -60 30 -66 0 -40z" fill="${c[0]}" ${EDGE}/><path d="M0 -40 C-20 -52 -50 -50 -70 -34 C-48 -32 -30 -20 -20 0 L0 16 L20 0 C30 -20 48 -32 70 -34 C50 -50 20 -52 0 -40z" fill="${c[1]}"/><circle cx="0" cy="-42" r="11" fill="${c[2]}"/>` +
    tails([-10, 10], 62, 80, [c[0] ?? '', c[1] ?? ''], r),
  star: (c, r) =>
    Array.from(
      { length: 8 },
      (_, i) =>
        `<g transform="rotate(${i * 45})">${panel('0,-96 -28,-34 0,0', c[i % 2])}${panel('0,-96 28,-34 0,0', c[2 + (i % 2)])}</g>`,
    ).join('') + tails([-24, 24], 76, 130, [c[0] ?? '', c[2] ?? ''], r),
  dragon: (c) =>
    Array.from({ length: 16 }, (_, i) => {
      const t = i / 15;
      return `<ellipse cx="${-90 + 175 * t}" cy="${-70 + 120 * t + 26 * Math.sin(t * 9)}" rx="${20 - 9 * t}" ry="${20 - 9 * t}" fill="${c[i % 4]}" ${EDGE}/>`;
    })
      .reverse()
      .join('') +
    `<path d="M-112 -92 q22 -14 44 0 l-6 36 q-16 12 -32 0z" fill="${c[0]}" ${EDGE}/><circle cx="-100" cy="-80" r="5" fill="#fff"/><circle cx="-80" cy="-80" r="5" fill="#fff"/><circle cx="-100" cy="-80" r="2.4"/><circle cx="-80" cy="-80" r="2.4"/>`,
  octopus: (c, r) =>
    `<ellipse cx="0" cy="-52" rx="54" ry="48" fill="${c[0]}" ${EDGE}/><ellipse cx="-14" cy="-70" rx="26" ry="18" fill="#ffffff30"/>` +
    tails([-44, -30, -16, 0, 16, 30, 44], -14, 170, [c[0] ?? '', c[1] ?? ''], r).replaceAll(
      'stroke-width="4"',
      'stroke-width="9"',
    ) +
    `<circle cx="-18" cy="-50" r="9" fill="#fff"/><circle cx="18" cy="-50" r="9" fill="#fff"/><circle cx="-16" cy="-48" r="4"/><circle cx="20" cy="-48" r="4"/>`,
  edo: (c, r) =>
    panel('-66,-94 66,-94 66,94 -66,94', c[3]) +
    `<path d="M-66 -94h132v44q-66 36 -132 0z" fill="${c[0]}"/><circle cx="0" cy="10" r="44" fill="${c[1]}"/><path d="M-50 60 q50 -50 100 0 v34 h-100z" fill="${c[2]}"/><path d="M-66 -94V94M0 -94V94M66 -94V94M-66 -40H66M-66 20H66M-66 70H66" ${spar(1.6, 0.3)}/>` +
    tails([-40, 40], 94, 110, [c[0] ?? ''], r),
  roller: (c, r) =>
    panel('0,-90 -92,-40 0,-16 92,-40', c[0]) +
    panel('0,-90 -40,-50 0,-16 40,-50', c[1]) +
    panel('0,22 -58,40 0,92 58,40', c[2]) +
    `<path d="M0 -90V92M-92 -40H92" ${SPAR}/>` +
    tail(0, 92, 60, c[1], r),
};

export interface PlacedKite {
  kind: KiteKind;
  x: number;
  y: number;
  /** The length of its longer side in pixels, about. */
  size: number;
  rotation: number;
  colours: readonly string[];
}

/** The part of the drawing's own plane that is painted: kites with their tails. */
const BOX = { left: -180, top: -150, width: 360, height: 480 };

/** A kite that fills the picture is drawn with as many pixels across, and enlarged: nobody sees it. */
const MAX_KITE_PIXELS = 720;

/** A kite as SVG, in a box that holds its tails. */
export function kiteSvg(kind: KiteKind, colours: readonly string[], random: Random, pixels: number): string {
  const drawing = DRAWINGS[kind](colours, random);
  return `<svg xmlns="http://www.w3.org/2000/svg" width="${pixels}" height="${Math.round((pixels * BOX.height) / BOX.width)}" viewBox="${BOX.left} ${BOX.top} ${BOX.width} ${BOX.height}">${drawing}</svg>`;
}

/** Draws a kite at its place, its sail bent by wind and light. `shade` is how dark its lower side is, 0 to 1. */
export async function drawKite(context: Context, kite: PlacedKite, random: Random, shade = 0.3): Promise<void> {
  const scale = kite.size / 200;
  const width = Math.max(8, Math.min(MAX_KITE_PIXELS, Math.ceil(BOX.width * scale)));
  const height = Math.ceil((width * BOX.height) / BOX.width);
  const canvas = createCanvas(width, height);
  const sail = canvas.getContext('2d');
  sail.drawImage(await loadImage(Buffer.from(kiteSvg(kite.kind, kite.colours, random, width))), 0, 0, width, height);
  sail.globalCompositeOperation = 'source-atop';
  const light = sail.createLinearGradient(0, height * 0.1, width * 0.8, height * 0.62);
  light.addColorStop(0, `rgba(255, 250, 235, ${0.22 * (1 - shade)})`);
  light.addColorStop(0.5, 'rgba(255, 250, 235, 0)');
  light.addColorStop(1, `rgba(10, 14, 30, ${0.2 + shade * 0.5})`);
  sail.fillStyle = light;
  sail.fillRect(0, 0, width, height);
  context.save();
  context.translate(kite.x, kite.y);
  context.rotate((kite.rotation * Math.PI) / 180);
  // Seen a little from the side.
  context.scale(random.between(0.82, 1), 1);
  context.drawImage(canvas, BOX.left * scale, BOX.top * scale, BOX.width * scale, BOX.height * scale);
  context.restore();
}
