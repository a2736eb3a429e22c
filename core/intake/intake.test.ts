import { commonFolder } from './commonFolder';
import fc from 'fast-check';
import { bitsApart, differenceHash } from './likeness';
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
