import fc from 'fast-check';
import { PlaceNames, plainName } from './placeNames';

const NAMES = ['Saltmarsh', 'Saltmarsh Ness', 'Ébbwick', 'North Kiteham', 'Kiteham', "O’Hara's Landing", 'Norland'];
const names = PlaceNames.of(NAMES);
const found = (typed: string) =>
  names
    .find(typed)
    .map(({ at, met }) => `${NAMES[at]}: ${met}`)
    .sort();

test.each([
  ['saltm', ['Saltmarsh Ness: beginning', 'Saltmarsh: beginning']],
  ['Saltmarsh', ['Saltmarsh Ness: beginning', 'Saltmarsh: whole']],
  ['ness', ['Saltmarsh Ness: word']],
  ['ebb', ['Ébbwick: beginning']],
  ['kiteham', ['Kiteham: whole', 'North Kiteham: word']],
  ['oharas land', ["O’Hara's Landing: beginning"]],
  ['saltmrash', ['Saltmarsh Ness: slip', 'Saltmarsh: slip']],
  ['noland', ['Norland: slip']],
  ['balland', []],
  ['morland', ['Norland: slip']],
  ['altmarsh', ['Saltmarsh Ness: slip', 'Saltmarsh: slip']],
  ['kitheam', ['Kiteham: slip', 'North Kiteham: slip']],
  ['kithaem', []],
  ['ne', []],
  ['nox', []],
  ['', []],
  ['?!', []],
])('%j finds %j', (typed, expected) => expect(found(typed)).toEqual(expected));

test('a whole name is met whatever its case, accents and signs', () => {
  expect(names.called('EBBWICK')).toEqual([2]);
  expect(names.called('o’haras  landing')).toEqual([5]);
  expect(names.called('ness')).toEqual([]);
});

/** How many slips apart a text is from the nearest beginning of another, by the whole table of distances. */
function apart(text: string, other: string): number {
  const rows = [Array.from({ length: text.length + 1 }, (_, i) => i)];
  for (let j = 1; j <= other.length; j++) {
    const [above, row] = [rows[j - 1] ?? [], [j]];
    for (let i = 1; i <= text.length; i++) {
      const ways = [
        (above[i] ?? 0) + 1,
        (row[i - 1] ?? 0) + 1,
        (above[i - 1] ?? 0) + Number(text[i - 1] !== other[j - 1]),
      ];
      if (i > 1 && j > 1 && text[i - 1] === other[j - 2] && text[i - 2] === other[j - 1])
        ways.push((rows[j - 2]?.[i - 2] ?? 0) + 1);
      row.push(Math.min(...ways));
    }
    rows.push(row);
  }
  return Math.min(...rows.map((row) => row[text.length] ?? Infinity));
}

test('wrong letters are forgiven as comparing all names would, those that begin alike before others', () => {
  const word = fc.string({ unit: fc.constantFrom('a', 'b', 'c'), minLength: 1, maxLength: 12 });
  fc.assert(
    fc.property(fc.array(word, { maxLength: 30 }), word, (list, typed) => {
      const met = PlaceNames.of(list).find(typed);
      const most = typed.length >= 10 ? 2 : typed.length >= 4 ? 1 : 0;
      const begun = list.flatMap((name, at) => (plainName(name).startsWith(typed) ? [at] : []));
      const near = list.flatMap((name, at) => (apart(typed, plainName(name)) <= most ? [at] : []));
      const alike = near.filter((at) => plainName(list[at] ?? '').startsWith(typed.slice(0, 1)));
      const meant = begun.length > 0 ? begun : alike.length > 0 ? alike : near;
      expect(met.map(({ at }) => at).sort((a, b) => a - b)).toEqual(meant);
    }),
  );
});
