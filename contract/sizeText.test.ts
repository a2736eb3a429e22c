import fc from 'fast-check';
import { sizeText } from './sizeText';

test.each([
  [0, '0 bytes'],
  [999, '999 bytes'],
  [1000, '1.0 kB'],
  [9_949, '9.9 kB'],
  [9_951, '10 kB'],
  [123_456, '123 kB'],
  [999_499, '999 kB'],
  [999_500, '1.0 MB'],
  [1_234_000_000, '1.2 GB'],
  [5e15, '5000 TB'],
])('%i bytes are %s', (bytes, text) => expect(sizeText(bytes)).toBe(text));

test('below a thousand terabytes there are never more than three figures, and what is said is about right', () => {
  const factors: Record<string, number> = { bytes: 1, kB: 1e3, MB: 1e6, GB: 1e9, TB: 1e12 };
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 999e12 }), (bytes) => {
      const [value = '', unit = ''] = sizeText(bytes).split(' ');
      expect(value).toMatch(/^(\d\.\d|\d{1,3})$/);
      expect(Math.abs(Number(value) * (factors[unit] ?? 0) - bytes)).toBeLessThanOrEqual(bytes * 0.051);
    }),
  );
});
