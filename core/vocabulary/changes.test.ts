import fc from 'fast-check';
import { planChange, type TermChange } from './changes';
import { Refusal, type Plan, type VocabularyState } from './editor';
import { keywordsOf } from './writing';
import type { Relation } from './term';
import { aTerm, carriedOut, changed, freshFrom, stateOf } from './testing';

const TERMS = [
  aTerm(1, null, 'Objects', { heading: true }),
  aTerm(2, 1, 'Kites'),
  aTerm(3, 2, 'Rokkaku', { otherLabels: [{ kind: 'alternative', language: '', label: 'six-sided kite' }] }),
  aTerm(4, 2, 'Rokaku', { scopeNote: 'A fighting kite.' }),
  aTerm(5, 4, 'Large'),
  aTerm(6, 3, 'Large'),
  aTerm(7, null, 'Festivals'),
];
const state = stateOf(
  TERMS,
  [{ kind: 'related', fromId: 4, toId: 7 }],
  undefined,
  new Map([
    [4, 2],
    [7, 1],
  ]),
);
const plan = (change: TermChange, from = state) => planChange(from, change, freshFrom(100));

describe('merging', () => {
  const merging: TermChange = { kind: 'mergeTerms', termIds: [4], intoId: 3, keepLabels: 'alternative' };

  test('makes the label an alternative one and takes along what the other said', () => {
    const into = changed(state, merging).tree.get(3);
    expect(into?.otherLabels.map(({ label }) => label)).toEqual(['six-sided kite', 'Rokaku']);
    expect(into?.scopeNote).toBe('A fighting kite.');
  });

  test('makes one of narrower terms with one label, and gives their photos', () => {
    const { tree } = changed(state, merging);
    expect(tree.narrower(3).map(({ id }) => id)).toEqual([6]);
    expect(plan(merging).regiven).toEqual([{ from: 4, to: 3 }]);
  });

  test('takes links along and says what became of the term', () => {
    const planned = plan(merging);
    expect(planned.relations).toEqual([
      { before: { kind: 'related', fromId: 4, toId: 7 }, after: null },
      { before: null, after: { kind: 'related', fromId: 3, toId: 7 } },
    ]);
    expect([planned.becomes(4), planned.becomes(5), planned.becomes(3)]).toEqual([3, 6, 3]);
  });

  test('into a narrower term brings that one up first', () => {
    const { tree } = changed(state, { kind: 'mergeTerms', termIds: [2], intoId: 3, keepLabels: 'hidden' });
    expect(tree.get(3)?.parentId).toBe(1);
    expect(tree.get(4)?.parentId).toBe(3);
  });

  test('into the term above loses nothing below a narrower one of its own label', () => {
    const chain = stateOf([
      aTerm(1, null, 'Delta'),
      aTerm(2, 1, 'Delta'),
      aTerm(3, 2, 'Delta'),
      aTerm(4, 3, 'Large'),
      aTerm(5, 2, 'Small'),
    ]);
    const { tree } = changed(chain, { kind: 'mergeTerms', termIds: [2], intoId: 1, keepLabels: 'none' });
    expect(tree.narrower(1).map(({ id }) => id)).toEqual([3, 5]);
    expect(tree.get(4)?.parentId).toBe(3);
  });

  test('of a term that photos have into a heading is refused', () => {
    expect(() => plan({ kind: 'mergeTerms', termIds: [7], intoId: 1, keepLabels: 'none' })).toThrow(Refusal);
  });
});

test('a term can’t be moved below itself, nor where its label is taken', () => {
  expect(() => plan({ kind: 'moveTerms', termIds: [2], parentId: 6 })).toThrow(/below itself/);
  expect(() => plan({ kind: 'moveTerms', termIds: [6], parentId: 4 })).toThrow(/termExists/);
});

test('putting a term before another makes the order one by hand', () => {
  const after = changed(state, { kind: 'moveTerms', termIds: [3], parentId: 2, before: null });
  expect(after.tree.narrower(2).map(({ label }) => label)).toEqual(['Rokaku', 'Rokkaku']);
  const back = changed(after, { kind: 'moveTerms', termIds: [3], parentId: 2, before: 4 });
  expect(back.tree.narrower(2).map(({ label }) => label)).toEqual(['Rokkaku', 'Rokaku']);
});

test('renaming may keep the old label, and what somebody else changed meanwhile is not written over', () => {
  const after = changed(state, {
    kind: 'renameTerm',
    termId: 7,
    label: ' Kite  festivals',
    seen: 'Festivals',
    keepOld: 'hidden',
  });
  expect(after.tree.get(7)).toMatchObject({
    label: 'Kite festivals',
    otherLabels: [{ kind: 'hidden', label: 'Festivals' }],
  });
  expect(() => plan({ kind: 'editTerm', termId: 7, facts: { scopeNote: 'x' }, seen: { scopeNote: 'old' } })).toThrow(
    /termChanged/,
  );
});

test('preferred and alternative label change places', () => {
  const after = changed(state, { kind: 'swapLabels', termId: 3, label: 'six-sided kite' });
  expect(after.tree.get(3)).toMatchObject({
    label: 'six-sided kite',
    otherLabels: [{ kind: 'alternative', label: 'Rokkaku' }],
  });
});

test('only what is unused goes without being told where its photos and narrower terms are to go', () => {
  expect(() => plan({ kind: 'removeTerm', termId: 4, narrower: 'refuse' })).toThrow(/termInUse/);
  const planned = plan({ kind: 'removeTerm', termId: 4, photosTo: 7, narrower: 'up' });
  expect(planned.regiven).toEqual([{ from: 4, to: 7 }]);
  expect(carriedOut(state, planned).state.tree.get(5)?.parentId).toBe(2);
});

test('broader terms make no circle, and related ones are not broader', () => {
  expect(() => plan({ kind: 'relateTerms', relation: 'broader', fromId: 2, toId: 6, on: true })).toThrow(/narrower/);
  expect(() => plan({ kind: 'relateTerms', relation: 'related', fromId: 6, toId: 2, on: true })).toThrow(
    /broader than/,
  );
  expect(
    changed(state, { kind: 'relateTerms', relation: 'broader', fromId: 6, toId: 7, on: true }).tree.above(6),
  ).toContain(7);
});

test('a term is written by its rules: with broader ones, in a language, and with other labels', () => {
  const kites = [
    aTerm(1, null, 'Objects', { heading: true }),
    aTerm(2, 1, 'Kites', {
      otherLabels: [{ kind: 'preferred', language: 'de', label: 'Drachen' }],
      writeLanguage: 'de',
    }),
    aTerm(3, 2, 'Rokkaku', {
      writeOthers: 'all',
      otherLabels: [
        { kind: 'alternative', language: '', label: 'six-sided kite' },
        { kind: 'hidden', language: '', label: 'rokaku' },
      ],
    }),
    aTerm(4, 3, 'Large', { writeBroader: false }),
    aTerm(5, 3, 'New idea', { status: 'proposed' }),
    aTerm(6, 3, 'Working group', { writeSelf: false }),
  ];
  const { tree } = stateOf(kites);
  expect(keywordsOf(tree, 3)).toEqual(['Rokkaku', 'six-sided kite', 'Drachen']);
  expect(keywordsOf(tree, 4)).toEqual(['Large']);
  expect(keywordsOf(tree, 5)).toEqual(['Rokkaku', 'six-sided kite', 'Drachen']);
  expect(keywordsOf(tree, 6)).toEqual(['Rokkaku', 'six-sided kite', 'Drachen']);
});

/** A random change over whatever terms there are. */
const anyChange = fc.tuple(
  fc.nat(11),
  fc.nat(1000),
  fc.nat(1000),
  fc.constantFrom('Delta', 'Sled', 'Box', 'Tail'),
  fc.boolean(),
);

function changeFrom(
  from: VocabularyState,
  [kind, a, b, label, flag]: [number, number, number, string, boolean],
): TermChange {
  const ids = [...from.tree.all()].map(({ id }) => id);
  const [one, other] = [ids[a % ids.length] ?? 1, ids[b % ids.length] ?? 1];
  const changes: TermChange[] = [
    { kind: 'addTerms', parentId: flag ? one : null, terms: [{ label, narrower: [{ label: 'Below' }] }] },
    { kind: 'renameTerm', termId: one, label, keepOld: flag ? 'alternative' : 'none' },
    { kind: 'moveTerms', termIds: [one, other], parentId: flag ? other : null, ...(b % 3 ? {} : { before: null }) },
    { kind: 'mergeTerms', termIds: [one], intoId: other, keepLabels: flag ? 'hidden' : 'none' },
    { kind: 'splitTerm', termId: one, into: [label] },
    { kind: 'setHeading', termId: one, heading: flag, photosTo: b % 2 ? other : null },
    { kind: 'deprecateTerm', termId: one, deprecated: flag, replacedBy: other, movePhotos: b % 2 === 0 },
    { kind: 'removeTerm', termId: one, photosTo: flag ? other : null, narrower: 'up' },
    { kind: 'relateTerms', relation: flag ? 'broader' : 'related', fromId: one, toId: other, on: true },
    { kind: 'proposeTerm', parentId: one, label, scopeNote: '', by: 1 },
    { kind: 'acceptTerms', termIds: [one] },
    { kind: 'refuseTerm', termId: one },
  ];
  return changes[kind] ?? { kind: 'acceptTerms', termIds: [one] };
}

function reversed(planned: Plan): Plan {
  const turn = <Thing>({ before, after }: { before: Thing; after: Thing }) => ({ before: after, after: before });
  return {
    ...planned,
    terms: planned.terms.map(turn),
    relations: planned.relations.map(turn),
    vocabularies: planned.vocabularies.map(turn),
    regiven: [],
  };
}

function problemsOf({ tree, relations }: VocabularyState): string[] {
  const all = [...tree.all()];
  const seen = new Set<string>();
  return [
    ...(tree.preOrder().length === all.length ? [] : ['a term can’t be reached from the top']),
    ...all.flatMap((term) => {
      const key = `${term.parentId}/${term.label}/${term.vocabularyId}`;
      const twice = seen.has(key);
      seen.add(key);
      return [
        ...(twice ? [`${term.label} stands twice`] : []),
        ...(term.parentId === null || tree.get(term.parentId) ? [] : ['a broader term is gone']),
        ...(term.replacedBy === null || tree.get(term.replacedBy) ? [] : ['a replacement is gone']),
        ...(tree.above(term.id).has(term.id) ? [`${term.label} is in a circle`] : []),
      ];
    }),
    ...relations.flatMap(({ fromId, toId }) => (tree.get(fromId) && tree.get(toId) ? [] : ['a link hangs'])),
  ];
}

test('any sequence of changes keeps the tree sound, loses no photo’s term but those taken off, and is undone exactly', () => {
  fc.assert(
    fc.property(fc.array(anyChange, { minLength: 1, maxLength: 25 }), (steps) => {
      let photos = [new Set([4]), new Set([4, 7]), new Set([6])];
      let now = stateOf(
        TERMS,
        [],
        undefined,
        new Map([
          [4, 2],
          [7, 1],
          [6, 1],
        ]),
      );
      let id = 100;
      for (const step of steps) {
        const change = changeFrom(now, step);
        let planned: Plan;
        try {
          planned = planChange(now, change, freshFrom((id += 10)));
        } catch (error) {
          if (!(error instanceof Refusal)) throw error;
          continue;
        }
        const next = carriedOut(now, planned, photos);
        expect(problemsOf(next.state)).toEqual([]);
        const back = carriedOut(next.state, reversed(planned)).state;
        expect(sorted(back)).toEqual(sorted(now));
        photos.forEach((had, i) => {
          const loses = planned.regiven.some(({ from, to }) => to === null && had.has(from));
          if (had.size > 0 && !loses) expect(next.photos[i]?.size).toBeGreaterThan(0);
          for (const has of next.photos[i] ?? []) expect(next.state.tree.get(has)?.heading).toBe(false);
        });
        [now, photos] = [next.state, next.photos];
      }
    }),
    { numRuns: 500 },
  );
});

function sorted({ tree, relations }: VocabularyState): unknown {
  const links = [...relations].sort(
    (a: Relation, b: Relation) => a.fromId - b.fromId || a.toId - b.toId || (a.kind < b.kind ? -1 : 1),
  );
  return { terms: [...tree.all()].sort((a, b) => a.id - b.id), links };
}
