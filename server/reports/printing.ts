// A report on paper: its tables one below the other, on as many pages as they need, each with its number.

import type { Report, ReportSection } from '@stellin/core/reports/tables';
import { PAPERS } from '@stellin/core/delivering/sheetLayout';
import { wrapped } from '../paper/lettering';
import { drawLine, openPdf, type Pdf } from '../paper/pdf';

const MARGIN = 36;
const INK = '#17211f';
const SOFT = '#52605c';
const LINE = 11;
const WORDS = 8;
const GAP = 8;
const [WIDTH, HEIGHT] = [PAPERS.a4.height, PAPERS.a4.width];
const ROOM = WIDTH - 2 * MARGIN;
/** How narrow a column may be, in points. */
const LEAST_WIDTH = 34;
/** Longer texts are wrapped: they make a column no wider than this many letters. */
const MOST_LETTERS = 60;

/** Draws a report; the document is ended when all is drawn. */
export function printReport(report: Report): Pdf {
  const document = openPdf({ width: WIDTH, height: HEIGHT, title: `${report.title}: ${report.about}`, at: new Date() });
  const page: { number: number; y: number } = { number: 0, y: HEIGHT };
  const turn = () => {
    document.addPage({ size: [WIDTH, HEIGHT], margin: 0 });
    page.number += 1;
    page.y = MARGIN;
    const foot = { x: MARGIN, y: HEIGHT - MARGIN + 10, width: ROOM };
    drawLine(document, `${report.about} · ${report.madeAt}`, foot, WORDS, SOFT);
    drawLine(document, String(page.number), foot, WORDS, SOFT, 'right');
  };
  /** Makes room of a height, on the next page where there is not enough. */
  const need = (height: number): boolean => {
    if (page.y + height <= HEIGHT - MARGIN) return false;
    turn();
    return true;
  };
  turn();
  drawLine(document, report.title, { x: MARGIN, y: page.y, width: ROOM }, 16, INK);
  drawLine(document, report.about, { x: MARGIN, y: page.y + 22, width: ROOM }, 10, SOFT);
  page.y += 44;
  for (const each of report.sections) drawSection(document, each, page, need);
  document.end();
  return document;
}

function drawSection(
  document: Pdf,
  { title, empty, columns, rows }: ReportSection,
  page: { y: number },
  need: (height: number) => boolean,
): void {
  need(5 * LINE);
  drawLine(document, title, { x: MARGIN, y: page.y, width: ROOM }, 11, INK);
  page.y += 18;
  if (rows.length === 0) {
    drawLine(document, empty, { x: MARGIN, y: page.y, width: ROOM }, WORDS, SOFT);
    page.y += 2 * LINE;
    return;
  }
  const widths = widthsOf([columns.map(({ label }) => label), ...rows.map((cells) => cells.map(({ text }) => text))]);
  const starts = widths.map((_, i) => MARGIN + widths.slice(0, i).reduce((sum, width) => sum + width, 0));
  const draw = (texts: readonly string[][], colour: string) => {
    texts.forEach((lines, i) =>
      lines.forEach((line, at) =>
        drawLine(
          document,
          line,
          { x: starts[i] ?? MARGIN, y: page.y + at * LINE, width: (widths[i] ?? 0) - GAP },
          WORDS,
          colour,
          columns[i]?.isNumber ? 'right' : 'left',
        ),
      ),
    );
    page.y += Math.max(...texts.map(({ length }) => length)) * LINE + 2;
  };
  const head = () => {
    draw(
      columns.map(({ label }) => [label]),
      SOFT,
    );
    document
      .moveTo(MARGIN, page.y - 1)
      .lineTo(MARGIN + widths.reduce((sum, width) => sum + width, 0), page.y - 1)
      .lineWidth(0.4)
      .stroke(SOFT);
    page.y += 2;
  };
  head();
  for (const cells of rows) {
    const texts = cells.map(({ text }, i) => wrapped(text, WORDS, (widths[i] ?? 0) - GAP));
    if (need(Math.max(...texts.map(({ length }) => length)) * LINE + 2)) head();
    draw(texts, INK);
  }
  page.y += LINE;
}

/** Shares the width of the page out by how long the texts of each column are. */
function widthsOf(rows: readonly (readonly string[])[]): number[] {
  const columns = rows[0]?.length ?? 1;
  const wanted = Array.from({ length: columns }, (_, i) =>
    Math.max(LEAST_WIDTH, ...rows.map((row) => Math.min(MOST_LETTERS, row[i]?.length ?? 0) * WORDS * 0.55 + GAP)),
  );
  const sum = wanted.reduce((total, width) => total + width, 0);
  return wanted.map((width) => (width * ROOM) / Math.max(ROOM, sum));
}
