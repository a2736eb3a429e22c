// Reading the text in a picture: on this machine, by a program with limits.

import sharp from 'sharp';
import type { FileKind } from '@stellin/core/metadata/containers/index';
import { linesOfWords, type TextLine } from '@stellin/core/pictureText/lines';
import { pixelsForLooking } from './preview';
import { runTool } from './tools';

/** Pictures are read at this many pixels on the longer side: letters of a hand’s height are seen from across a street. */
const READ_PIXELS = 2600;
const LIMITS = { seconds: 60, megabytes: 1500 };
/** Languages whose letters the program knows, and how many of them are looked for at once at most. */
const MOST_LANGUAGES = 3;
/** Not a language, but how pages are turned. */
const NO_LANGUAGES = new Set(['osd', 'snum', 'equ']);

let known: Promise<string> | undefined;

/** The lines seen in a picture. Throws an Error that says why it can’t be read, MissingTool where the program is not there. */
export async function readText(path: string, kind: FileKind, orientation: number): Promise<TextLine[]> {
  const { data, width, height } = await pixelsForLooking(path, kind, READ_PIXELS, { orientation });
  const picture = await sharp(data, { raw: { width, height, channels: 3 } })
    .greyscale()
    .png({ compressionLevel: 1 })
    .toBuffer();
  // Sparse text, in no order: signs, labels and numbers stand anywhere.
  const given = ['stdin', 'stdout', '-l', await languages(), '--psm', '11', 'tsv'];
  return linesOfWords((await runTool('tesseract', given, LIMITS, picture)).toString('utf8'), { width, height });
}

/** The languages that are installed, as the program takes them. */
async function languages(): Promise<string> {
  known ??= runTool('tesseract', ['--list-langs'], LIMITS).then((said) => {
    const [, ...names] = said.toString('utf8').trim().split('\n');
    const found = names.map((name) => name.trim()).filter((name) => /^\w+$/.test(name) && !NO_LANGUAGES.has(name));
    return found.slice(0, MOST_LANGUAGES).join('+') || 'eng';
  });
  // What is installed later is found then.
  known.catch(() => (known = undefined));
  return known;
}
