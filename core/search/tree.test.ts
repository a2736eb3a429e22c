import fc from 'fast-check';
import { partsOf, replaceAt, turnAt, type QueryPath } from './editing';
import { evaluate } from './evaluate';
import { explain, type Explanation } from './explaining';
import { parseQuery, queryText } from './language';
import type { Query } from '../query/query';
import { stretchesOf, stretchText } from './ruler';
import { openSearches } from './saved';
import { anyQuery, catalogue, searchables, TODAY } from './testing';

const parsed = (text: string) => parseQuery(text).query;
const none = () => undefined;

describe('editing', () => {
  test('a part is taken off, replaced, turned round; groups left with one part become it', () => {
    const query = parsed('kind:tiff (rating:3 or rating:4) not beach');
    expect(queryText(replaceAt(query, [1, 0], undefined))).toBe('kind:tiff rating:4 not beach');
    expect(queryText(replaceAt(query, [2], undefined))).toBe('kind:tiff (rating:3 or rating:4)');
    expect(queryText(replaceAt(query, [0], parsed('kind:png')))).toBe('kind:png (rating:3 or rating:4) not beach');
    expect(queryText(turnAt(query, [2]))).toBe('kind:tiff (rating:3 or rating:4) beach');
    expect(queryText(turnAt(query, [1, 1]))).toBe('kind:tiff (rating:3 or not rating:4) not beach');
    expect(queryText(replaceAt(parsed('beach'), [], undefined))).toBe('');
  });

  test('whatever is edited can be written and read again', () => {
    const paths = (query: Query, path: QueryPath = []): QueryPath[] => [
      path,
      ...partsOf(query).flatMap((part, i) => paths(part, [...path, i])),
    ];
    fc.assert(
      fc.property(anyQuery, fc.nat(), fc.boolean(), (made, n, turn) => {
        const query = parsed(queryText(made));
        const all = paths(query);
        const path = all[n % all.length] ?? [];
        const edited = turn ? turnAt(query, path) : replaceAt(query, path, undefined);
        expect(parseQuery(queryText(edited))).toEqual({ query: edited, errors: [] });
      }),
      { numRuns: 500 },
    );
  });
});

test('an explanation agrees with the evaluation at every part', () => {
  const agree = (node: Explanation, photo: Parameters<typeof evaluate>[1]) => {
    expect(node.met).toBe(evaluate(parsed(node.text), photo, TODAY));
    if (node.kind === 'all') expect(node.met).toBe(node.of.every(({ met }) => met));
    if (node.kind === 'any') expect(node.met).toBe(node.of.some(({ met }) => met));
    if (node.kind === 'not') expect(node.met).toBe(!node.of[0]?.met);
    for (const part of node.of) agree(part, photo);
  };
  fc.assert(
    fc.property(catalogue, anyQuery, (photos, made) => {
      const [photo] = searchables(photos);
      if (photo) agree(explain(parsed(queryText(made)), photo, TODAY, none), photo);
    }),
    { numRuns: 300 },
  );
});

describe('saved searches', () => {
  const texts: Record<string, string> = {
    good: 'rating:>=3',
    best: 'search:good kind:tiff',
    a: 'search:b',
    b: 'person:Nobody or search:a',
  };
  const textOf = (name: string) => texts[name];

  test('are opened where they are named, in each other too', () => {
    expect(openSearches(parsed('not search:Best'), textOf)).toEqual({
      query: { kind: 'not', of: { kind: 'all', of: [parsed('rating:>=3'), parsed('kind:tiff')] } },
      problems: [],
    });
  });

  test('circles and unknown names find nothing and are said', () => {
    expect(openSearches(parsed('search:a'), textOf).problems).toEqual(['the saved search “a” would ask for itself']);
    const { query, problems } = openSearches(parsed('search:Nowhere'), textOf);
    expect(problems).toEqual(['there is no saved search “Nowhere”']);
    // Also as text it must not mean everything.
    expect(queryText(query)).not.toBe('');
  });

  test('what grows without end is cut off', () => {
    const grown: Record<string, string> = { s0: 'beach or kite' };
    for (let i = 1; i < 20; i++) grown[`s${i}`] = `search:s${i - 1} or search:s${i - 1} rating:3`;
    expect(openSearches(parsed('search:s19'), (name) => grown[name]).problems.join()).toContain('more than');
  });

  test('why: a saved search shows what it asks', () => {
    const [photo] = searchables(fc.sample(catalogue, { numRuns: 1, seed: 3 })[0] ?? []);
    if (!photo) throw new Error('there is no photo');
    const explained = explain(parsed('search:Best'), photo, TODAY, textOf);
    expect(explained.of[0]?.of.map(({ text }) => text)).toEqual(['search:good', 'kind:tiff']);
    // A circle ends.
    expect(explain(parsed('search:a'), photo, TODAY, textOf).met).toBe(false);
  });
});

describe('the ruler', () => {
  const seconds = (text: string) => Date.parse(`${text}Z`) / 1000;
  test.each([
    ['1700-01-01T00:00:00', '2020-01-01T00:00:00', 'decade', '170X'],
    ['1931-05-01T00:00:00', '2024-06-01T00:00:00', 'year', '1931'],
    ['2018-02-10T00:00:00', '2020-06-01T00:00:00', 'month', '2018-02'],
    ['2019-06-01T00:00:00', '2019-07-01T00:00:00', 'day', '2019-06-01'],
    ['2019-06-01T06:30:00', '2019-06-02T00:00:00', 'hour', '2019-06-01T06'],
  ] as const)('from %s to %s is cut by %s', (from, to, unit, first) => {
    const stretches = stretchesOf(seconds(from), seconds(to));
    expect(stretches.unit).toBe(unit);
    expect(stretchText(unit, stretches.bounds[0] ?? '')).toBe(first);
  });

  test('the stretches hold the whole span, ascend, and are never too many', () => {
    fc.assert(
      fc.property(fc.integer({ min: -6e9, max: 4e9 }), fc.integer({ min: 1, max: 4e9 }), (from, length) => {
        const { bounds } = stretchesOf(from, from + length);
        const times = bounds.map(seconds);
        expect(times[0]).toBeLessThanOrEqual(from);
        expect(times.at(-1)).toBeGreaterThanOrEqual(from + length);
        expect([...times].sort((a, b) => a - b)).toEqual(times);
        expect(bounds.length).toBeLessThan(140);
      }),
    );
  });
});
