// Pages as PDF: opened with the fonts that ship along, with lines of words on them.

import PDFDocument from 'pdfkit';
import { fontFile, runsOf, SCRIPTS } from './lettering';

export type Pdf = InstanceType<typeof PDFDocument>;

interface Page {
  /** In points (1/72 inch). */
  width: number;
  height: number;
  title: string;
  /** When it was made. */
  at: Date;
}

/** Where words stand, in points from the upper left corner. */
interface Place {
  x: number;
  y: number;
  width: number;
}

/** A document without a page yet. */
export function openPdf({ width, height, title, at }: Page): Pdf {
  const document = new PDFDocument({
    size: [width, height],
    margin: 0,
    autoFirstPage: false,
    info: { Title: title, Creator: 'Stellin', CreationDate: at },
  });
  for (const script of SCRIPTS) document.registerFont(script, fontFile(script, 400));
  return document;
}

/** One line, in the fonts that have its letters, cut where its place ends. */
export function drawLine(
  document: Pdf,
  text: string,
  place: Place,
  size: number,
  colour: string,
  align: 'left' | 'middle' | 'right' = 'left',
): void {
  const runs = runsOf(text);
  document.fontSize(size).fillColor(colour);
  const widths = runs.map(({ script, text: run }) => document.font(script).widthOfString(run));
  const free = place.width - widths.reduce((sum, width) => sum + width, 0);
  const BEGINS = { left: 0, middle: free / 2, right: free };
  let x = place.x + BEGINS[align];
  runs.forEach(({ script, text: run }, i) => {
    if (x < place.x + place.width) document.font(script).text(run, x, place.y, { lineBreak: false });
    x += widths[i] ?? 0;
  });
}
