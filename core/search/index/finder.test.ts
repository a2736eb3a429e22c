import fc from 'fast-check';
import { evaluate } from '../evaluate';
import { FACETS, missingQuery, valueQuery, type FacetId } from '../facets';
import { queryText } from '../language';
import { secondsOf } from '../photo';
import { allOf, criterion, type Query } from '../../query/query';
import {
  ALL_CONDITIONS,
  anyQuery,
  anySight,
  catalogue,
  EVERYTHING_SEEN,
  indexOf,
  isShown,
  putPhoto,
  searchables,
  seenPhotos,
  TODAY,
  type MadePhoto,
} from '../testing';
import { asksForSetAside, Finder } from './finder';
import { FinderIndex } from './finderIndex';
import type { Viewpoint } from '../viewpoint';

/** Ids of what the sheet shows, by the naive evaluation. */
function shownFor(
  query: Query,
  photos: readonly MadePhoto[],
  { sight, knowsPrivate }: Pick<Viewpoint, 'sight' | 'knowsPrivate'> = EVERYTHING_SEEN,
): number[] {
  const seen = seenPhotos(photos, sight);
  const all = searchables(photos, seen, knowsPrivate);
  const setAside = asksForSetAside(query);
  const found = new Set<number>();
  photos.forEach((photo, i) => {
    const searchable = all[i];
    if (!searchable || !seen[i] || !(setAside || isShown(photo)) || !evaluate(query, searchable, TODAY)) return;
    const lead = photo.row.foldedInto;
    // Where the lead does not exist for who asks, a photo stands by itself.
    found.add(lead !== undefined && (sight === null || seen[lead - 1]) ? lead : i + 1);
  });
  return [...found].sort((a, b) => a - b);
}

const ADDED = { id: 'added', descending: false } as const;
const found = (finder: Finder, query: Query) => finder.page({ query }, ADDED, 0, 1000, EVERYTHING_SEEN);

test('the index finds what the naive evaluation finds', () => {
  fc.assert(
    fc.property(catalogue, anyQuery, (photos, query) => {
      expect(found(new Finder(indexOf(photos)), query)).toEqual(shownFor(query, photos));
    }),
    { numRuns: 500 },
  );
});

/** What a query is narrowed by: nothing, one condition, several, and one that is denied. */
const PARTS: readonly Query[] = [
  { kind: 'everything' },
  criterion('mark', 'Print'),
  allOf([criterion('kind', 'jpeg'), criterion('has', 'caption')]),
  { kind: 'not', of: criterion('plan', 'Hall') },
];

test('for somebody with rights the index finds, counts and describes what the naive evaluation does of what they see', () => {
  fc.assert(
    fc.property(catalogue, anyQuery, anySight, fc.boolean(), (photos, query, sight, knowsPrivate) => {
      const finder = new Finder(indexOf(photos));
      // What was found for somebody else before changes nothing.
      finder.count(query, EVERYTHING_SEEN);
      const from = { today: TODAY, sight, knowsPrivate };
      const seen = seenPhotos(photos, sight);
      const meant = shownFor(query, photos, from);
      expect(finder.page({ query }, ADDED, 0, 1000, from)).toEqual(meant);
      expect(finder.count(query, from).photos).toBe(meant.length);
      const parts = PARTS.filter((part) => !asksForSetAside(part));
      expect(finder.countParts(query, parts, from)).toEqual(
        parts.map((part) => finder.count(allOf([query, part]), from).photos),
      );
      photos.forEach((_, i) => {
        const [within] = finder.within({ query: null, plus: [i + 1] }, [{ kind: 'everything' }], from, 1000);
        if (!seen[i])
          expect([within?.photos, finder.matching({ kind: 'everything' }, [i + 1], from)]).toEqual([0, [false]]);
        const place = meant.indexOf(i + 1);
        expect(finder.position(i + 1, { query }, ADDED, from)).toBe(place < 0 ? undefined : place);
      });
      for (const facet of FACETS.map(({ id }) => id).filter((id) => id !== 'term')) {
        const { values, missing } = finder.facet(query, facet, from, 1000);
        for (const { value, photos: count } of values)
          expect([facet, value, count]).toEqual([
            facet,
            value,
            shownFor(allOf([query, valueQuery(facet, value)]), photos, from).length,
          ]);
        const none = missingQuery(facet);
        if (none) expect(missing).toBe(shownFor(allOf([query, none]), photos, from).length);
      }
    }),
    { numRuns: 80 },
  );
});

test('each criterion finds what the naive evaluation finds, for all its values', () => {
  const photos = fc
    .sample(catalogue, { numRuns: 12, seed: 7 })
    .flat()
    .map((photo) => ({ ...photo, row: { ...photo.row, foldedInto: undefined } }));
  const all = searchables(photos);
  const finder = new Finder(indexOf(photos));
  for (const query of ALL_CONDITIONS) {
    const setAside = asksForSetAside(query);
    const meant = photos.flatMap((photo, i) =>
      (setAside || isShown(photo)) && all[i] && evaluate(query, all[i], TODAY) ? [i + 1] : [],
    );
    expect([queryText(query), found(finder, query)]).toEqual([queryText(query), meant]);
  }
});

test('far more queries than are remembered: each finds what it alone would find, and counts as many', () => {
  const photos = fc.sample(catalogue, { numRuns: 3, seed: 11 }).flat();
  // Leads are told by number: those of several catalogues would stand for one another.
  for (const photo of photos) photo.row.foldedInto = undefined;
  const index = indexOf(photos);
  const busy = new Finder(index);
  // Whose sets nobody uses again.
  const untouched = indexOf(photos);
  const some = fc.sample(anyQuery, { numRuns: 700, seed: 3 });
  // Some come again when part of what was found for them is forgotten.
  const queries = some.flatMap((query, i) => [query, some[i % 40] ?? query]);
  for (const query of queries) {
    busy.settle();
    const alone = new Finder(untouched);
    expect(found(busy, query)).toEqual(found(alone, query));
    expect(busy.count(query, EVERYTHING_SEEN)).toEqual(alone.count(query, EVERYTHING_SEEN));
    for (const facet of ['person', 'camera', 'year', 'drive'] as const)
      expect(busy.facet(query, facet, EVERYTHING_SEEN, 10)).toEqual(alone.facet(query, facet, EVERYTHING_SEEN, 10));
    expect(busy.countsOfTerms(query, [1, 2, 5, 6], EVERYTHING_SEEN)).toEqual(
      alone.countsOfTerms(query, [1, 2, 5, 6], EVERYTHING_SEEN),
    );
  }
});

test('an index that was kept and taken up again finds the same, and can be changed like any other', () => {
  fc.assert(
    fc.property(catalogue, catalogue, fc.array(anyQuery, { minLength: 1, maxLength: 3 }), (photos, later, queries) => {
      const index = indexOf(photos);
      for (const query of queries) found(new Finder(index), query);
      const again = new FinderIndex();
      again.append(new Map(structuredClone([...index.saved()])));
      again.setFolders(index.folders.all());
      again.dossiers = index.dossiers;
      again.setVocabulary(index.terms);
      const finder = new Finder(again);
      for (const query of queries) expect(found(finder, query)).toEqual(shownFor(query, photos));
      const now = photos.map((photo, i) => later[i] ?? photo);
      later.slice(0, photos.length).forEach((photo, i) => putPhoto(again, i + 1, photo));
      for (const query of queries) expect(found(finder, query)).toEqual(shownFor(query, now));
    }),
    { numRuns: 80 },
  );
});

test('an index that takes up what another one has of other photos finds what one of all of them finds', () => {
  fc.assert(
    fc.property(
      catalogue,
      fc.nat(12),
      fc.array(anyQuery, { minLength: 1, maxLength: 3 }),
      catalogue,
      (photos, first, queries, later) => {
        const [index, other] = [indexOf(photos.slice(0, first)), indexOf([])];
        photos.slice(first).forEach((photo, i) => putPhoto(other, first + i + 1, photo));
        const finder = new Finder(index);
        for (const query of queries) found(finder, query);
        index.append(new Map(structuredClone([...other.saved()])));
        for (const query of queries) expect(found(finder, query)).toEqual(shownFor(query, photos));
        const whole = new Finder(indexOf(photos));
        for (const facet of ['person', 'camera', 'changedBy', 'accession'] as const)
          for (const query of queries)
            expect(finder.facet(query, facet, EVERYTHING_SEEN, 10)).toEqual(
              whole.facet(query, facet, EVERYTHING_SEEN, 10),
            );
        const now = photos.map((photo, i) => later[i] ?? photo);
        later.slice(0, photos.length).forEach((photo, i) => putPhoto(index, i + 1, photo));
        for (const query of queries) expect(found(finder, query)).toEqual(shownFor(query, now));
      },
    ),
    { numRuns: 100 },
  );
});

test('after any changes the index is as if it had been made of what is there now', () => {
  fc.assert(
    fc.property(catalogue, catalogue, fc.array(anyQuery, { minLength: 1, maxLength: 3 }), (photos, later, queries) => {
      const index = indexOf(photos);
      const finder = new Finder(index);
      for (const query of queries) found(finder, query);
      const now = photos.map((photo, i) => later[i] ?? photo);
      later.slice(0, photos.length).forEach((photo, i) => putPhoto(index, i + 1, photo));
      for (const query of queries) expect(found(finder, query)).toEqual(shownFor(query, now));
      const fresh = new Finder(indexOf(now));
      for (const id of ['taken', 'name', 'folder', 'rating', 'rating-desc', 'size', 'kind', 'bundle'] as const) {
        const page = (each: Finder) =>
          each.page({ query: { kind: 'everything' } }, { id, descending: false }, 0, 100, EVERYTHING_SEEN);
        expect(page(finder)).toEqual(page(fresh));
      }
    }),
    { numRuns: 80 },
  );
});

test('each count of a facet is what narrowing to its value finds', () => {
  const listed = FACETS.map(({ id }) => id).filter((id): id is Exclude<FacetId, 'term'> => id !== 'term');
  const counted: Exclude<FacetId, 'term'>[] = [...listed, 'own:Value', 'own:Opens: at'];
  fc.assert(
    fc.property(catalogue, anyQuery, fc.constantFrom(...counted), (photos, query, id) => {
      const { values, missing } = new Finder(indexOf(photos)).facet(query, id, EVERYTHING_SEEN, 100);
      for (const { value, photos: count } of values) {
        // A text is a pattern: what holds a wildcard by itself would find others, too.
        if (/[*?]/.test(value)) continue;
        expect([value, count]).toEqual([value, shownFor(allOf([query, valueQuery(id, value)]), photos).length]);
      }
      const none = FACETS.find((facet) => facet.id === id)?.missing;
      if (none) expect(missing).toBe(shownFor(allOf([query, criterion('missing', none)]), photos).length);
    }),
    { numRuns: 120 },
  );
});

test('terms are counted with all that have a narrower one', () => {
  const names: Record<number, string> = {
    1: 'Objects',
    2: 'Kites',
    3: 'Kites/Delta',
    4: 'Box kite',
    5: 'Places',
    6: 'Beach',
    7: 'Places/Delta',
  };
  fc.assert(
    fc.property(catalogue, anyQuery, (photos, query) => {
      const finder = new Finder(indexOf(photos));
      const ids = Object.keys(names).map(Number);
      const some = finder.countsOfTerms(query, ids, EVERYTHING_SEEN).counts;
      ids.forEach((id, i) => {
        const name = names[id] ?? '';
        const wanted = shownFor(allOf([query, criterion('term', name)]), photos).length;
        expect([name, some[i]]).toEqual([name, wanted]);
      });
    }),
    { numRuns: 120 },
  );
});

test('the histogram counts what overlaps each stretch', () => {
  const years = [1900, 1930, 1935, 1940, 2019, 2020, 2024, 2025];
  const bounds = years.map((year) => secondsOf(`${year}-01-01T00:00:00`));
  fc.assert(
    fc.property(catalogue, anyQuery, (photos, query) => {
      const { counts } = new Finder(indexOf(photos)).overTime(query, bounds, EVERYTHING_SEEN);
      counts.forEach((count, i) => {
        const stretch: Query = {
          kind: 'criterion',
          criterion: 'taken',
          operator: '..',
          value: String(years[i]),
          to: String((years[i + 1] ?? 0) - 1),
        };
        expect([years[i], count]).toEqual([years[i], shownFor(allOf([query, stretch]), photos).length]);
      });
    }),
    { numRuns: 120 },
  );
});

test('photos less and more, and places in an order', () => {
  fc.assert(
    fc.property(catalogue, anyQuery, (photos, query) => {
      const finder = new Finder(indexOf(photos));
      const asked = { query, minus: [1], plus: [2] };
      const page = finder.page(asked, { id: 'taken', descending: true }, 0, 100, EVERYTHING_SEEN);
      const meant = new Set(shownFor(query, photos).filter((id) => id !== 1));
      if (photos.length > 1) meant.add(2);
      expect([...page].sort((a, b) => a - b)).toEqual([...meant].sort((a, b) => a - b));
      page.forEach((id, at) =>
        expect(finder.position(id, asked, { id: 'taken', descending: true }, EVERYTHING_SEEN)).toBe(at),
      );
    }),
    { numRuns: 80 },
  );
});

test('a choice is described photo by photo, those behind leads too', () => {
  fc.assert(
    fc.property(catalogue, anyQuery, (photos, query) => {
      const { terms, within, photos: count } = new Finder(indexOf(photos)).describe({ query }, EVERYTHING_SEEN, 5);
      const shown = new Set(shownFor(query, photos));
      const chosen = photos.filter(({ row }, i) => shown.has(i + 1) || shown.has(row.foldedInto ?? -1));
      expect(count).toBe(chosen.length);
      expect(terms.get(3) ?? 0).toBe(chosen.filter(({ termIds }) => termIds.includes(3)).length);
      expect(within.get(2) ?? 0).toBe(
        chosen.filter(({ termIds }) => [2, 3, 4].some((id) => termIds.includes(id))).length,
      );
    }),
    { numRuns: 100 },
  );
});
