import fc from 'fast-check';
import { FACETS, type FacetId } from '../facets';
import { secondsOf } from '../photo';
import { allOf, criterion, type Query } from '../../query/query';
import { evaluate } from '../evaluate';
import { anyQuery, catalogue, EVERYTHING_SEEN, indexOf, searchables, TODAY } from '../testing';
import { Finder } from './finder';

const TAKEN = { id: 'taken', descending: false } as const;
const idsOf = (finder: Finder, query: Query) => finder.page({ query }, TAKEN, 0, 1000, EVERYTHING_SEEN);
const COUNTED = FACETS.map(({ id }) => id).filter((id): id is Exclude<FacetId, 'term'> => id !== 'term');

test('of a long facet the most frequent values come, the first by label among equals, and of those asked for by a piece', () => {
  fc.assert(
    fc.property(
      catalogue,
      anyQuery,
      fc.constantFrom(...COUNTED),
      fc.integer({ min: 1, max: 4 }),
      (photos, query, id, limit) => {
        const finder = new Finder(indexOf(photos));
        const all = finder.facet(query, id, EVERYTHING_SEEN, 1000);
        expect(all.distinct).toBe(all.values.length);
        expect(finder.facet(query, id, EVERYTHING_SEEN, limit)).toEqual({ ...all, values: all.values.slice(0, limit) });
        const holding = (label: string) => label.toLowerCase().includes('a');
        const some = all.values.filter(({ label }) => holding(label));
        expect(finder.facet(query, id, EVERYTHING_SEEN, limit, holding)).toEqual({
          ...all,
          values: some.slice(0, limit),
          distinct: some.length,
        });
      },
    ),
    { numRuns: 200 },
  );
});

test('texts of a criterion are counted as asking for each of them counts', () => {
  fc.assert(
    fc.property(catalogue, anyQuery, fc.constantFrom('keyword', 'person', 'creator', 'city'), (photos, query, id) => {
      const finder = new Finder(indexOf(photos));
      for (const { value, photos: count } of finder.texts(query, id as 'keyword', EVERYTHING_SEEN, 100).values) {
        if (/[*?]/.test(value)) continue;
        expect([value, count]).toEqual([
          value,
          finder.count(allOf([query, criterion(id, value)]), EVERYTHING_SEEN).photos,
        ]);
      }
    }),
    { numRuns: 150 },
  );
});

test('photos are counted by rating as asking for each rating counts, the lowest and the highest too', () => {
  fc.assert(
    fc.property(catalogue, anyQuery, (photos, query) => {
      const finder = new Finder(indexOf(photos));
      const { values } = finder.facet(query, 'rating', EVERYTHING_SEEN, 100);
      const counts = Object.fromEntries(values.map(({ label, photos: count }) => [label, count]));
      for (const rating of ['-1', '0', '1', '2', '3', '4', '5'])
        expect([rating, counts[rating] ?? 0]).toEqual([
          rating,
          finder.count(allOf([query, criterion('rating', rating)]), EVERYTHING_SEEN).photos,
        ]);
    }),
    { numRuns: 100 },
  );
});

test('neighbours of one key make a group; all groups together are the result', () => {
  fc.assert(
    fc.property(catalogue, anyQuery, fc.integer({ min: 1, max: 3 }), (photos, query, divisor) => {
      const index = indexOf(photos);
      const finder = new Finder(index);
      const ids = idsOf(finder, query);
      const keyOf = (ordinal: number) => Math.floor(index.ids.get(ordinal) / divisor) % 2;
      const groups = finder.groups({ query }, TAKEN, keyOf, EVERYTHING_SEEN);
      expect(groups.reduce((sum, { count }) => sum + count, 0)).toBe(ids.length);
      let at = 0;
      let last = NaN;
      for (const { first, count } of groups) {
        expect(index.ids.get(first)).toBe(ids[at]);
        const keys = ids.slice(at, at + count).map((id) => keyOf(index.ordinalOf(id)));
        expect(new Set(keys).size).toBe(1);
        expect(keys[0]).not.toBe(last);
        [at, last] = [at + count, keys[0] ?? NaN];
      }
    }),
    { numRuns: 150 },
  );
});

test('the dates of a result reach from its first moment to its last', () => {
  fc.assert(
    fc.property(catalogue, (photos) => {
      // Bundles would bring in what stands behind their leads.
      const alone = photos.map((photo) => ({ ...photo, row: { ...photo.row, foldedInto: undefined } }));
      const finder = new Finder(indexOf(alone));
      const span = finder.timeSpan({ kind: 'everything' }, EVERYTHING_SEEN);
      const dated = idsOf(finder, criterion('has', 'date'));
      if (!span) return expect(dated).toEqual([]);
      const bounds = [span.from, span.until];
      expect(finder.overTime({ kind: 'everything' }, bounds, EVERYTHING_SEEN).counts).toEqual([dated.length]);
      // A moment less on either side leaves somebody out or cuts somebody short.
      const first = finder.overTime({ kind: 'everything' }, [span.from, span.from + 1], EVERYTHING_SEEN).counts[0] ?? 0;
      const last =
        finder.overTime({ kind: 'everything' }, [span.until - 1, span.until], EVERYTHING_SEEN).counts[0] ?? 0;
      expect([first > 0, last > 0]).toEqual([true, true]);
      const before = [secondsOf('0001-01-01T00:00:00'), span.from];
      expect(finder.overTime({ kind: 'everything' }, before, EVERYTHING_SEEN).counts).toEqual([0]);
    }),
    { numRuns: 150 },
  );
});

test('whether some photos meet a query is told for each of them, shown or not', () => {
  fc.assert(
    fc.property(catalogue, anyQuery, (photos, query) => {
      const finder = new Finder(indexOf(photos));
      const all = searchables(photos);
      const ids = [...photos.map((_, i) => i + 1), 9999];
      const meant = all.map((photo) => evaluate(query, photo, TODAY));
      expect(finder.matching(query, ids, EVERYTHING_SEEN)).toEqual([...meant, false]);
    }),
    { numRuns: 150 },
  );
});

test('of a choice it is told how many meet each query, and the first of them', () => {
  fc.assert(
    fc.property(catalogue, anyQuery, fc.array(anyQuery, { minLength: 1, maxLength: 4 }), (photos, query, queries) => {
      const alone = photos.map((photo) => ({ ...photo, row: { ...photo.row, foldedInto: undefined } }));
      const finder = new Finder(indexOf(alone));
      const chosen = new Set(idsOf(finder, query));
      finder.within({ query }, queries, EVERYTHING_SEEN, 2).forEach(({ photos: count, first }, i) => {
        const asked = queries[i] ?? query;
        const meet = [...chosen].filter((id) => finder.matching(asked, [id], EVERYTHING_SEEN)[0]).sort((a, b) => a - b);
        expect([count, first]).toEqual([meet.length, meet.slice(0, 2)]);
      });
    }),
    { numRuns: 150 },
  );
});
