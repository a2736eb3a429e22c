import { parseOutline } from './indented';
import { tidyLabel, type Term } from './term';
import { TermTree } from './tree';

const term = (id: number, parentId: number | null, label: string, more: Partial<Term> = {}): Term => ({
  id,
  parentId,
  label,
  heading: false,
  writeBroader: true,
  scopeNote: '',
  otherLabels: [],
  ...more,
});

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

test('indented text gives levels, headings and other labels', () => {
  const { terms, errors } = parseOutline(
    '[Objects]\n\tKites\n\t\tRokkaku = six-sided kite; rokkaku-dako @ja; ~rokaku\n# a remark\n\n  Tails',
  );
  expect(errors).toEqual([]);
  expect(terms).toMatchObject([
    {
      label: 'Objects',
      heading: true,
      narrower: [{ label: 'Kites', narrower: [{ label: 'Rokkaku' }] }, { label: 'Tails' }],
    },
  ]);
  expect(terms[0]?.narrower[0]?.narrower[0]?.otherLabels).toEqual([
    { kind: 'alternative', language: '', label: 'six-sided kite' },
    { kind: 'alternative', language: 'ja', label: 'rokkaku-dako' },
    { kind: 'hidden', language: '', label: 'rokaku' },
  ]);
});

test('a line indented too deep is named and left out', () => {
  const { terms, errors } = parseOutline('Kites\n\t\t\tDelta');
  expect(terms).toHaveLength(1);
  expect(errors).toEqual([{ line: 2, message: 'is indented deeper than one level below the line before' }]);
});

test('labels lose stray white space; empty and endless ones are none', () => {
  expect(tidyLabel('  Box \n kite ')).toBe('Box kite');
  expect(tidyLabel(' \t ')).toBeUndefined();
  expect(tidyLabel('x'.repeat(201))).toBeUndefined();
});
