import fc from 'fast-check';
import { manifestDifferences, manifestText, parseManifest } from './manifest';

test('a manifest is a line a file', () => {
  expect(
    manifestText(
      new Map([
        ['data/a.jpg', 'ab12'],
        ['data/100% sure\n.jpg', 'cd34'],
      ]),
    ),
  ).toBe('ab12  data/a.jpg\ncd34  data/100%25 sure%0A.jpg\n');
});

test('what was written is read again, whatever paths hold', () => {
  const paths = fc.string({ minLength: 1, unit: 'grapheme' }).filter((path) => !/^[*\s]|^\.\//.test(path));
  const checksums = fc.stringMatching(/^[0-9a-f]{64}$/);
  fc.assert(
    fc.property(fc.array(fc.tuple(paths, checksums)), (entries) => {
      const manifest = new Map(entries);
      expect(parseManifest(manifestText(manifest))).toEqual(manifest);
    }),
  );
});

test('those of other programs are read: tabs, upper case, a star before the path, other ends of lines', () => {
  expect(parseManifest('AB12\tdata/a b.jpg\r\ncd34 *data/b.jpg\rEF56  ./data/c.jpg')).toEqual(
    new Map([
      ['data/a b.jpg', 'ab12'],
      ['data/b.jpg', 'cd34'],
      ['data/c.jpg', 'ef56'],
    ]),
  );
});

test.each([
  ['no checksum\n', 'line 1 of the manifest can’t be read'],
  ['ab12  data/a\nab12\n', 'line 2 of the manifest can’t be read'],
  ['ab12  data/a\ncd34  data/a\n', 'the manifest names “data/a” twice'],
])('%j is refused', (text, problem) => expect(() => parseManifest(text)).toThrow(problem));

test('what differs is told by how', () => {
  const manifest = new Map([
    ['same', '1'],
    ['other', '2'],
    ['gone', '3'],
  ]);
  const found = new Map([
    ['same', '1'],
    ['other', 'x'],
    ['new', '4'],
  ]);
  expect(manifestDifferences(manifest, found)).toEqual({ changed: ['other'], missing: ['gone'], unlisted: ['new'] });
});
