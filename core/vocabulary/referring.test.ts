import type { FieldValue } from '../metadata/fields';
import { aboutOf, hierarchyOf } from './referring';
import { aTerm, VOCABULARY } from './testing';
import { TermTree } from './tree';

const tree = new TermTree(
  [
    aTerm(1, null, 'Objects', { heading: true }),
    aTerm(2, 1, 'Kites'),
    aTerm(3, 2, 'Rokkaku'),
    aTerm(4, 2, 'Sled', { writeBroader: false }),
    aTerm(5, 2, 'Secret', { writeSelf: false }),
    aTerm(6, 2, 'Perhaps', { status: 'proposed' }),
  ],
  [],
  [VOCABULARY],
);
const none = new Set<string>();

test('terms become paths, those of one branch together; what is not written is left out', () => {
  expect(hierarchyOf(tree, [3, 2, 4, 5, 6, 1, 99], undefined, none)).toEqual({
    Hierarchy: [
      {
        Keyword: 'Objects',
        Children: [{ Keyword: 'Kites', Applied: true, Children: [{ Keyword: 'Rokkaku', Applied: true }] }],
      },
      { Keyword: 'Sled', Applied: true },
    ],
  });
  expect(hierarchyOf(tree, [], undefined, none)).toBeUndefined();
});

test('paths of other programs stay, our earlier ones go', () => {
  const existing: FieldValue = {
    Hierarchy: [
      { Keyword: 'Places', Children: [{ Keyword: 'Fenwick' }, { Keyword: 'Rokkaku', Applied: true }] },
      { Keyword: 'Old branch', Children: [{ Keyword: 'Sled', Applied: true }] },
    ],
  };
  expect(hierarchyOf(tree, [3], existing, new Set(['Rokkaku', 'Sled', 'Kites']))).toEqual({
    Hierarchy: [
      { Keyword: 'Places', Children: [{ Keyword: 'Fenwick', Applied: true }] },
      { Keyword: 'Objects', Children: [{ Keyword: 'Kites', Children: [{ Keyword: 'Rokkaku', Applied: true }] }] },
    ],
  });
  expect(hierarchyOf(tree, [], { Hierarchy: [{ Keyword: 'Sled', Applied: true }] }, new Set(['Sled']))).toBeUndefined();
  expect(hierarchyOf(tree, [3], 'not a structure', none)).toMatchObject({ Hierarchy: [{ Keyword: 'Objects' }] });
});

test('terms are referred to by address, beside those of other vocabularies', () => {
  const foreign = { CvId: 'urn:other', CvTermId: 'urn:other:1' };
  const stale = { CvId: 'urn:museum', CvTermId: 'urn:term:77' };
  expect(aboutOf(tree, [VOCABULARY], [3, 5], [foreign, stale])).toEqual([
    foreign,
    { CvId: 'urn:museum', CvTermId: 'urn:term:3', CvTermName: 'Rokkaku' },
  ]);
  expect(aboutOf(tree, [VOCABULARY], [], [stale])).toBeUndefined();
});
