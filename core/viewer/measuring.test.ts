import { clippedPart, histogramOf, warningsOver } from './measuring';

/** A picture of grey values, row by row. */
const greys = (rows: readonly (readonly number[])[]) => ({
  pixels: Uint8ClampedArray.from(rows.flat().flatMap((grey) => [grey, grey, grey, 255])),
  width: rows[0]?.length ?? 0,
  height: rows.length,
});

/** Where something is laid over a picture, a letter a pixel by its colour. */
function laidOver(
  { pixels, width, height }: ReturnType<typeof greys>,
  what: Parameters<typeof warningsOver>[3],
): string[] {
  const over = warningsOver(pixels, width, height, what);
  const letter = (at: number) =>
    (over[at + 3] ?? 0) === 0 ? '.' : (over[at] ?? 0) > 200 ? 'r' : (over[at + 2] ?? 0) > 200 ? 'b' : 'g';
  return Array.from({ length: height }, (_, y) =>
    Array.from({ length: width }, (_x, x) => letter((y * width + x) * 4)).join(''),
  );
}

test('a histogram counts each pixel once in each channel, and luma weighs green most', () => {
  const { red, green, blue, light } = histogramOf(Uint8ClampedArray.of(255, 0, 0, 255, 0, 255, 0, 255, 0, 0, 255, 255));
  expect([red[255], red[0], green[255], blue[255]]).toEqual([1, 2, 1, 1]);
  expect([light[54], light[182], light[18]]).toEqual([1, 1, 1]);
  expect(light.reduce((sum, count) => sum + count, 0)).toBe(3);
});

test('light and shadow that are lost are told apart, near their ends too', () => {
  const picture = greys([[0, 2, 3, 128, 252, 253, 255]]);
  expect(laidOver(picture, { clipping: true, edges: false })).toEqual(['bb...rr']);
  const histogram = histogramOf(picture.pixels);
  expect(clippedPart(histogram, 'burnt')).toBeCloseTo(2 / 7);
  expect(clippedPart(histogram, 'blocked')).toBeCloseTo(2 / 7);
});

test('a channel at its end alone hides nothing', () => {
  expect(
    laidOver(
      { pixels: Uint8ClampedArray.of(255, 10, 255, 255, 0, 40, 0, 255), width: 2, height: 1 },
      { clipping: true, edges: false },
    ),
  ).toEqual(['..']);
});

test('sharp edges are found in both directions, soft ones not', () => {
  const sharp = greys([
    [10, 10, 10, 10],
    [10, 10, 10, 10],
    [200, 200, 200, 200],
    [200, 200, 200, 200],
  ]);
  expect(laidOver(sharp, { clipping: false, edges: true })).toEqual(['....', '.gg.', '.gg.', '....']);
  const turned = greys([0, 1, 2, 3].map(() => [10, 10, 200, 200]));
  expect(laidOver(turned, { clipping: false, edges: true })).toEqual(['....', '.gg.', '.gg.', '....']);
  const soft = greys([0, 1, 2, 3].map(() => [10, 30, 50, 70]));
  expect(laidOver(soft, { clipping: false, edges: true })).toEqual(['....', '....', '....', '....']);
});

test('of no pixels nothing is clipped', () => {
  expect(clippedPart(histogramOf(new Uint8ClampedArray()), 'burnt')).toBe(0);
});
