// Which country a point lies in, by the outlines of all. The world is cut into cells; of each it is known in which shapes its
// south-western corner lies, so that only the few edges in the cell decide about a point.

import type { Point } from './areas';

/** A ring of corners [longitude, latitude] in degrees, the first and last the same, as GeoJSON has them (RFC 7946). */
export type Ring = readonly (readonly number[])[];

const CELLS_PER_DEGREE = 2;
const COLUMNS = 360 * CELLS_PER_DEGREE;
const ROWS = 180 * CELLS_PER_DEGREE;
/** Numbers an edge is kept as: longitude and latitude of both ends, and whose it is. */
const PER_EDGE = 5;

/** The edges of all outlines, and what is known of each cell. */
export interface PackedBorders {
  edges: Float64Array;
  /** Where the edges of each cell begin in `ofCell`, row by row from the south-western one on. */
  begins: Int32Array;
  ofCell: Int32Array;
  /** Where the shapes begin in `shapes` in which the south-western corner of each cell lies. */
  cornerBegins: Int32Array;
  shapes: Int32Array;
}

/** The edges of all outlines by cell, before it is known in which shapes the corners of cells lie. */
type Cells = Omit<PackedBorders, 'cornerBegins' | 'shapes'>;

export class Borders {
  constructor(readonly packed: PackedBorders) {}

  /** The outlines of each shape: its rings, holes among them. */
  static of(shapes: readonly (readonly Ring[])[]): Borders {
    const edges: number[] = [];
    shapes.forEach((rings, shape) => {
      for (const ring of rings)
        for (let i = 1; i < ring.length; i++) {
          const [x1 = 0, y1 = 0] = ring[i - 1] ?? [];
          const [x2 = 0, y2 = 0] = ring[i] ?? [];
          edges.push(x1, y1, x2, y2, shape);
        }
    });
    const cells = cellsOf(Float64Array.from(edges));
    const cornerBegins = new Int32Array(COLUMNS * ROWS + 1);
    const ofCorners: number[] = [];
    for (let row = 0; row < ROWS; row++)
      alongRow(cells, row, (cell, inside) => {
        if (inside.size > 0) ofCorners.push(...[...inside].sort((a, b) => a - b));
        cornerBegins[cell + 1] = ofCorners.length;
      });
    return new Borders({ ...cells, cornerBegins, shapes: Int32Array.from(ofCorners) });
  }

  /** Which shape a point lies in, by its number; -1 for none. Where shapes overlap, the last. */
  find({ latitude, longitude }: Point): number {
    const [row, column] = [rowOf(latitude), columnOf(longitude)];
    const cell = row * COLUMNS + column;
    const { edges, begins, ofCell, cornerBegins, shapes } = this.packed;
    const [first, end] = [cornerBegins[cell] ?? 0, cornerBegins[cell + 1] ?? 0];
    const [from, to] = [begins[cell] ?? 0, begins[cell + 1] ?? 0];
    if (from === to) return first === end ? -1 : (shapes[end - 1] ?? -1);
    // From the corner north along the side of the cell, then east to the point: each edge on the way is one's entry or exit.
    const [west, south] = [column / CELLS_PER_DEGREE - 180, row / CELLS_PER_DEGREE - 90];
    const inside = new Set(shapes.subarray(first, end));
    for (let i = from; i < to; i++) {
      const edge = ofCell[i] ?? 0;
      const [x1, y1] = [edges[edge] ?? 0, edges[edge + 1] ?? 0];
      const [x2, y2] = [edges[edge + 2] ?? 0, edges[edge + 3] ?? 0];
      let crossings = 0;
      if (x1 > west !== x2 > west) {
        const y = y1 + ((west - x1) / (x2 - x1)) * (y2 - y1);
        if (y > south && y <= latitude) crossings++;
      }
      if (y1 > latitude !== y2 > latitude) {
        const x = x1 + ((latitude - y1) / (y2 - y1)) * (x2 - x1);
        if (x > west && x <= longitude) crossings++;
      }
      if (crossings === 1) toggle(inside, edges[edge + 4] ?? 0);
    }
    return inside.size === 0 ? -1 : Math.max(...inside);
  }
}

/** Which edges each cell has. */
function cellsOf(edges: Float64Array): Cells {
  const counts = new Int32Array(COLUMNS * ROWS + 1);
  eachCell(edges, (cell) => void (counts[cell + 1] = (counts[cell + 1] ?? 0) + 1));
  for (let cell = 1; cell < counts.length; cell++) counts[cell] = (counts[cell] ?? 0) + (counts[cell - 1] ?? 0);
  const begins = counts.slice();
  const ofCell = new Int32Array(counts.at(-1) ?? 0);
  eachCell(edges, (cell, edge) => {
    ofCell[counts[cell] ?? 0] = edge;
    counts[cell] = (counts[cell] ?? 0) + 1;
  });
  return { edges, begins, ofCell };
}

/** Calls for each cell that an edge may touch, with where the edge stands in `edges`. */
function eachCell(edges: Float64Array, call: (cell: number, edge: number) => void): void {
  for (let edge = 0; edge < edges.length; edge += PER_EDGE) {
    const [x1, y1] = [edges[edge] ?? 0, edges[edge + 1] ?? 0];
    const [x2, y2] = [edges[edge + 2] ?? 0, edges[edge + 3] ?? 0];
    for (let row = rowOf(Math.min(y1, y2)); row <= rowOf(Math.max(y1, y2)); row++)
      for (let column = columnOf(Math.min(x1, x2)); column <= columnOf(Math.max(x1, x2)); column++)
        call(row * COLUMNS + column, edge);
  }
}

/** Goes from the western end of the world along the southern side of a row of cells; tells of each in which shapes its corner lies. */
function alongRow(
  { edges, begins, ofCell }: Cells,
  row: number,
  tell: (cell: number, inside: ReadonlySet<number>) => void,
): void {
  const latitude = row / CELLS_PER_DEGREE - 90;
  const inside = new Set<number>();
  const seen = new Set<number>();
  const crossings: { x: number; shape: number }[] = [];
  for (let cell = row * COLUMNS; cell < (row + 1) * COLUMNS; cell++)
    for (let i = begins[cell] ?? 0; i < (begins[cell + 1] ?? 0); i++) {
      const edge = ofCell[i] ?? 0;
      const [y1, y2] = [edges[edge + 1] ?? 0, edges[edge + 3] ?? 0];
      if (y1 > latitude === y2 > latitude || seen.has(edge)) continue;
      seen.add(edge);
      const [x1, x2] = [edges[edge] ?? 0, edges[edge + 2] ?? 0];
      crossings.push({ x: x1 + ((latitude - y1) / (y2 - y1)) * (x2 - x1), shape: edges[edge + 4] ?? 0 });
    }
  crossings.sort((a, b) => a.x - b.x);
  let passed = 0;
  for (let column = 0; column < COLUMNS; column++) {
    const west = column / CELLS_PER_DEGREE - 180;
    for (; passed < crossings.length && (crossings[passed]?.x ?? 0) <= west; passed++)
      toggle(inside, crossings[passed]?.shape ?? 0);
    tell(row * COLUMNS + column, inside);
  }
}

function toggle(inside: Set<number>, shape: number): void {
  if (!inside.delete(shape)) inside.add(shape);
}

function rowOf(latitude: number): number {
  return Math.max(0, Math.min(ROWS - 1, Math.floor((latitude + 90) * CELLS_PER_DEGREE)));
}

function columnOf(longitude: number): number {
  return Math.max(0, Math.min(COLUMNS - 1, Math.floor((longitude + 180) * CELLS_PER_DEGREE)));
}
