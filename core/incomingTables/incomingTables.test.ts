import fc from 'fast-check';
import { safeInSpreadsheets } from '../text/spreadsheets';
import { TermMatcher } from '../vocabulary/matching';
import { newTerm } from '../vocabulary/term';
import { cellProblem, isChecked, rowSays, wordsOf, type Reading } from './cells';
import { DATE_ORDER_IDS, dateText, recogniseDateOrder } from './dates';
import { encodingRecogniser, recogniseFormat, recogniseSeparator, type Encoding } from './recognising';
import { wordReader } from './terms';
import { fieldUse, proposedUses, type ColumnUse } from './uses';

const utf8 = (text: string) => new TextEncoder().encode(text);
const utf16 = (text: string, swap: boolean) => {
  const bytes = Buffer.from(text, 'utf16le');
  return swap ? bytes.swap16() : bytes;
};
const encodingOf = (...parts: Uint8Array[]): Encoding => {
  const { look, end } = encodingRecogniser();
  parts.forEach(look);
  return end();
};

test('encodings are told from the bytes, also where a character is cut between two parts', () => {
  expect(encodingOf(utf8('Düne;Öl'))).toBe('utf-8');
  expect(encodingOf(utf8('Düne').subarray(0, 2), utf8('Düne').subarray(2))).toBe('utf-8');
  expect(encodingOf(Uint8Array.of(0x44, 0xfc, 0x6e, 0x65))).toBe('windows-1252');
  // A text that ends within a character is none in UTF-8.
  expect(encodingOf(Uint8Array.of(0x44, 0xc3))).toBe('windows-1252');
  expect(encodingOf(utf16('Name;Kite', false))).toBe('utf-16le');
  expect(encodingOf(utf16('Name;Kite', true))).toBe('utf-16be');
  expect(encodingOf(Uint8Array.of(0xff, 0xfe, 0x41, 0x4e))).toBe('utf-16le');
  expect(encodingOf()).toBe('utf-8');
});

test('whatever bytes there are, something is told of them', () => {
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 300 }), (bytes) => {
      const encoding = encodingOf(bytes);
      expect(['xlsx', 'jsonl', 'text']).toContain(recogniseFormat(bytes));
      expect(['comma', 'semicolon', 'tab', 'bar']).toContain(
        recogniseSeparator(new TextDecoder(encoding).decode(bytes)),
      );
    }),
  );
});

test('formats are told from how a file begins', () => {
  expect(recogniseFormat(Uint8Array.of(0x50, 0x4b, 3, 4, 0))).toBe('xlsx');
  expect(recogniseFormat(utf8('\uFEFF{"Name": "a.jpg"}\n{"Name": 1}'))).toBe('jsonl');
  expect(recogniseFormat(utf8(`{"Name": "${'a'.repeat(50)}`))).toBe('jsonl');
  expect(recogniseFormat(utf8('{Name};Kite\n'))).toBe('text');
  expect(recogniseFormat(utf8(''))).toBe('text');
});

test('separators are told from the lines; what stands in quotes separates nothing', () => {
  expect(recogniseSeparator('Name;Title\na.jpg;Dunes, harbour, sea\nb.jpg;"x;y;z"')).toBe('semicolon');
  expect(recogniseSeparator('Name,Title\na.jpg,"one; two; three; four"\n')).toBe('comma');
  expect(recogniseSeparator('Name\tTitle, short\na.jpg\tDunes, sea')).toBe('tab');
  expect(recogniseSeparator('Name|Title')).toBe('bar');
  expect(recogniseSeparator('Name\na.jpg')).toBe('comma');
});

test.each([
  ['2024-06-01', 'dayFirst', '2024-06-01'],
  ['1.6.2024', 'dayFirst', '2024-06-01'],
  ['6/1/2024', 'monthFirst', '2024-06-01'],
  ['01. 06. 2024', 'dayFirst', '2024-06-01'],
  ['6.2024', 'dayFirst', '2024-06'],
  ['6/2024', 'monthFirst', '2024-06'],
  ['1952', 'yearFirst', '1952'],
  ['2024:06:01 10:11:12', 'yearFirst', '2024-06-01T10:11:12'],
  ['1.6.2024, 9:05', 'dayFirst', '2024-06-01T09:05:00'],
  ['20240601', 'monthFirst', '2024-06-01'],
  ['2024-06-01T10:11:12+02:00', 'yearFirst', '2024-06-01T10:11:12+02:00'],
  ['1.6.2024', 'yearFirst', undefined],
  ['13/13/2024', 'monthFirst', undefined],
  ['31.2.2024', 'dayFirst', undefined],
  ['summer', 'dayFirst', undefined],
] as const)('%s, %s, is %s', (text, order, expected) => {
  expect(dateText(text, order)).toBe(expected);
});

test('the order of dates is that in which most of them are some', () => {
  expect(recogniseDateOrder(['3.4.2024', '25.4.2024', '2024'])).toBe('dayFirst');
  expect(recogniseDateOrder(['3/4/2024', '4/25/2024'])).toBe('monthFirst');
  expect(recogniseDateOrder(['2024-04-25'])).toBe('yearFirst');
  expect(recogniseDateOrder([])).toBe('yearFirst');
});

test('a date in any order says the same day', () => {
  fc.assert(
    fc.property(
      fc.date({ min: new Date('1800-01-01'), max: new Date('2100-01-01'), noInvalidDate: true }),
      fc.constantFrom(...DATE_ORDER_IDS),
      (date, order) => {
        const day = date.toISOString().slice(0, 10);
        const [y, m, d] = day.split('-').map(Number);
        const written = { yearFirst: `${y}/${m}/${d}`, dayFirst: `${d}.${m}.${y}`, monthFirst: `${m}/${d}/${y}` };
        expect(dateText(written[order], order)).toBe(day);
      },
    ),
  );
});

const reading: Reading = {
  listMark: 'semicolon',
  emptyClears: false,
  own: new Map([['Loan', { name: 'Loan', kind: 'number', choices: [] }]]),
};
const field = (target: Parameters<typeof fieldUse>[0], samples: string[] = []): ColumnUse => fieldUse(target, samples);

test('columns are for what their headers say, in our words, those of XMP, or those of before', () => {
  const headers = ['Number', 'File with its path', 'Headline', 'photoshop:City', 'Terms', 'Other keywords', 'Whim'];
  const uses = proposedUses(
    headers,
    headers.map(() => []),
    new Map([['whim', { to: 'rating' } as const]]),
  );
  expect(uses.map((use) => ('key' in use ? use.key : 'target' in use ? use.target : use.to))).toEqual([
    'id',
    'nothing',
    'headline',
    'city',
    'terms',
    'nothing',
    'rating',
  ]);
  expect(proposedUses(['Filename', 'Date created'], [[], ['3.4.2024', '30.4.2024']], new Map())).toMatchObject([
    { to: 'key', key: 'name' },
    { to: 'field', target: 'dateCreated', dates: 'dayFirst' },
  ]);
  expect(proposedUses(['Caption', 'PHOTOGRAPHER'], [[], []], new Map())).toMatchObject([
    { target: 'description' },
    { target: 'creator' },
  ]);
  // A structure has no place in a cell.
  expect(proposedUses(['Location created'], [[]], new Map())).toEqual([{ to: 'nothing' }]);
});

test('what found photos before goes before what is guessed', () => {
  const remembered = new Map([['inventory', { to: 'keyField', target: 'jobId' } as const]]);
  expect(proposedUses(['Inventory', 'File name'], [[], []], remembered)).toEqual([
    { to: 'keyField', target: 'jobId' },
    { to: 'nothing' },
  ]);
});

test('a row says values by field; what can’t be taken is left out and named', () => {
  const uses = [field('headline'), field('creator'), field('dateCreated', ['1.2.2020']), field('countryCode')];
  const says = rowSays(["'=Dunes", 'Ida; Tomas', '25.12.2019', 'Norland'], uses, reading);
  expect(says.edits.map(({ target, value }) => [target, value])).toEqual([
    ['headline', '=Dunes'],
    ['creator', ['Ida', 'Tomas']],
    ['dateCreated', '2019-12-25'],
  ]);
  expect(says.problems).toEqual(['“Norland” is not two or three capital letters, as ISO 3166 has them']);
  expect(rowSays(['', ''], [field('headline'), { to: 'rating' }], reading).edits).toEqual([]);
  expect(rowSays([''], [field('headline')], { ...reading, emptyClears: true }).edits).toEqual([
    { target: 'headline', mode: 'replace', value: null },
  ]);
});

test('what several columns of a row put there in place of others goes together', () => {
  const terms = (mode: 'replace' | 'add') => ({ to: 'terms', mode }) as const;
  const says = rowSays(['Kite', 'Dunes', 'Sky'], [terms('replace'), terms('add'), terms('replace')], reading);
  expect(says.terms).toEqual([
    { mode: 'replace', words: ['Kite', 'Sky'] },
    { mode: 'add', words: ['Dunes'] },
  ]);
});

test('own fields are checked by their kind, positions and ratings by their bounds', () => {
  expect(cellProblem('twelve', field('custom:Loan'), reading)).toBe('Loan: “twelve” is no number; write 12 or 12.5');
  expect(cellProblem('12', field('custom:Loan'), reading)).toBeUndefined();
  expect(cellProblem('95, 8', field('position'), reading)).toContain('is not a latitude and a longitude');
  expect(cellProblem('6', { to: 'rating' }, reading)).toBe('“6” is no rating; write 0 to 5, or -1 for rejected');
  expect(rowSays(['-1', 'Keep'], [{ to: 'rating' }, { to: 'mark' }], reading)).toMatchObject({
    rating: -1,
    mark: 'Keep',
  });
});

test('fields whose every value is one are not looked at', () => {
  const checked = (['headline', 'description', 'creator', 'custom:Other'] as const).map((target) =>
    isChecked(target, reading.own),
  );
  expect(checked).toEqual([false, false, false, false]);
  for (const target of ['dateCreated', 'countryCode', 'position', 'custom:Loan'] as const)
    expect(isChecked(target, reading.own)).toBe(true);
});

test('what is guarded for spreadsheets comes back as it was', () => {
  fc.assert(
    fc.property(fc.array(fc.constantFrom("'", '=', '-', '+', '@', 'a', ' ')), (characters) => {
      const text = characters.join('').trim();
      fc.pre(text !== '' && !text.includes(';'));
      expect(wordsOf(safeInSpreadsheets(text), 'semicolon')).toEqual([text]);
    }),
  );
});

const kites = { ...newTerm({ id: 1, label: 'Kites', vocabularyId: 1, parentId: null }), uri: 'urn:kites' };
const bird = newTerm({ id: 2, label: 'Kite', vocabularyId: 1, parentId: 4 });
const toy = newTerm({ id: 3, label: 'Kite', vocabularyId: 1, parentId: 1 });
const birds = newTerm({ id: 4, label: 'Birds', vocabularyId: 1, parentId: null });
const terms = [kites, bird, toy, birds];

test('words mean terms only without doubt: two that are called alike are told apart by their paths', () => {
  const reader = wordReader(terms, new TermMatcher(terms), []);
  expect(['Birds', 'urn:kites', 'Birds > Kite', 'Kites|Kite'].map(reader.termOf)).toEqual([4, 1, 2, 3]);
  expect(['Kite', 'Bird', 'Sea'].map(reader.termOf)).toEqual([undefined, undefined, undefined]);
  expect(reader.propose('Bird')).toEqual({ termId: 4, why: 'plural' });
});

test('of other words somebody decides; a term that is gone leaves the word a keyword', () => {
  const decisions = [
    { word: 'bird', decision: 'term', termId: 4 },
    { word: 'sea', decision: 'drop', termId: null },
    { word: 'gone', decision: 'term', termId: 99 },
  ] as const;
  const { meant } = wordReader(terms, new TermMatcher(terms), decisions);
  expect(['Bird', 'SEA', 'Gone', 'New'].map(meant)).toEqual([{ termId: 4 }, 'drop', 'keep', 'keep']);
});
