// Words as drawings: letters of the fonts that ship along, so that they look the same whatever fonts the machine has.

import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { create, type Font } from 'fontkit';
import { ROOT } from '../root';
import { join } from 'node:path';

export const SCRIPTS = ['latin', 'latin-ext', 'vietnamese', 'cyrillic-ext'] as const;
const resolve = createRequire(join(ROOT, 'server', 'package.json')).resolve;
let fonts: readonly Font[] | undefined;

export type Script = (typeof SCRIPTS)[number];

/** A file of the font of the interface, by the script it covers and its weight. */
export function fontFile(script: Script, weight: 400 | 600): string {
  return resolve(`@fontsource/hanken-grotesk/files/hanken-grotesk-${script}-${weight}-normal.woff`);
}

function loadFonts(): readonly Font[] {
  return (fonts ??= SCRIPTS.map((script) => {
    const font = create(readFileSync(fontFile(script, 600)));
    if (!('layout' in font)) throw new Error('the font that ships along can’t be read');
    return font;
  }));
}

export interface Lettering {
  svg: Buffer;
  width: number;
  height: number;
}

interface Look {
  /** The height of a line in pixels. */
  size: number;
  colour: string;
  opacity: number;
  /** Lines are broken here; pixels. */
  maxWidth: number;
  /** Drawn around the letters, so that they can be read on any ground. */
  halo?: string;
}

const LINE = 1.3;

/** Draws a text, in lines that are no longer than they may be. */
export function drawLettering(text: string, { size, colour, opacity, maxWidth, halo }: Look): Lettering {
  const scale = size / LINE / 1000;
  const lines = brokenLines(text, maxWidth / scale);
  const width = Math.max(1, Math.ceil(Math.max(...lines.map(widthOf)) * scale));
  const height = Math.max(1, Math.ceil(lines.length * size));
  const paths = lines.map((line, i) => {
    let x = 0;
    return [...line].map((letter) => {
      const { path, advance } = glyphOf(letter);
      const place = `translate(${(x * scale).toFixed(2)} ${(i * size + size / LINE).toFixed(2)}) scale(${scale} ${-scale})`;
      x += advance;
      return path === '' ? '' : `<path transform="${place}" d="${path}"/>`;
    });
  });
  const stroke = halo ? ` stroke="${halo}" stroke-width="60" stroke-linejoin="round" paint-order="stroke"` : '';
  return {
    svg: Buffer.from(
      `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}"><g fill="${colour}" fill-opacity="${opacity}" stroke-opacity="${opacity * 0.6}"${stroke}>${paths.flat().join('')}</g></svg>`,
    ),
    width,
    height,
  };
}

function glyphOf(letter: string): { path: string; advance: number } {
  const code = letter.codePointAt(0) ?? 0;
  const all = loadFonts();
  const font = all.find((each) => each.hasGlyphForCodePoint(code)) ?? all[0];
  const glyph = font?.glyphForCodePoint(code);
  return glyph ? { path: glyph.path.toSVG(), advance: glyph.advanceWidth } : { path: '', advance: 0 };
}

function widthOf(line: string): number {
  return [...line].reduce((sum, letter) => sum + glyphOf(letter).advance, 0);
}

function brokenLines(text: string, maxWidth: number): string[] {
  return text.split(/\r?\n/).flatMap((paragraph) => {
    const lines: string[] = [];
    let line = '';
    for (const word of paragraph.split(/\s+/)) {
      const longer = line === '' ? word : `${line} ${word}`;
      if (line !== '' && widthOf(longer) > maxWidth) {
        lines.push(line);
        line = word;
      } else line = longer;
    }
    return [...lines, line];
  });
}

/** A text in lines of at most `maxWidth`, in letters of a size; in any unit. */
export function wrapped(text: string, size: number, maxWidth: number): string[] {
  return brokenLines(text, (maxWidth / size) * 1000);
}

/** A text in parts that one font has the letters of. */
export function runsOf(text: string): { script: Script; text: string }[] {
  const runs: { script: Script; text: string }[] = [];
  for (const letter of text) {
    const code = letter.codePointAt(0) ?? 0;
    const at = loadFonts().findIndex((font) => font.hasGlyphForCodePoint(code));
    const script = SCRIPTS[Math.max(0, at)] ?? 'latin';
    const last = runs.at(-1);
    if (last?.script === script) last.text += letter;
    else runs.push({ script, text: letter });
  }
  return runs;
}
