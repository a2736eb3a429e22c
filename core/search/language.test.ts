import fc from 'fast-check';
import { CRITERIA } from '../query/criteria';
import { dateInterval } from './dates';
import { evaluate } from './evaluate';
import type { SearchablePhoto } from './photo';
import { asWords, parseQuery, queryText, tokensOf } from './language';
import { allOf, criterion, type Query } from '../query/query';
import { formsOf, textMatches } from '../text/words';

const parsed = (text: string) => parseQuery(text).query;
const errors = (text: string) => parseQuery(text).errors.map(({ message }) => message);

const TODAY = '2011-06-15';
const PHOTO: SearchablePhoto = {
  id: 7,
  texts: ['SKM_2037.jpg', 'Zwei Drachen über Björks Strand', 'boxkite'],
  said: {
    name: ['SKM_2037.jpg'],
    caption: ['Zwei Drachen über Björks Strand'],
    camera: ['Halden M7'],
    kind: ['jpeg'],
    keyword: ['boxkite'],
    headline: ['Wind over Saltmarsh'],
    title: ['Delta', 'Drachen'],
    mark: ['Print'],
    drive: ['Vault 1'],
    path: ['Vault 1/2011/Festival June'],
  },
  numbers: { rating: 3, accession: 1, exposure: 1 / 250, focal: 50, size: 24.5, duration: 150 },
  dates: { taken: { from: '2011-06-11T14:30:05' }, changed: { from: '2011-06-14T09:00:00' } },
  terms: [{ path: [['Objects'], ['Kites'], ['Rokkaku', 'six-sided kite']] }],
  dossiers: [['Open day', 'Poster']],
  position: { latitude: 54.3, longitude: 8.6 },
  drive: 'Vault 1',
  folder: '2011/Festival June',
  states: new Set(['waiting']),
};
const finds = (text: string) => evaluate(parsed(text), PHOTO, TODAY);

describe('reading', () => {
  test('words side by side must all hold; "or" binds less, "not" more', () => {
    expect(parsed('kite beach or dunes')).toEqual({
      kind: 'any',
      of: [
        {
          kind: 'all',
          of: [
            { kind: 'words', text: 'kite' },
            { kind: 'words', text: 'beach' },
          ],
        },
        { kind: 'words', text: 'dunes' },
      ],
    });
    expect(parsed('not kite beach')).toEqual(
      allOf([
        { kind: 'not', of: { kind: 'words', text: 'kite' } },
        { kind: 'words', text: 'beach' },
      ]),
    );
  });

  test('a criterion takes a plain or quoted value, a comparison or a range', () => {
    expect(parsed('term:"Single-line kites"')).toEqual(criterion('term', 'Single-line kites'));
    expect(parsed('rating:>=3')).toEqual({ kind: 'criterion', criterion: 'rating', operator: '>=', value: '3' });
    expect(parsed('taken:2018..2019-06')).toEqual({
      kind: 'criterion',
      criterion: 'taken',
      operator: '..',
      value: '2018',
      to: '2019-06',
    });
  });

  test('what is not understood is named with its place, and the rest still counts', () => {
    const { query, errors: found } = parseQuery('beach rating:many');
    expect(query).toEqual({ kind: 'words', text: 'beach' });
    expect(found).toEqual([{ at: 6, length: 11, message: '“rating” takes a number, like rating:>=3' }]);
    expect(errors('flavour:sweet')[0]).toContain('there is no field “flavour”');
    expect(errors('(beach')[0]).toContain('never closed');
    expect(errors('beach)')[0]).toContain('closing bracket');
    expect(errors('"beach')[0]).toContain('quotation mark');
    expect(errors('term:>Delta')[0]).toContain('can’t be compared');
  });

  test('half-typed and hostile text never throws, and always gives a query that can be written and read again', () => {
    const pieces = fc.constantFrom(
      '(',
      ')',
      '"',
      'or',
      'and',
      'not',
      'term:',
      'rating:>=',
      '..',
      '3',
      'kite',
      ' ',
      '\\',
      '*',
      'taken:2019',
      ':',
      '-',
    );
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string({ unit: 'grapheme' }),
          fc.array(pieces, { maxLength: 30 }).map((list) => list.join(' ')),
          fc.array(pieces).map((list) => list.join('')),
        ),
        (text) => {
          const { query } = parseQuery(text);
          expect(parseQuery(queryText(query))).toEqual({ query, errors: [] });
        },
      ),
      { numRuns: 2000 },
    );
  });

  test('conditions without end are cut off', () => {
    const { query, errors: found } = parseQuery('kite or '.repeat(2000));
    expect(found.map(({ message }) => message).join()).toContain('at most 1000 conditions');
    expect(query).toMatchObject({ kind: 'any' });
    expect(query.kind === 'any' && query.of).toHaveLength(1000);
  });

  test('nesting without end is cut off', () => {
    expect(errors('('.repeat(5000)).join()).toContain('nested');
    expect(errors('not '.repeat(5000)).join()).toContain('nested');
  });
});

describe('writing', () => {
  const leaf: fc.Arbitrary<Query> = fc.oneof(
    fc.constantFrom<Query>({ kind: 'words', text: 'kite' }, { kind: 'phrase', text: 'say "so" \\ now' }),
    fc.string({ unit: 'grapheme', minLength: 1, maxLength: 12 }).map((value) => criterion('term', value)),
    fc
      .integer({ min: -1, max: 5 })
      .map((value): Query => ({ kind: 'criterion', criterion: 'rating', operator: '>=', value: String(value) })),
  );
  const { tree } = fc.letrec<{ tree: Query }>((tie) => ({
    tree: fc.oneof(
      { maxDepth: 4 },
      leaf,
      fc.array(tie('tree'), { minLength: 2, maxLength: 4 }).map(allOf),
      fc
        .array(tie('tree'), { minLength: 2, maxLength: 3 })
        .map((of): Query => ({ kind: 'any', of: of.flatMap((part) => (part.kind === 'any' ? part.of : [part])) })),
      tie('tree').map((of): Query => (of.kind === 'not' ? of : { kind: 'not', of })),
    ),
  }));

  test('any query is read back from its text as it was', () => {
    fc.assert(
      fc.property(tree, (query) => {
        expect(parseQuery(queryText(query))).toEqual({ query, errors: [] });
      }),
      { numRuns: 1000 },
    );
  });

  test('tokens are the parts that must all hold', () => {
    expect(tokensOf('beach (delta or sled) rating:3')).toEqual(['beach', '(delta or sled)', 'rating:3']);
  });
});

describe('meaning', () => {
  test.each([
    ['kites', true],
    ['SIX-SIDED', true],
    ['rokk*', true],
    ['okkaku', false],
    ['bjorks', true],
    ['2037', true],
    ['"uber bjorks"', true],
    ['"bjorks uber"', false],
    ['term:kites', true],
    ['term:"six-sided kite"', true],
    ['term:Kites/Rokkaku', true],
    ['term:Objects/Rokkaku', false],
    ['only:kites', false],
    ['only:rokkaku', true],
    ['keyword:box*', true],
    ['name:skm_????.jpg', true],
    ['name:skm', false],
    ['caption:*strand', true],
    ['camera:*m7', true],
    ['rating:3', true],
    ['rating:>3', false],
    ['rating:2..3', true],
    ['taken:2011', true],
    ['taken:2011-06', true],
    ['taken:>2011', false],
    ['taken:>=2011', true],
    ['taken:<2011-06-12', true],
    ['taken:2009..2011-06-11', true],
    ['taken:201X', true],
    ['taken:"last 7 days"', true],
    ['taken:today', false],
    ['changed:yesterday', true],
    ['changed:>yesterday', false],
    ['taken:2011-22', true],
    ['taken:2009/2010', false],
    ['exposure:1/250', true],
    ['exposure:<1/200s', true],
    ['exposure:4ms', true],
    ['focal:5cm', true],
    ['focal:24..70mm', true],
    ['size:>20MB', true],
    ['size:<25000kB', true],
    ['duration:>2min', true],
    ['near:54.3,8.7,10km', true],
    ['near:54.3,8.7,100m', false],
    ['near:54,8,55,9', true],
    ['near:"54,8 55,8 54,9.5"', true],
    ['dossier:poster', true],
    ['dossier:"Open day/Poster"', true],
    ['dossier:"Open day"', true],
    ['missing:headline', false],
    ['has:exposure', true],
    ['kite', true],
    ['strands', true],
    ['*achen', true],
    ['description:*strand', true],
    ['path:*june', true],
    ['drive:"vault 1"', true],
    ['within:"Vault 1"', true],
    ['within:"Vault 1/2011"', true],
    ['within:"Vault 1/201"', false],
    ['folder:"Vault 1/2011"', false],
    ['folder:"Vault 1/2011/Festival June/"', true],
    ['missing:place', true],
    ['missing:location', false],
    ['has:terms', true],
    ['is:waiting', true],
    ['headline:*saltmarsh', true],
    ['Title:delta', true],
    ['city:*', false],
    ['not is:away', true],
    ['delta or kites', true],
    ['kites (delta or sled)', false],
    ['', true],
  ])('%s finds it: %s', (text, expected) => {
    expect(errors(text)).toEqual([]);
    expect(finds(text)).toBe(expected);
  });

  test('every criterion of the table can be read as its example has it', () => {
    for (const { example } of CRITERIA) expect(errors(example)).toEqual([]);
  });
});

test('singular and plural are forms of one word, and nothing else is', () => {
  expect(formsOf('kite')).toEqual(['kite', 'kites']);
  expect(formsOf('beaches')).toEqual(expect.arrayContaining(['beaches', 'beach']));
  expect(formsOf('epochs')).toEqual(expect.arrayContaining(['epochs', 'epoch']));
  expect(formsOf('story')).toEqual(expect.arrayContaining(['story', 'stories']));
  expect(formsOf('stories')).toEqual(expect.arrayContaining(['story', 'stories']));
  expect(formsOf('glass')).toEqual(expect.arrayContaining(['glass', 'glasses']));
  expect(formsOf('gas')).toEqual(['gas']);
  fc.assert(
    fc.property(fc.stringMatching(/^[a-z]{1,8}(s|es|ies|y)?$/), (word) => {
      for (const form of formsOf(word)) expect(formsOf(form)).toContain(word);
    }),
    { numRuns: 2000, examples: [['aaxs']] },
  );
});

test('wildcards are matched in bounded time', () => {
  const text = 'a'.repeat(5000);
  expect(textMatches(text, `${'*a'.repeat(60)}*b`)).toBe(false);
  expect(textMatches(text, `${'*a'.repeat(60)}*`)).toBe(true);
});

test('a date is the interval it names, and impossible ones are none', () => {
  expect(dateInterval('2019-02', TODAY)).toEqual({ from: '2019-02-01T00:00:00', to: '2019-03-01T00:00:00' });
  expect(dateInterval('2020-02-29', TODAY)).toEqual({ from: '2020-02-29T00:00:00', to: '2020-03-01T00:00:00' });
  for (const impossible of ['2019-13', '2019-02-29', '0000', '19', '2019-6'])
    expect(dateInterval(impossible, TODAY)).toBeUndefined();
});

test('any text can be searched for as words, whatever else it means in the language', () => {
  expect(asWords('foo:"bar baz"')).toBe('foo bar baz');
  expect(asWords('(kite or')).toBe('kite "or"');
  expect(asWords('" ( :')).toBe('');
  fc.assert(fc.property(fc.string(), (text) => parseQuery(asWords(text)).errors.length === 0));
});
