// Small things that make a place: houses, boats, trees, grass, people far away, gulls, banners.

import { css, litBy, mix, scaled, type Colour, type Light } from './light';
import type { Random } from './random';
import type { Context } from './textures';

export function polygon(
  context: Context,
  points: readonly (readonly [number, number])[],
  fill: Context['fillStyle'],
): void {
  context.fillStyle = fill;
  context.beginPath();
  for (const [x, y] of points) context.lineTo(x, y);
  context.closePath();
  context.fill();
}

export function lighthouse(context: Context, x: number, base: number, size: number, light: Light): void {
  const w = size * 0.16;
  const lit = (colour: Colour) => css(litBy(mix(colour, light.sky[2], 0.12), light));
  const tower = context.createLinearGradient(x - w / 2, 0, x + w / 2, 0);
  tower.addColorStop(0, lit([246, 242, 232]));
  tower.addColorStop(1, lit([176, 172, 166]));
  polygon(
    context,
    [
      [x - w * 0.5, base],
      [x + w * 0.5, base],
      [x + w * 0.32, base - size * 0.84],
      [x - w * 0.32, base - size * 0.84],
    ],
    tower,
  );
  for (const at of [0.14, 0.42, 0.68]) {
    const half = w * (0.5 - 0.21 * at);
    polygon(
      context,
      [
        [x - half, base - size * at],
        [x + half, base - size * at],
        [x + half * 0.94, base - size * (at + 0.13)],
        [x - half * 0.94, base - size * (at + 0.13)],
      ],
      lit([178, 62, 48]),
    );
  }
  context.fillStyle = lit([52, 60, 68]);
  context.fillRect(x - w * 0.42, base - size * 0.86, w * 0.84, size * 0.025);
  context.fillStyle = light.name === 'night' || light.name === 'dusk' ? css([255, 240, 190]) : lit([120, 140, 150]);
  context.fillRect(x - w * 0.22, base - size * 0.95, w * 0.44, size * 0.09);
  polygon(
    context,
    [
      [x - w * 0.3, base - size * 0.95],
      [x + w * 0.3, base - size * 0.95],
      [x, base - size * 1.04],
    ],
    lit([150, 48, 40]),
  );
}

export function house(context: Context, x: number, base: number, size: number, light: Light, random: Random): void {
  const lit = (colour: Colour) => css(litBy(mix(colour, light.sky[2], 0.25), light));
  const [w, h] = [size * random.between(0.9, 1.7), size * random.between(0.5, 0.8)];
  context.fillStyle = lit(
    random.pick<Colour>([
      [232, 226, 212],
      [206, 176, 150],
      [188, 196, 200],
      [168, 92, 78],
    ]),
  );
  context.fillRect(x, base - h, w, h);
  polygon(
    context,
    [
      [x - w * 0.06, base - h],
      [x + w * 1.06, base - h],
      [x + w * 0.9, base - h - size * 0.36],
      [x + w * 0.1, base - h - size * 0.36],
    ],
    lit(
      random.pick<Colour>([
        [146, 74, 58],
        [90, 92, 98],
        [120, 84, 66],
      ]),
    ),
  );
  const glass = ['night', 'dusk'].includes(light.name) ? css([255, 222, 140]) : lit([86, 98, 108]);
  context.fillStyle = glass;
  for (let i = 0; i < 3; i++) context.fillRect(x + w * (0.16 + i * 0.28), base - h * 0.68, w * 0.12, h * 0.3);
}

export function boat(context: Context, x: number, y: number, size: number, light: Light, random: Random): void {
  const sail = css(
    litBy(
      random.pick<Colour>([
        [246, 242, 232],
        [222, 210, 184],
        [186, 80, 56],
        [90, 112, 140],
      ]),
      light,
    ),
  );
  const hull = css(
    litBy(
      random.pick<Colour>([
        [58, 50, 48],
        [236, 234, 228],
        [44, 72, 98],
        [150, 58, 46],
      ]),
      light,
    ),
  );
  context.globalAlpha = 0.25;
  polygon(
    context,
    [
      [x - size * 0.3, y],
      [x + size * 0.34, y],
      [x + size * 0.1, y + size * 0.6],
      [x, y + size * 0.7],
    ],
    sail,
  );
  context.globalAlpha = 1;
  polygon(
    context,
    [
      [x - size * 0.42, y - size * 0.12],
      [x + size * 0.46, y - size * 0.14],
      [x + size * 0.34, y],
      [x - size * 0.34, y],
    ],
    hull,
  );
  polygon(
    context,
    [
      [x + size * 0.02, y - size],
      [x + size * 0.02, y - size * 0.17],
      [x + size * 0.4, y - size * 0.19],
    ],
    sail,
  );
  polygon(
    context,
    [
      [x - size * 0.02, y - size * 0.9],
      [x - size * 0.02, y - size * 0.17],
      [x - size * 0.32, y - size * 0.17],
    ],
    sail,
  );
}

export function tree(context: Context, x: number, base: number, size: number, colour: Colour, random: Random): void {
  context.fillStyle = css(scaled(colour, 0.7));
  context.fillRect(x - size * 0.04, base - size * 0.4, size * 0.08, size * 0.42);
  for (let i = 0; i < 7; i++) {
    context.fillStyle = css(scaled(colour, random.between(0.82, 1.16)));
    context.beginPath();
    context.ellipse(
      x + size * random.between(-0.3, 0.3),
      base - size * random.between(0.45, 0.9),
      size * random.between(0.16, 0.3),
      size * random.between(0.14, 0.24),
      0,
      0,
      7,
    );
    context.fill();
  }
}

/** A clump of long grass that leans with the wind. */
export function tuft(context: Context, x: number, base: number, size: number, colour: Colour, random: Random): void {
  context.lineCap = 'round';
  const blades = random.int(14, 30);
  for (let i = 0; i < blades; i++) {
    const lean = size * random.between(-0.25, 0.75);
    context.strokeStyle = css(
      mix(scaled(colour, random.between(0.55, 1.1)), [224, 214, 160], random.next() ** 2 * 0.6),
      0.9,
    );
    context.lineWidth = Math.max(0.7, size * random.between(0.012, 0.03));
    context.beginPath();
    const foot = x + size * random.between(-0.22, 0.22);
    context.moveTo(foot, base);
    context.quadraticCurveTo(
      foot + lean * 0.15,
      base - size * 0.6,
      foot + lean,
      base - size * random.between(0.6, 1.05),
    );
    context.stroke();
  }
}

const COATS: readonly Colour[] = [
  [47, 72, 88],
  [140, 59, 46],
  [185, 138, 58],
  [61, 90, 69],
  [90, 74, 104],
  [32, 36, 42],
  [201, 194, 178],
  [154, 79, 99],
  [58, 110, 150],
  [214, 96, 60],
];
const TROUSERS: readonly Colour[] = [
  [43, 45, 51],
  [52, 66, 92],
  [110, 98, 82],
  [70, 62, 58],
];
const SKINS: readonly Colour[] = [
  [217, 176, 144],
  [168, 115, 79],
  [123, 79, 56],
  [230, 196, 168],
];

/** Somebody far away: seen from behind or from the side, nobody in particular. */
export function passerBy(
  context: Context,
  x: number,
  foot: number,
  size: number,
  light: Light,
  far: number,
  random: Random,
): void {
  const lit = (colour: Colour) => css(mix(litBy(colour, light), light.sky[2], far * 0.5));
  context.fillStyle = 'rgba(20, 24, 30, 0.22)';
  context.beginPath();
  context.ellipse(x + size * 0.1, foot, size * 0.26, size * 0.035, 0, 0, 7);
  context.fill();
  const step = size * random.between(0.03, 0.1);
  context.lineCap = 'round';
  context.strokeStyle = lit(random.pick(TROUSERS));
  context.lineWidth = size * 0.085;
  for (const side of [-1, 1]) {
    context.beginPath();
    context.moveTo(x + side * size * 0.035, foot - size * 0.46);
    context.lineTo(x + side * step, foot - size * 0.02);
    context.stroke();
  }
  const coat = random.pick(COATS);
  const body = context.createLinearGradient(x - size * 0.12, 0, x + size * 0.12, 0);
  body.addColorStop(0, lit(coat));
  body.addColorStop(1, lit(scaled(coat, 0.68)));
  polygon(
    context,
    [
      [x - size * 0.1, foot - size * 0.8],
      [x + size * 0.1, foot - size * 0.8],
      [x + size * 0.12, foot - size * 0.42],
      [x - size * 0.12, foot - size * 0.42],
    ],
    body,
  );
  context.strokeStyle = lit(scaled(coat, 0.85));
  context.lineWidth = size * 0.06;
  const raised = random.chance(0.35);
  for (const side of [-1, 1]) {
    context.beginPath();
    context.moveTo(x + side * size * 0.1, foot - size * 0.77);
    const up = raised && side === 1;
    context.lineTo(x + side * size * (up ? 0.2 : 0.14), foot - size * (up ? 0.9 : 0.48));
    context.stroke();
  }
  context.fillStyle = lit(random.pick(SKINS));
  context.beginPath();
  context.arc(x, foot - size * 0.9, size * 0.068, 0, 7);
  context.fill();
  context.fillStyle = lit(
    random.pick<Colour>([
      [40, 32, 28],
      [110, 80, 50],
      [190, 170, 140],
      [200, 60, 50],
      [60, 80, 110],
    ]),
  );
  context.beginPath();
  context.arc(x, foot - size * 0.915, size * 0.072, Math.PI * 0.95, Math.PI * 2.05);
  context.fill();
}

export function gull(context: Context, x: number, y: number, size: number): void {
  context.strokeStyle = 'rgba(44, 50, 56, 0.7)';
  context.lineWidth = size * 0.16;
  context.beginPath();
  context.moveTo(x - size, y);
  context.quadraticCurveTo(x - size * 0.5, y - size * 0.7, x, y);
  context.quadraticCurveTo(x + size * 0.5, y - size * 0.7, x + size, y);
  context.stroke();
}

/** A string of pennants, or tall flags, as festivals have them. */
export function bunting(
  context: Context,
  from: readonly [number, number],
  to: readonly [number, number],
  size: number,
  colours: readonly string[],
): void {
  const count = Math.max(6, Math.round(Math.abs(to[0] - from[0]) / (size * 1.5)));
  const at = (part: number): [number, number] => [
    from[0] + (to[0] - from[0]) * part,
    from[1] + (to[1] - from[1]) * part + size * 2.4 * Math.sin(Math.PI * part),
  ];
  context.strokeStyle = 'rgba(40, 40, 40, 0.6)';
  context.lineWidth = Math.max(1, size * 0.06);
  context.beginPath();
  for (let i = 0; i <= 24; i++) context.lineTo(...at(i / 24));
  context.stroke();
  for (let i = 0; i < count; i++) {
    const [x, y] = at((i + 0.5) / count);
    polygon(
      context,
      [
        [x - size * 0.45, y],
        [x + size * 0.45, y],
        [x + size * 0.1, y + size * 1.1],
      ],
      colours[i % colours.length] ?? '#c33',
    );
  }
}

/** A feather-shaped banner on a pole. */
export function banner(context: Context, x: number, foot: number, size: number, colours: readonly string[]): void {
  context.strokeStyle = 'rgba(60, 56, 50, 0.9)';
  context.lineWidth = Math.max(1, size * 0.014);
  context.beginPath();
  context.moveTo(x, foot);
  context.lineTo(x, foot - size);
  context.stroke();
  const cloth = context.createLinearGradient(x, 0, x + size * 0.24, 0);
  cloth.addColorStop(0, colours[0] ?? '#c33');
  cloth.addColorStop(1, colours[1] ?? '#eee');
  context.fillStyle = cloth;
  context.beginPath();
  context.moveTo(x, foot - size);
  context.bezierCurveTo(
    x + size * 0.26,
    foot - size * 0.98,
    x + size * 0.24,
    foot - size * 0.5,
    x + size * 0.16,
    foot - size * 0.22,
  );
  context.lineTo(x, foot - size * 0.26);
  context.fill();
}
