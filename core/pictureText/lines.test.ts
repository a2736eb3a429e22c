import fc from 'fast-check';
import { boxTurned, linesOfWords, textOfLines } from './lines';

const HEAD = 'level\tpage_num\tblock_num\tpar_num\tline_num\tword_num\tleft\ttop\twidth\theight\tconf\ttext';
const word = (line: number, text: string, left: number, { conf = 90, top = line * 20, width = 40 } = {}) =>
  `5\t1\t1\t1\t${line}\t1\t${left}\t${top}\t${width}\t10\t${conf}\t${text}`;
const SIZE = { width: 200, height: 100 };

test('words of a line stand together, and their boxes around them', () => {
  const lines = linesOfWords(
    [
      HEAD,
      '4\t1\t1\t1\t1\t0\t0\t0\t90\t10\t-1\t',
      word(1, 'Kite', 10),
      word(1, 'Festival', 60),
      word(2, '1998', 20),
    ].join('\n'),
    SIZE,
  );
  expect(lines.map(({ text, certainty }) => [text, certainty])).toEqual([
    ['Kite Festival', 0.9],
    ['1998', 0.9],
  ]);
  expect(lines[0] && Object.values(lines[0].box).map((part) => Math.round(part * 1000))).toEqual([50, 200, 450, 100]);
  expect(textOfLines(lines)).toBe('Kite Festival\n1998');
});

test.each([
  ['a word nobody is sure of', word(1, 'Kite', 10, { conf: 20 })],
  ['a line of which little is sure', [word(1, 'Kl', 10, { conf: 50 }), word(1, 'te', 60, { conf: 60 })].join('\n')],
  ['signs alone', word(1, '|—~', 10)],
  ['one letter', word(1, 'K', 10)],
  ['what lies outside of the picture', word(1, 'Kite', 190)],
  ['a row of other columns', '5\tKite'],
  ['no number where one is due', word(1, 'Kite', 10).replace('90', 'much')],
])('%s counts as none', (_, table) => {
  expect(linesOfWords(table, SIZE)).toEqual([]);
});

test('no table, however odd, makes a line outside of the picture', () => {
  fc.assert(
    fc.property(
      fc.array(
        fc.array(fc.oneof(fc.string(), fc.integer().map(String), fc.constant('5')), { minLength: 11, maxLength: 13 }),
      ),
      (rows) => {
        for (const { text, box } of linesOfWords(rows.map((row) => row.join('\t')).join('\n'), SIZE)) {
          expect(text.trim()).not.toBe('');
          expect(box.left + box.width).toBeLessThanOrEqual(1.001);
          expect(box.top).toBeGreaterThanOrEqual(0);
        }
      },
    ),
  );
});

test('boxes follow a picture that is turned', () => {
  const box = { left: 0.1, top: 0.2, width: 0.3, height: 0.1 };
  const near = (a: typeof box, b: typeof box) =>
    Object.entries(a).forEach(([side, value]) => expect(value).toBeCloseTo(b[side as keyof typeof box], 9));
  near(boxTurned(box, 1, 6), { left: 0.7, top: 0.1, width: 0.1, height: 0.3 });
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 8 }), fc.integer({ min: 1, max: 8 }), (from, to) =>
      near(boxTurned(boxTurned(box, from, to), to, from), box),
    ),
  );
});
