import fc from 'fast-check';
import { folderWords, pathOf, TermMatcher } from './matching';
import { newTerm, type Term } from './term';

const term = (id: number, parentId: number | null, label: string, more: Partial<Term> = {}): Term =>
  newTerm({ id, parentId, label, ...more });
const TERMS = [
  term(1, null, 'Objects', { heading: true }),
  term(2, 1, 'Kites', { otherLabels: [{ kind: 'alternative', language: 'de', label: 'Drachen' }] }),
  term(3, 2, 'Rokkaku', { otherLabels: [{ kind: 'alternative', language: '', label: 'Six-sided kite' }] }),
  term(4, null, 'Norland'),
  term(5, 4, 'Saltmarsh'),
  term(6, null, 'Beach'),
  term(7, null, 'Party'),
  term(8, 4, 'Drehbrücke'),
  term(9, null, 'Sky'),
];
const matcher = new TermMatcher(TERMS);

test.each([
  ['Rokkaku', 3, 'label'],
  ['rokkaku', 3, 'case'],
  ['DREHBRUCKE', 8, 'case'],
  ['six-sided kite', 3, 'other name'],
  ['Drachen', 2, 'other language'],
  ['Norland|Saltmarsh', 5, 'path'],
  ['norland > saltmarsh', 5, 'path'],
  ['Places/Norland/Saltmarsh', 5, 'end of path'],
  ['Westland|Saltmarsh', 5, 'end of path'],
  ['Kite', 2, 'plural'],
  ['beaches', 6, 'plural'],
  ['Parties', 7, 'plural'],
  ['rokaku', 3, 'spelling'],
  ['Rokkauk', 3, 'spelling'],
  ['Salt marsh', 5, 'spelling'],
  ['Saltmarch', 5, 'spelling'],
] as const)('%s is term %i by its %s', (keyword, termId, why) => {
  expect(matcher.propose(keyword)).toEqual({ termId, why });
});

test.each(['Objects', 'Ski', 'harbour', '', '   ', '|'])('nothing is proposed for %j', (keyword) => {
  expect(matcher.propose(keyword)).toBeUndefined();
});

test('every label proposes a term that has it, and every slip of a long one is found', () => {
  fc.assert(
    fc.property(
      fc.constantFrom('Rokkaku', 'Saltmarsh', 'Drehbrücke'),
      fc.nat(8),
      fc.constantFrom('x', '', 'ä'),
      (label, at, letter) => {
        const place = Math.min(at, label.length - 1);
        const slipped = label.slice(0, place) + letter + label.slice(place + 1);
        expect(matcher.propose(slipped)?.termId).toBe(matcher.propose(label)?.termId);
      },
    ),
  );
});

test('any text gets an answer, and the same one whatever the order of terms', () => {
  const other = new TermMatcher([...TERMS].reverse());
  fc.assert(
    fc.property(fc.string({ unit: 'grapheme' }), (text) => expect(other.propose(text)).toEqual(matcher.propose(text))),
  );
});

test.each([
  ['a|b', ['a', 'b']],
  ['Country > City', ['Country', 'City']],
  ['and/or', ['and', 'or']],
  ['plain words', undefined],
  ['|', undefined],
])('the path of %j', (keyword, steps) => expect(pathOf(keyword)).toEqual(steps));

test.each([
  ['2019-06-12_Kite festival 03', 'Kite festival'],
  ['2019', undefined],
  ['03 - Workshops', 'Workshops'],
  ['Pier 7', 'Pier'],
  ['IMG_0001', 'IMG'],
  ['Kite-making', 'Kite-making'],
  ['1970-1979 Early years', 'Early years'],
  ['12', undefined],
])('folder %j says %j', (name, words) => expect(folderWords(name)).toBe(words));
