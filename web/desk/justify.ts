// Justified rows: whole photos, never cropped, in rows that all fill the width. The breaks are chosen so that the heights
// of the rows are as near as can be to the one wanted, so no row of a full block is left ragged.

export interface LaidPhoto {
  /** Its place among those given. */
  index: number;
  left: number;
  top: number;
  width: number;
  height: number;
}

export interface Layout {
  rows: LaidPhoto[][];
  height: number;
}

export interface LayoutOptions {
  width: number;
  rowHeight: number;
  gap: number;
  /** Height of the caption below each photo. */
  caption: number;
  /** The last row of the last block is not stretched. */
  last: boolean;
}

const NARROWEST = 0.4;
const WIDEST = 3.5;
/** Assumed where the size is not known. */
export const USUAL_ASPECT = 1.45;

/** Lays photos of the given aspect ratios (width by height) in rows. */
export function justify(aspects: readonly number[], options: LayoutOptions): Layout {
  const limited = aspects.map((aspect) => Math.min(WIDEST, Math.max(NARROWEST, aspect)));
  const rows: LaidPhoto[][] = [];
  let top = 0;
  const starts = bestBreaks(limited, options);
  starts.forEach((start, i) => {
    const end = starts[i + 1] ?? limited.length;
    const loose = options.last && i === starts.length - 1;
    const full = heightOf(limited, start, end, options);
    const height = loose ? Math.min(full, options.rowHeight) : full;
    let left = 0;
    rows.push(
      limited.slice(start, end).map((aspect, k) => {
        const photo = { index: start + k, left, top, width: aspect * height, height };
        left += photo.width + options.gap;
        return photo;
      }),
    );
    top += height + options.caption + options.gap;
  });
  return { rows, height: top };
}

/** The height a block of photos not yet known will have, about. */
export function estimatedHeight(count: number, { width, rowHeight, gap, caption }: LayoutOptions): number {
  const perRow = Math.max(1, width / (USUAL_ASPECT * rowHeight + gap));
  return Math.ceil(count / perRow) * (rowHeight + caption + gap);
}

function heightOf(aspects: readonly number[], start: number, end: number, { width, gap }: LayoutOptions): number {
  let sum = 0;
  for (let i = start; i < end; i++) sum += aspects[i] ?? USUAL_ASPECT;
  return Math.max(1, (width - gap * (end - start - 1)) / sum);
}

/** Where rows start, by dynamic programming over the squared departure from the wanted height. */
function bestBreaks(aspects: readonly number[], options: LayoutOptions): number[] {
  const count = aspects.length;
  const cost = new Array<number>(count + 1).fill(Infinity);
  const from = new Array<number>(count + 1).fill(0);
  cost[0] = 0;
  for (let end = 1; end <= count; end++) {
    for (let start = end - 1; start >= 0; start--) {
      const height = heightOf(aspects, start, end, options);
      const short = height < options.rowHeight;
      const loose = options.last && end === count && !short;
      const departure = loose ? 0 : Math.log(height / options.rowHeight) ** 2;
      const total = (cost[start] ?? Infinity) + departure;
      if (total < (cost[end] ?? Infinity)) {
        cost[end] = total;
        from[end] = start;
      }
      if (height < options.rowHeight / 3) break;
    }
  }
  const starts: number[] = [];
  for (let end = count; end > 0; end = from[end] ?? 0) starts.unshift(from[end] ?? 0);
  return starts;
}

/** The photo in the row above or below whose middle is nearest. Undefined at the edge of the layout. */
export function neighbour({ rows }: Layout, index: number, step: 1 | -1): number | undefined {
  const at = rows.findIndex((row) => row.some((photo) => photo.index === index));
  const photo = rows[at]?.find((candidate) => candidate.index === index);
  const target = rows[at + step];
  return photo && target && nearest(target, photo.left + photo.width / 2);
}

/** The photo of a row whose middle is nearest to a place. */
export function nearest(row: readonly LaidPhoto[], x: number): number | undefined {
  const distance = (photo: LaidPhoto) => Math.abs(photo.left + photo.width / 2 - x);
  return row.reduce<LaidPhoto | undefined>(
    (best, photo) => (best && distance(best) <= distance(photo) ? best : photo),
    undefined,
  )?.index;
}
