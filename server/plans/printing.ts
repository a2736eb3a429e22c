// A plan on paper: its picture with the numbered pins, and behind it what each number stands for, with the pictures that it holds.

import sharp from 'sharp';
import { fitInto, PAPERS, type Box } from '@stellin/core/delivering/sheetLayout';
import { PIN_SHAPE_CORNERS, type Spot } from '@stellin/core/plans/pins';
import type { PlanPin } from '@stellin/contract/plans';
import { countText } from '@stellin/contract/wording';
import { wrapped } from '../paper/lettering';
import { drawLine, openPdf, type Pdf } from '../paper/pdf';

export interface PrintedPhoto {
  photoId: number;
  name: string;
  caption: string;
  takenAt: string | null;
}

export interface Printed {
  name: string;
  note: string;
  picture: Buffer;
  pins: readonly PlanPin[];
  /** The photos of each pin that are printed, by its id; an empty map for none. */
  photos: ReadonlyMap<number, readonly PrintedPhoto[]>;
  /** The file with the preview of a photo; null where there is none. */
  previewOf: (photoId: number) => Promise<string | null>;
  at: Date;
}

const MARGIN = 36;
const INK = '#17211f';
const SOFT = '#52605c';
const PAPER = '#ffffff';
/** The picture is printed with so many pixels at most. */
const PIXELS = 3000;
const DISC = 8;
const DISC_WORDS = 7.5;
const VIEW_LENGTH = 20;
/** Photos in a row of the list, and how they stand. */
const COLUMNS = 5;
const GAP = 8;
const PICTURE_HEIGHT = 78;
const LINE = 10;
const WORDS_SIZE = 7.5;
const JPEG_QUALITY = 85;

/** How the colours of pins look on paper. */
const COLOURS: Readonly<Record<PlanPin['colour'], string>> = {
  green: '#2e7d4f',
  amber: '#9a6700',
  red: '#b3382c',
  blue: '#2b5fa8',
  violet: '#6b4aa0',
  teal: '#1f7a72',
  brown: '#7a5230',
  grey: '#5a6562',
};

/** Draws a plan; the document is ended when all is drawn. */
export function printPlan(plan: Printed): Pdf {
  const { width, height } = PAPERS.a4;
  const document = openPdf({ width, height, title: plan.name, at: plan.at });
  void draw(document, plan)
    .then(() => document.end())
    .catch((error: unknown) => document.destroy(error as Error));
  return document;
}

async function draw(document: Pdf, plan: Printed): Promise<void> {
  const { data, info } = await sharp(plan.picture)
    .resize(PIXELS, PIXELS, { fit: 'inside', withoutEnlargement: true })
    .jpeg({ quality: JPEG_QUALITY })
    .toBuffer({ resolveWithObject: true });
  const [short, long] = [PAPERS.a4.width, PAPERS.a4.height];
  const [width, height] = info.width > info.height ? [long, short] : [short, long];
  document.addPage({ size: [width, height], margin: 0 });
  drawLine(document, plan.name, { x: MARGIN, y: MARGIN - 8, width: width - 2 * MARGIN }, 14, INK);
  const box = fitInto(info, { x: MARGIN, y: MARGIN + 16, width: width - 2 * MARGIN, height: height - 2 * MARGIN - 16 });
  document.image(data, box.x, box.y, { width: box.width, height: box.height });
  document.rect(box.x, box.y, box.width, box.height).lineWidth(0.5).stroke(SOFT);
  for (const pin of plan.pins) if (pin.corners) drawArea(document, pin, pin.corners, box);
  for (const pin of plan.pins) drawPin(document, pin, box);
  await drawList(document, plan);
}

const onPaper = ({ x, y }: Spot, box: Box) => ({ x: box.x + x * box.width, y: box.y + y * box.height });

function drawArea(document: Pdf, { colour }: PlanPin, corners: readonly Spot[], box: Box): void {
  const points = corners.map((corner): [number, number] => {
    const { x, y } = onPaper(corner, box);
    return [x, y];
  });
  document
    .polygon(...points)
    .fillOpacity(0.18)
    .fill(COLOURS[colour]);
  document.fillOpacity(1);
  document
    .polygon(...points)
    .lineWidth(1)
    .stroke(COLOURS[colour]);
}

/** A disc with the number; a view has an arrow besides. */
function drawPin(document: Pdf, pin: PlanPin, box: Box): void {
  const { x, y } = onPaper(pin, box);
  if (pin.direction !== null) {
    document.save().translate(x, y).rotate(pin.direction);
    document.polygon([-4, -DISC + 1], [4, -DISC + 1], [0, -VIEW_LENGTH]).fill(COLOURS[pin.colour]);
    document.restore();
  }
  outline(document, pin, { x, y });
  document.lineWidth(1).fillAndStroke(COLOURS[pin.colour], PAPER);
  drawLine(
    document,
    String(pin.number),
    { x: x - DISC, y: y - DISC_WORDS / 2 - 1, width: 2 * DISC },
    DISC_WORDS,
    PAPER,
    'middle',
  );
}

/** Goes around a pin by its shape. */
function outline(document: Pdf, { shape }: PlanPin, { x, y }: Spot): Pdf {
  const corners = PIN_SHAPE_CORNERS[shape].map(([right, down]): [number, number] => [
    x + right * DISC,
    y + down * DISC,
  ]);
  return corners.length === 0 ? document.circle(x, y, DISC) : document.polygon(...corners);
}

async function drawList(document: Pdf, { pins, photos, name, previewOf }: Printed): Promise<void> {
  const { width, height } = PAPERS.a4;
  const inner = width - 2 * MARGIN;
  const bottom = height - MARGIN;
  let y = bottom;
  const room = (wanted: number) => {
    if (y + wanted <= bottom) return;
    document.addPage({ size: [width, height], margin: 0 });
    drawLine(document, name, { x: MARGIN, y: MARGIN - 14, width: inner }, 9, SOFT);
    y = MARGIN + 4;
  };
  const cell = (inner - (COLUMNS - 1) * GAP) / COLUMNS;
  for (const pin of pins) {
    const shown = photos.get(pin.id) ?? [];
    const notes = pin.note === '' ? [] : wrapped(pin.note, WORDS_SIZE + 1, inner - 28);
    room(24 + (shown.length > 0 ? PICTURE_HEIGHT + 2 * LINE : 0));
    outline(document, pin, { x: MARGIN + DISC, y: y + DISC });
    document.fill(COLOURS[pin.colour]);
    drawLine(
      document,
      String(pin.number),
      { x: MARGIN, y: y + DISC - DISC_WORDS / 2 - 1, width: 2 * DISC },
      DISC_WORDS,
      PAPER,
      'middle',
    );
    drawLine(document, pin.label || `Pin ${pin.number}`, { x: MARGIN + 24, y: y + 2, width: inner * 0.6 }, 10, INK);
    const said = [pin.layer, pin.termLabel, pin.placeName, countText(pin.photos, 'photo')].filter(Boolean).join(' · ');
    drawLine(document, said, { x: MARGIN + inner * 0.5, y: y + 3, width: inner * 0.5 }, 8, SOFT, 'right');
    y += 20;
    for (const line of notes) {
      room(LINE + 2);
      drawLine(document, line, { x: MARGIN + 24, y, width: inner - 28 }, WORDS_SIZE + 1, SOFT);
      y += LINE + 1;
    }
    for (let i = 0; i < shown.length; i += COLUMNS) {
      room(PICTURE_HEIGHT + 2 * LINE + GAP);
      for (const [at, photo] of shown.slice(i, i + COLUMNS).entries())
        await drawPhoto(
          document,
          photo,
          { x: MARGIN + at * (cell + GAP), y, width: cell, height: PICTURE_HEIGHT },
          previewOf,
        );
      y += PICTURE_HEIGHT + 2 * LINE + GAP;
    }
    y += GAP;
  }
}

async function drawPhoto(
  document: Pdf,
  { photoId, name, caption, takenAt }: PrintedPhoto,
  box: Box,
  previewOf: Printed['previewOf'],
): Promise<void> {
  const file = await previewOf(photoId);
  if (file) {
    const { data, info } = await sharp(file)
      .flatten({ background: PAPER })
      .jpeg({ quality: JPEG_QUALITY })
      .toBuffer({ resolveWithObject: true });
    const place = fitInto(info, box);
    document.image(data, box.x, box.y + box.height - place.height, { width: place.width, height: place.height });
  } else document.rect(box.x, box.y, box.width, box.height).lineWidth(0.5).stroke(SOFT);
  const below = { ...box, y: box.y + box.height + 2 };
  const [first = ''] = wrapped(caption || name, WORDS_SIZE, box.width);
  drawLine(document, first, below, WORDS_SIZE, INK);
  drawLine(
    document,
    [takenAt, caption ? name : ''].filter(Boolean).join(' · '),
    { ...below, y: below.y + LINE },
    WORDS_SIZE,
    SOFT,
  );
}
