import { parseQuery } from '../search/language';
import {
  CHARTED,
  decadeFigures,
  FACE_FIGURES,
  growthFigures,
  MEDIA_FIGURES,
  SIZE_FIGURES,
  within,
  yearFigures,
} from './figures';
import { facetOf } from '../search/facets';
import { numberBounds } from '../search/evaluate';
import { conjuncts } from '../query/query';

const understood = (query: string) => parseQuery(query).errors.length === 0;

test('every figure is a search that is understood', () => {
  const all = [
    ...SIZE_FIGURES,
    ...MEDIA_FIGURES,
    ...FACE_FIGURES,
    ...growthFigures('2026-03-04'),
    ...yearFigures('2026-03-04'),
  ];
  expect(all.filter(({ query }) => !understood(query))).toEqual([]);
  expect(CHARTED.map((id) => facetOf(id).id)).toEqual([...CHARTED]);
});

test('classes of sizes meet without a gap, and none twice', () => {
  const isIn = (query: string, size: number) =>
    conjuncts(parseQuery(query).query).every((part) => {
      const bounds = part.kind === 'criterion' ? numberBounds(part) : undefined;
      if (!bounds) return false;
      const above = bounds.openFrom ? size > bounds.from : size >= bounds.from;
      return above && (bounds.openTo ? size < bounds.to : size <= bounds.to);
    });
  for (const size of [0, 0.999, 1, 4.99, 5, 20, 50, 99, 100, 999.9, 1000, 50_000])
    expect([size, SIZE_FIGURES.filter(({ query }) => isIn(query, size)).length]).toEqual([size, 1]);
  expect(SIZE_FIGURES.map(({ label }) => label)).toEqual([
    ...['under 1 MB', '1 MB to 5 MB', '5 MB to 20 MB', '20 MB to 50 MB', '50 MB to 100 MB'],
    ...['100 MB to 1 GB', '1 GB and more'],
  ]);
});

test('the last two years of months, over the turn of the year', () => {
  const months = growthFigures('2026-03-04').map(({ label }) => label);
  expect([months.length, months[0], months[11], months.at(-1)]).toEqual([24, '2024-04', '2025-03', '2026-03']);
});

test('years of taking in, with what came before together', () => {
  expect(yearFigures('2026-03-04').map(({ query }) => query)).toEqual([
    'added:<2019',
    ...[2019, 2020, 2021, 2022, 2023, 2024, 2025, 2026].map((year) => `added:${year}`),
  ]);
});

test('the decades of a span', () => {
  expect(decadeFigures('1958-01-01T00:00:00', '1971-05-05T00:00:00')).toEqual([
    { label: '1950s', query: 'taken:195X' },
    { label: '1960s', query: 'taken:196X' },
    { label: '1970s', query: 'taken:197X' },
  ]);
  expect(decadeFigures('1958', '1940')).toEqual([]);
});

test('a figure within what is looked at asks for both', () => {
  expect(within('', 'rating:3')).toBe('rating:3');
  expect(within('drive:"Vault 1" or kite', 'missing:caption')).toBe('(drive:"Vault 1" or kite) missing:caption');
  expect(within('rating:3', '')).toBe('rating:3');
});
