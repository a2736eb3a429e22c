import fc from 'fast-check';
import { burstsOf, type BurstPhoto } from './bursts';
import { alike, cutOf, CUTS, LOOK_LENGTH, lookOf, STRICTNESS, type LookPixels } from './look';

type Paint = (x: number, y: number) => [number, number, number];

/** A picture of 64 × 48 pixels; x and y are parts of its sides. */
function painted(paint: Paint, width = 64, height = 48): LookPixels {
  const data = new Uint8Array(width * height * 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) data.set(paint(x / width, y / height), (y * width + x) * 3);
  return { data, width, height, channels: 3 };
}

const BLUE: [number, number, number] = [70, 130, 220];
const GREEN: [number, number, number] = [80, 140, 60];
const RED: [number, number, number] = [210, 40, 30];
/** A red kite in a blue sky over a green meadow. */
const kiteAt =
  (left: number, top: number): Paint =>
  (x, y) =>
    Math.abs(x - left) + Math.abs(y - top) < 0.2 ? RED : y > 0.7 ? GREEN : BLUE;
const meadow = lookOf(painted(kiteAt(0.4, 0.3)));

test('a look has its length, and a picture looks like itself in any size', () => {
  expect(meadow).toHaveLength(LOOK_LENGTH);
  expect(LOOK_LENGTH % 16).toBe(0);
  for (const [width, height] of [
    [640, 480],
    [33, 21],
  ] as const)
    expect(alike(meadow, lookOf(painted(kiteAt(0.4, 0.3), width, height)))).toBeGreaterThan(0.98);
});

test('lighter, darker and a little moved it still looks alike; turned over, in other colours or something else it does not', () => {
  const dimmed = lookOf(
    painted((x, y) => kiteAt(0.4, 0.3)(x, y).map((value) => value * 0.7) as [number, number, number]),
  );
  expect(alike(meadow, dimmed)).toBeGreaterThan(STRICTNESS.usual);
  expect(alike(meadow, lookOf(painted(kiteAt(0.43, 0.32))))).toBeGreaterThan(STRICTNESS.usual);
  expect(alike(meadow, lookOf(painted((x, y) => kiteAt(0.4, 0.3)(x, 1 - y))))).toBeLessThan(STRICTNESS.loose);
  expect(alike(meadow, lookOf(painted((x, y) => (kiteAt(0.4, 0.3)(x, y) === BLUE ? RED : GREEN))))).toBeLessThan(
    STRICTNESS.loose,
  );
  expect(alike(meadow, lookOf(painted((x) => (x > 0.5 ? GREEN : BLUE))))).toBeLessThan(STRICTNESS.loose);
});

test('what was cut out of a picture looks like one of its cuts', () => {
  const whole = painted(kiteAt(0.4, 0.4), 640, 480);
  const middle = lookOf(cutOf(whole, { left: 0.12, top: 0.1, width: 0.78, height: 0.8 }));
  const best = Math.max(...CUTS.map((cut) => alike(lookOf(cutOf(whole, cut)), middle)));
  expect(best).toBeGreaterThan(STRICTNESS.strict);
  expect(best).toBeGreaterThan(alike(lookOf(whole), middle));
});

test('transparent pixels count as white, one of one colour has no contrast to speak of', () => {
  const clear = { data: new Uint8Array(4 * 16), width: 4, height: 4, channels: 4 };
  const white = { data: new Uint8Array(3 * 16).fill(255), width: 4, height: 4, channels: 3 };
  expect([...lookOf(clear)]).toEqual([...lookOf(white)]);
  expect([...lookOf(white)].every((value) => value === 0)).toBe(true);
});

test('no picture, however odd, makes a look of another length or of what is no number', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 12 }),
      fc.integer({ min: 1, max: 12 }),
      fc.constantFrom(3, 4),
      fc.infiniteStream(fc.nat(255)),
      (width, height, channels, stream) => {
        const data = Uint8Array.from({ length: width * height * channels }, () => stream.next().value as number);
        const look = lookOf({ data, width, height, channels });
        expect(look).toHaveLength(LOOK_LENGTH);
        expect(Math.abs(alike(look, look))).toBeLessThanOrEqual(1.000001);
        for (const cut of CUTS) expect(lookOf(cutOf({ data, width, height, channels }, cut))).toHaveLength(LOOK_LENGTH);
      },
    ),
  );
});

const photo = (id: number, seconds: number | null, part: Partial<BurstPhoto> = {}): BurstPhoto => ({
  id,
  camera: 'Corvina 7',
  takenAt: seconds === null ? null : seconds * 1000,
  look: meadow,
  sharpness: 1,
  ...part,
});

test('a burst is what one camera took at once of one thing, the sharpest first', () => {
  const others = lookOf(painted((x) => (x > 0.5 ? GREEN : BLUE)));
  expect(
    burstsOf([
      photo(1, 0, { sharpness: 2 }),
      photo(2, 1, { sharpness: 5 }),
      photo(3, 2.5, { sharpness: null }),
      // Later, of another camera, of another thing, without a time or a look.
      photo(4, 9),
      photo(5, 1, { camera: 'Tern' }),
      photo(6, 10, { look: others }),
      photo(7, null),
      photo(8, 11, { look: null }),
      photo(9, 12, { look: others }),
    ]),
  ).toEqual([
    [2, 1, 3],
    [6, 9],
  ]);
});

test('the order in which photos come does not matter', () => {
  const photos = [photo(1, 0), photo(2, 2), photo(3, 4), photo(4, 20), photo(5, 22, { sharpness: 3 })];
  fc.assert(
    fc.property(fc.shuffledSubarray(photos, { minLength: 5 }), (shuffled) => {
      expect(burstsOf(shuffled)).toEqual([
        [1, 2, 3],
        [5, 4],
      ]);
    }),
  );
});
