// Text seen in pictures: the lines that a program has read, out of the table in which it tells its words.

import { between, seenAt, swapsSides } from '../metadata/orientation';
import type { Box } from '../people/boxes';

/** A line of text, and where it is seen: in parts of the picture’s width and height. */
export interface TextLine {
  text: string;
  box: Box;
  /** How sure the program is of it, 0 to 1. */
  certainty: number;
}

/** Words of which the program is less sure are noise. */
const LEAST_CERTAIN_WORD = 0.4;
const LEAST_CERTAIN_LINE = 0.6;
/** Letters and digits that a line has at least. */
const LEAST_LETTERS = 2;
const MAX_LINES = 500;
const MAX_LINE_LENGTH = 500;

const COLUMNS = [
  'level',
  'page_num',
  'block_num',
  'par_num',
  'line_num',
  'word_num',
  'left',
  'top',
  'width',
  'height',
  'conf',
  'text',
];
/** The level of rows that are words. */
const WORD = '5';

/** The lines of a table of words (tab-separated, as tesseract 4 and 5 write it) about a picture of a size in pixels. What is no such row is passed over. */
export function linesOfWords(table: string, picture: { width: number; height: number }): TextLine[] {
  const lines = new Map<string, { texts: string[]; certainties: number[]; boxes: Box[] }>();
  for (const row of table.split('\n')) {
    const cells = row.split('\t');
    if (cells.length !== COLUMNS.length || cells[0] !== WORD) continue;
    const [left = NaN, top = NaN, width = NaN, height = NaN, sure = NaN] = cells.slice(6, 11).map(Number);
    const text = (cells.at(-1) ?? '').trim();
    const box = {
      left: left / picture.width,
      top: top / picture.height,
      width: width / picture.width,
      height: height / picture.height,
    };
    if (text === '' || !isInside(box) || !(sure / 100 >= LEAST_CERTAIN_WORD)) continue;
    const key = cells.slice(1, 5).join(' ');
    const line = lines.get(key) ?? { texts: [], certainties: [], boxes: [] };
    lines.set(key, line);
    line.texts.push(text);
    line.certainties.push(Math.min(1, sure / 100));
    line.boxes.push(box);
  }
  return [...lines.values()]
    .map(({ texts, certainties, boxes }) => ({
      text: texts.join(' ').slice(0, MAX_LINE_LENGTH),
      box: around(boxes),
      certainty: certainties.reduce((sum, one) => sum + one, 0) / certainties.length,
    }))
    .filter(
      ({ text, certainty }) =>
        certainty >= LEAST_CERTAIN_LINE && (text.match(/[\p{L}\p{N}]/gu)?.length ?? 0) >= LEAST_LETTERS,
    )
    .slice(0, MAX_LINES);
}

/** All lines as one text. */
export function textOfLines(lines: readonly TextLine[]): string {
  return lines.map(({ text }) => text).join('\n');
}

/** Where a box is seen in a picture that is seen in another orientation by now. */
export function boxTurned({ left, top, width, height }: Box, from: number, to: number): Box {
  const turn = between(from, to);
  const [x, y] = seenAt(turn)(left + width / 2, top + height / 2);
  const [w, h] = swapsSides(turn) ? [height, width] : [width, height];
  return { left: x - w / 2, top: y - h / 2, width: w, height: h };
}

function isInside({ left, top, width, height }: Box): boolean {
  return left >= 0 && top >= 0 && width > 0 && height > 0 && left + width <= 1.0001 && top + height <= 1.0001;
}

function around(boxes: readonly Box[]): Box {
  const [left, top] = [Math.min(...boxes.map((box) => box.left)), Math.min(...boxes.map((box) => box.top))];
  const right = Math.max(...boxes.map((box) => box.left + box.width));
  const bottom = Math.max(...boxes.map((box) => box.top + box.height));
  return { left, top, width: right - left, height: bottom - top };
}
