import fc from 'fast-check';
import { beginsNear, TermFinder } from './finding';
import { followTerms, TermNames } from './following';
import { findingsOf, lint } from './lint';
import { parseQuery, queryText } from '../search/language';
import { besideName, tidyLabel, type OtherLabel, type Relation } from './term';
import { aTerm as term, changed, stateOf } from './testing';
import { TermTree } from './tree';

const tree = new TermTree([
  term(1, null, 'Objects', { heading: true }),
  term(2, 1, 'Kites'),
  term(3, 2, 'Rokkaku'),
  term(4, 2, 'äolian'),
  term(5, 2, 'Zeta'),
]);

test('narrower terms stand in the order a person expects', () => {
  expect(tree.narrower(2).map(({ label }) => label)).toEqual(['äolian', 'Rokkaku', 'Zeta']);
});

test('a path leads from the top to the term', () => {
  expect(tree.path(3).map(({ id }) => id)).toEqual([1, 2, 3]);
  expect(tree.path(99)).toEqual([]);
});

test('pre-order puts each term before its narrower ones', () => {
  expect(tree.preOrder().map(({ id }) => id)).toEqual([1, 2, 4, 3, 5]);
});

test('labels lose stray white space; empty and endless ones are none', () => {
  expect(tidyLabel('  Box \n kite ')).toBe('Box kite');
  expect(tidyLabel(' \t ')).toBeUndefined();
  expect(tidyLabel('x'.repeat(201))).toBeUndefined();
});

describe('finding while a name is typed', () => {
  const kites = new TermTree([
    term(1, null, 'Objects', { heading: true }),
    term(2, 1, 'Kites', { otherLabels: [{ kind: 'alternative', language: 'fr', label: 'Cerfs-volants' }] }),
    term(3, 2, 'Box kite'),
    term(4, 2, 'Kite reel'),
    term(5, null, 'Straße'),
    term(6, 5, 'Kites'),
  ]);
  const finder = new TermFinder(kites);
  const found = (text: string) => finder.find(text, 10).map(({ termId }) => termId);

  test('whole labels come first, then beginnings, then later words', () => {
    expect(found('kite')).toEqual([2, 6, 4, 3]);
    expect(found('KITES')).toEqual([2, 6]);
  });

  test('other labels are found without their accents, a path narrows, slips are forgiven', () => {
    expect(found('cerfs')).toEqual([2]);
    expect(found('str › kites')).toEqual([6]);
    expect(found('volnats')).toEqual([2]);
    expect(finder.find('objets/kites', 5)).toEqual([]);
  });

  test('the part that was typed is marked in the label as it is spelt', () => {
    expect(finder.find('strasse', 5)[0]).toMatchObject({ label: 'Straße', from: 0, to: 6, why: 'whole' });
    expect(finder.find('kit', 5, ({ id }) => id === 3)[0]).toMatchObject({ from: 4, to: 7, why: 'words' });
  });
});

test('a beginning is near exactly when counting all slips says so', () => {
  // The textbook way, over the whole table.
  const distance = (a: string, b: string): number => {
    const d = Array.from({ length: a.length + 1 }, (_, i) =>
      Array.from({ length: b.length + 1 }, (_x, j) => (i === 0 ? j : j === 0 ? i : 0)),
    );
    const at = (i: number, j: number) => d[i]?.[j] ?? Infinity;
    for (let i = 1; i <= a.length; i++)
      for (let j = 1; j <= b.length; j++) {
        let cost = Math.min(at(i - 1, j) + 1, at(i, j - 1) + 1, at(i - 1, j - 1) + (a[i - 1] === b[j - 1] ? 0 : 1));
        if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1])
          cost = Math.min(cost, at(i - 2, j - 2) + 1);
        (d[i] ?? [])[j] = cost;
      }
    return at(a.length, b.length);
  };
  const letters = fc.string({ unit: fc.constantFrom('a', 'b', 'c'), minLength: 1, maxLength: 9 });
  fc.assert(
    fc.property(letters, letters, fc.constantFrom(1, 2), (word, typed, slips) => {
      const beginnings = Array.from({ length: word.length + 1 }, (_, i) => word.slice(0, i));
      expect(beginsNear(word, typed, slips)).toBe(beginnings.some((start) => distance(start, typed) <= slips));
    }),
    { numRuns: 2000 },
  );
});

describe('queries follow their terms', () => {
  const before = stateOf([term(1, null, 'Kites'), term(2, 1, 'Rokaku'), term(3, 1, 'Rokkaku'), term(4, null, 'Fish')]);
  const follow = (text: string, after: typeof before, becomes = (id: number): number | undefined => id) =>
    queryText(followTerms(parseQuery(text).query, new TermNames(before.tree), new TermNames(after.tree), becomes));

  test('a renamed or merged term is named anew, wherever it stands in the query', () => {
    const renamed = changed(before, { kind: 'renameTerm', termId: 2, label: 'Six-sided', keepOld: 'none' });
    expect(follow('rating:>2 (term:rokaku or not term:"Kites/Rokaku")', renamed)).toBe(
      'rating:>2 (term:Six-sided or not term:Six-sided)',
    );
    const merged = changed(before, { kind: 'mergeTerms', termIds: [2], intoId: 3, keepLabels: 'none' });
    expect(follow('only:rokaku', merged, (id) => (id === 2 ? 3 : id))).toBe('only:Rokkaku');
  });

  test('what still means the same stays as it was typed', () => {
    const kept = changed(before, { kind: 'renameTerm', termId: 2, label: 'Six-sided', keepOld: 'alternative' });
    expect(follow('term:ROKAKU', kept)).toBe('term:ROKAKU');
  });

  test('a label that comes to mean another term, too, is told from it by its path', () => {
    const twice = changed(before, { kind: 'addTerms', parentId: 4, terms: [{ label: 'Rokkaku' }] });
    expect(follow('term:Rokkaku', twice)).toBe('term:Kites/Rokkaku');
  });
});

describe('what is doubtful', () => {
  const photos = new Map([
    [2, 5],
    [3, 9],
    [8, 1],
    [9, 2],
  ]);
  const { tree } = stateOf([
    term(1, null, 'Objects', { heading: true }),
    term(2, 1, 'Rokaku'),
    term(3, 1, 'Rokkaku'),
    term(4, 1, 'Lot 1'),
    term(5, 1, 'Lot 2'),
    term(6, 1, 'Six-sided', { otherLabels: [{ kind: 'alternative', language: '', label: 'rokkaku' }] }),
    term(7, null, 'Rokkaku'),
    term(8, null, 'Old', { deprecated: true }),
    term(9, null, 'Group', { heading: true }),
    term(10, 9, 'x'.repeat(40) + 'é'.repeat(13)),
    term(11, 10, 'blue sky'),
    term(12, 10, 'Sky, blue'),
  ]);
  const findings = lint({ tree, relations: [{ kind: 'related', fromId: 10, toId: 11 }], photos });
  const of = (kind: string) => findings.filter((finding) => finding.kind === kind).map(({ termIds }) => termIds);

  test.each([
    [
      'near',
      [
        [2, 6],
        [2, 7],
        [3, 2],
        [11, 12],
      ],
    ],
    ['alternative', [[6, 7]]],
    ['branches', [[3, 7]]],
    ['circle', [[10, 11]]],
    ['long', [[10]]],
    ['headingGiven', [[9]]],
    ['deprecatedGiven', [[8]]],
    ['single', [[9]]],
    ['unused', [[4], [5], [6], [7], [11], [12]]],
    ['many', []],
  ])('%s', (kind, expected) => {
    const sorted = (lists: number[][]) =>
      [...lists].sort((a, b) => (a[0] ?? 0) - (b[0] ?? 0) || (a[1] ?? 0) - (b[1] ?? 0));
    expect(sorted(of(kind))).toEqual(sorted(expected));
  });

  test('what somebody has said is not the same is no finding any more', () => {
    const pair = stateOf([term(1, null, 'Shore'), term(2, null, 'Store')]).tree;
    const near = (relations: Relation[]) => findingsOf('near', { tree: pair, relations, photos: new Map() });
    expect(near([])).toHaveLength(1);
    expect(near([{ kind: 'apart', fromId: 1, toId: 2 }])).toEqual([]);
  });
});

test('beside a name stands what a term is called in the reader’s language, else what it is also called', () => {
  const label = (kind: OtherLabel['kind'], language: string, text: string) => ({ kind, language, label: text });
  const others = [
    label('hidden', 'de', 'drache'),
    label('alternative', '', 'kite'),
    label('alternative', 'de', 'Flugdrachen'),
    label('preferred', 'de', 'Drachen'),
    label('alternative', 'fr', 'cerfs-volants'),
  ];
  expect(['de-CH', 'fr', 'nl', null].map((language) => besideName(others, language))).toEqual([
    'Drachen',
    'cerfs-volants',
    'kite',
    'kite',
  ]);
  expect(besideName([label('hidden', '', 'kiet')], 'de')).toBe('');
});
