import { parseQuery } from './language';
import { likesReached } from './saved';

const TEXTS: Readonly<Record<string, string>> = {
  kites: 'like:12 or search:"red kites"',
  'red kites': 'not like:"13 strict" search:kites',
  others: 'like:99',
};
const reached = (...texts: string[]) => [
  ...likesReached(
    texts.map((text) => parseQuery(text).query),
    (name) => TEXTS[name],
  ),
];

test('look-alikes are looked for where a query asks for them, or a saved search that it reaches, each once', () => {
  expect(reached('like:5 (like:6 or not like:5)')).toEqual(['5', '6']);
  // The two searches ask for one another.
  expect(reached('search:Kites')).toEqual(['12', '13 strict']);
  expect(reached('search:"Red kites"', 'like:12')).toEqual(['13 strict', '12']);
});

test('saved searches that no query reaches ask for nothing', () => {
  expect(reached('rating:5', 'described:all', 'search:nowhere')).toEqual([]);
});
