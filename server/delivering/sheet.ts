// Contact sheets, caption sheets and labels as PDF, page by page while they are read.

import sharp from 'sharp';
import { format } from 'date-fns';
import { columnFacts, type Cell as Value, type ColumnId, type TableContext } from '@stellin/core/delivering/columns';
import {
  fitInto,
  LINE_HEIGHT,
  pageLayout,
  type Box,
  type Cell,
  type PageLayout,
} from '@stellin/core/delivering/sheetLayout';
import type { SheetSettings } from '@stellin/contract/delivering';
import { numberText } from '@stellin/contract/wording';
import { wrapped } from '../paper/lettering';
import { drawLine, openPdf, type Pdf } from '../paper/pdf';
import type { PreviewOf, TablePage, TableRow } from './store';

export interface SheetContext extends TableContext {
  /** The file with the preview of a photo; null where there is none. */
  previewOf: PreviewOf;
  /** When it was made. */
  at: Date;
  /** How many photos there are: pages say how many they are. */
  photos: number;
}

const WORDS_SIZE = 8;
const INK = '#17211f';
const SOFT = '#52605c';
const JPEG_QUALITY = 88;
const HEADINGS: Record<SheetSettings['headings'], (photo: TableRow) => string> = {
  none: () => '',
  day: ({ takenAt }) => takenAt?.slice(0, 10) ?? 'Without a date',
  folder: ({ drive, folder }) => [drive, folder].filter(Boolean).join(' / '),
};

/** Writes a sheet; with `firstPage` no more than that. */
export function writeSheet(
  pages: AsyncIterable<TablePage>,
  settings: SheetSettings,
  context: SheetContext,
  firstPage = false,
): Pdf {
  const layout = pageLayout(settings);
  const document = openPdf({ ...layout, title: settings.title || 'Contact sheet', at: context.at });
  void fill(document, layout, pages, settings, context, firstPage)
    .then(() => document.end())
    .catch((error: unknown) => document.destroy(error as Error));
  return document;
}

async function fill(
  document: Pdf,
  layout: PageLayout,
  pages: AsyncIterable<TablePage>,
  settings: SheetSettings,
  context: SheetContext,
  firstPage: boolean,
): Promise<void> {
  const { cells } = layout;
  let [at, page, heading] = [cells.length, 0, ''];
  for await (const photos of pages)
    for (const photo of photos) {
      const now = HEADINGS[settings.headings](photo);
      const begins = now !== heading;
      if (at >= cells.length || (begins && at > 0)) {
        if (firstPage && page === 1) return;
        page += 1;
        at = 0;
        document.addPage();
        frame(document, layout, settings, context, page, now);
      }
      if (begins) document.outline.addItem(now);
      heading = now;
      const cell = cells[at++];
      if (cell) await drawPhoto(document, cell, photo, settings, context);
    }
  if (page === 0) document.addPage();
}

function frame(
  document: Pdf,
  { head, foot, cells }: PageLayout,
  { title, headings }: SheetSettings,
  { at, photos }: SheetContext,
  page: number,
  heading: string,
): void {
  if (head) {
    drawLine(document, title, { ...head, width: head.width * 0.6 }, 12, INK);
    drawLine(document, heading || format(at, 'd MMMM yyyy'), head, 9, SOFT, 'right');
  }
  // Under headings each begins a page of its own, so that nobody knows before how many there will be.
  const pagesInAll = headings === 'none' ? ` of ${numberText(Math.max(1, Math.ceil(photos / cells.length)))}` : '';
  if (foot) drawLine(document, `Page ${numberText(page)}${pagesInAll}`, foot, 8, SOFT, 'right');
}

async function drawPhoto(
  document: Pdf,
  { picture, words }: Cell,
  photo: TableRow,
  { fields, layout }: SheetSettings,
  context: SheetContext,
): Promise<void> {
  const file = await context.previewOf(photo);
  if (file) {
    const { data, info } = await sharp(file)
      .flatten({ background: '#ffffff' })
      .jpeg({ quality: JPEG_QUALITY })
      .toBuffer({ resolveWithObject: true });
    const { x, y, width, height } = fitInto(info, picture);
    document.image(data, x, layout === 'grid' ? y : picture.y, { width, height });
  } else document.rect(picture.x, picture.y, picture.width, picture.height).lineWidth(0.5).stroke('#cfd6d3');
  drawWords(document, wordsOf(photo, fields, layout, context), words);
}

/** What stands beside a picture: on a caption sheet each with its label, and only what there is. */
function wordsOf(
  photo: TableRow,
  fields: readonly ColumnId[],
  layout: SheetSettings['layout'],
  context: TableContext,
): string[] {
  return fields.flatMap((id) => {
    const { label, value } = columnFacts(id);
    const text = textOf(value(photo, context));
    if (layout !== 'caption') return [text];
    return text === '' ? [] : [`${label}: ${text}`];
  });
}

function textOf(value: Value): string {
  return value === null ? '' : typeof value === 'object' ? value.join(', ') : String(value);
}

/** Lines of words as far as the box goes; what is longer ends in an ellipsis. */
function drawWords(document: Pdf, texts: readonly string[], box: Box): void {
  const room = Math.floor(box.height / LINE_HEIGHT);
  let line = 0;
  for (const [i, text] of texts.entries()) {
    // Every text that follows keeps its line, so the first ones do not take all.
    const most = Math.max(1, room - line - (texts.length - 1 - i));
    const lines = wrapped(text, WORDS_SIZE, box.width);
    const shown = lines.slice(0, most);
    if (lines.length > most) shown[most - 1] = `${shown[most - 1] ?? ''} …`;
    for (const each of shown) {
      if (line >= room) return;
      drawLine(document, each, { ...box, y: box.y + line * LINE_HEIGHT }, WORDS_SIZE, i === 0 ? INK : SOFT);
      line += 1;
    }
  }
}
