import { commonFolder } from './commonFolder';
import fc from 'fast-check';
import { bitsApart, differenceHash, greyParts } from './likeness';
import { ignoring } from './patterns';

describe('patterns to leave aside', () => {
  test.each([
    ['*.tmp', 'a/b/x.TMP', true],
    ['*.tmp', 'a/b/x.tmpx', false],
    ['proofs', '2019/Proofs', true],
    ['2019/*', '2019/a', true],
    ['2019/*', '2019/a/b', false],
    ['2019/**', '2019/a/b', true],
    ['**/web/*', 'a/b/web/c.jpg', true],
    ['**/web/*', 'web/c.jpg', true],
    ['IMG_????.jpg', 'x/img_0001.jpg', true],
    ['IMG_????.jpg', 'x/img_00011.jpg', false],
    ['', 'a', false],
    ['[a-z].jpg', 'b.jpg', false],
  ])('%s on %s: %s', (pattern, path, expected) => expect(ignoring([pattern])(path)).toBe(expected));

  test('a pattern of the name itself always matches, whatever letters it has', () => {
    fc.assert(
      fc.property(fc.string({ minLength: 1 }), (name) => {
        fc.pre(!name.includes('/') && name.trim() === name && name.trim() !== '');
        expect(ignoring([name])(`folder/${name}`)).toBe(true);
      }),
    );
  });

  test('many stars take no long time', () => {
    expect(ignoring(['*a'.repeat(50)])(`x/${'a'.repeat(5000)}b`)).toBe(false);
    expect(ignoring([`${'**/'.repeat(50)}x`])(Array.from({ length: 200 }, () => 'a').join('/'))).toBe(false);
  });
});

describe('difference hash', () => {
  const grey = fc.uint8Array({ minLength: 72, maxLength: 72 });

  test('a ramp to the right has no bit, one to the left has all', () => {
    const ramp = Uint8Array.from({ length: 72 }, (_, i) => (i % 9) * 20);
    expect(differenceHash(ramp)).toBe(0n);
    expect(differenceHash(ramp.map((value) => 255 - value))).toBe(-1n);
  });

  test('brightness does not matter; distance is symmetric and 0 only for equal hashes', () => {
    fc.assert(
      fc.property(grey, grey, (a, b) => {
        const dim = a.map((value) => value >> 1);
        expect(bitsApart(differenceHash(dim), differenceHash(dim.map((value) => value + 100)))).toBe(0);
        const [one, other] = [differenceHash(a), differenceHash(b)];
        expect(bitsApart(one, other)).toBe(bitsApart(other, one));
        expect(bitsApart(one, other) === 0).toBe(one === other);
      }),
    );
  });

  test('a picture is averaged part by part; its colours weigh as they are seen, and what is not opaque is white', () => {
    const [width, height] = [18, 16];
    const channels = 4;
    const data = new Uint8Array(width * height * channels);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++)
        data.set([x < 2 ? 200 : 0, 0, x % 2 ? 100 : 0, y < 2 ? 0 : 255], (y * width + x) * channels);
    const parts = greyParts({ data, width, height, channels });
    // The first row is not opaque; below it the first part is red as well.
    expect(Array.from(parts.subarray(0, 9))).toEqual(Array(9).fill(255));
    expect(Array.from(parts.subarray(9, 18))).toEqual([66, ...Array<number>(8).fill(6)]);
  });

  test.each([
    [1, 1],
    [64, 1],
    [3, 64],
    [64, 43],
  ])('a grey picture of %i × %i pixels is as grey in all its parts', (width, height) => {
    const data = new Uint8Array(width * height * 3).fill(77);
    expect(new Set(greyParts({ data, width, height, channels: 3 }))).toEqual(new Set([77]));
  });

  test('another size is refused', () => expect(() => differenceHash(new Uint8Array(71))).toThrow('9 × 8'));
});

test.each([
  [[], ''],
  [['2019/June'], '2019/June'],
  [['2019/June', '2019/July'], '2019'],
  [['2019', '2019/June'], '2019'],
  [['2019/June', '2019/June 2'], '2019'],
  [['a/b', ''], ''],
  [['a/b', 'c'], ''],
])('the folder that holds %j is %j', (folders, common) => expect(commonFolder(folders)).toBe(common));
