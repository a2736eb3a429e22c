// Where things stand on the pages of a contact sheet, a caption sheet or a sheet of labels. All lengths are points (1/72 inch), from
// the top left of the page.

export const PAPERS = {
  a4: { label: 'A4', width: 595.28, height: 841.89 },
  a3: { label: 'A3', width: 841.89, height: 1190.55 },
  a5: { label: 'A5', width: 419.53, height: 595.28 },
  letter: { label: 'Letter', width: 612, height: 792 },
} as const satisfies Record<string, { label: string; width: number; height: number }>;
export type Paper = keyof typeof PAPERS;
export const PAPER_IDS = Object.keys(PAPERS) as [Paper, ...Paper[]];

export const SHEET_LAYOUTS = {
  grid: 'Contact sheet',
  caption: 'Caption sheet: picture and fields beside',
  labels: 'Labels',
} as const satisfies Record<string, string>;
export type SheetLayout = keyof typeof SHEET_LAYOUTS;
export const SHEET_LAYOUT_IDS = Object.keys(SHEET_LAYOUTS) as [SheetLayout, ...SheetLayout[]];

export interface Box {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Where one photo stands: its picture, and what is said of it. */
export interface Cell {
  picture: Box;
  words: Box;
}

interface Asked {
  paper: Paper;
  landscape: boolean;
  layout: SheetLayout;
  rows: number;
  columns: number;
  /** In millimetres. */
  label: { width: number; height: number; gap: number; top: number; left: number };
  fields: readonly unknown[];
}

const POINTS_PER_MM = 72 / 25.4;
const MARGIN = 36;
const HEAD = 26;
const FOOT = 18;
const GAP = 10;
export const LINE_HEIGHT = 10.5;

export interface PageLayout {
  width: number;
  height: number;
  /** Cells in the order in which photos fill them. */
  cells: readonly Cell[];
  /** The line on top, and the one at the bottom; undefined on labels. */
  head: Box | undefined;
  foot: Box | undefined;
}

/** The layout of every page. */
export function pageLayout(asked: Asked): PageLayout {
  const { width: short, height: long } = PAPERS[asked.paper];
  const [width, height] = asked.landscape ? [long, short] : [short, long];
  const makers: Record<SheetLayout, () => Omit<PageLayout, 'width' | 'height'>> = {
    grid: () => grid(asked, width, height),
    caption: () => captions(asked, width, height),
    labels: () => labels(asked, width, height),
  };
  return { width, height, ...makers[asked.layout]() };
}

function framed(width: number, height: number): { head: Box; foot: Box; body: Box } {
  const inner = width - 2 * MARGIN;
  return {
    head: { x: MARGIN, y: MARGIN - 8, width: inner, height: HEAD },
    foot: { x: MARGIN, y: height - MARGIN - FOOT + 8, width: inner, height: FOOT },
    body: { x: MARGIN, y: MARGIN + HEAD, width: inner, height: height - 2 * MARGIN - HEAD - FOOT },
  };
}

function grid({ rows, columns, fields }: Asked, width: number, height: number) {
  const { head, foot, body } = framed(width, height);
  const cell = { width: (body.width - GAP * (columns - 1)) / columns, height: (body.height - GAP * (rows - 1)) / rows };
  // The picture keeps at least half of its cell, however many fields there are.
  const words = Math.min(fields.length * LINE_HEIGHT + (fields.length > 0 ? 3 : 0), cell.height / 2);
  const cells = places(rows, columns).map(({ row, column }): Cell => {
    const x = body.x + column * (cell.width + GAP);
    const y = body.y + row * (cell.height + GAP);
    return {
      picture: { x, y, width: cell.width, height: cell.height - words },
      words: { x, y: y + cell.height - words + 3, width: cell.width, height: Math.max(0, words - 3) },
    };
  });
  return { head, foot, cells };
}

const CAPTION_PICTURE_SHARE = 0.42;

function captions({ rows }: Asked, width: number, height: number) {
  const { head, foot, body } = framed(width, height);
  const high = (body.height - GAP * (rows - 1)) / rows;
  const wide = body.width * CAPTION_PICTURE_SHARE;
  const cells = places(rows, 1).map(({ row }): Cell => {
    const y = body.y + row * (high + GAP);
    return {
      picture: { x: body.x, y, width: wide, height: high },
      words: { x: body.x + wide + 2 * GAP, y, width: body.width - wide - 2 * GAP, height: high },
    };
  });
  return { head, foot, cells };
}

function labels({ label }: Asked, width: number, height: number) {
  const mm = (length: number) => length * POINTS_PER_MM;
  const [wide, high, gap] = [Math.max(1, mm(label.width)), Math.max(1, mm(label.height)), mm(label.gap)];
  const fit = (room: number, size: number) => Math.max(1, Math.floor((room + gap) / (size + gap)));
  const columns = fit(width - 2 * mm(label.left), wide);
  const rows = fit(height - 2 * mm(label.top), high);
  const side = Math.min(high, wide / 2) - 8;
  const cells = places(rows, columns).map(({ row, column }): Cell => {
    const x = mm(label.left) + column * (wide + gap);
    const y = mm(label.top) + row * (high + gap);
    return {
      picture: { x: x + 4, y: y + 4, width: Math.max(1, side), height: Math.max(1, high - 8) },
      words: { x: x + side + 10, y: y + 4, width: Math.max(1, wide - side - 14), height: Math.max(1, high - 8) },
    };
  });
  return { head: undefined, foot: undefined, cells };
}

function places(rows: number, columns: number): { row: number; column: number }[] {
  return Array.from({ length: rows * columns }, (_, i) => ({ row: Math.floor(i / columns), column: i % columns }));
}

/** The largest box of a picture's shape within another, in its middle. */
export function fitInto({ width, height }: { width: number; height: number }, box: Box): Box {
  const scale = Math.min(box.width / width, box.height / height);
  const [wide, high] = [width * scale, height * scale];
  return { x: box.x + (box.width - wide) / 2, y: box.y + (box.height - high) / 2, width: wide, height: high };
}
