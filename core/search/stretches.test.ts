import type { Stretch } from '../media/stretches';
import { parseQuery } from './language';
import { asksForStretches, stretchesAsked } from './stretches';

const stretch = (from: number, said: Partial<Stretch>): Stretch => ({
  ...{ key: `0:${from}`, from, to: from + 1, name: '', note: '', rating: 0, terms: [], people: [] },
  ...said,
});
const ALL = [
  stretch(0, { name: 'Harbour' }),
  stretch(5, { name: 'Launch', note: 'Kite over the dunes' }),
  stretch(12, { terms: ['Rokkaku'] }),
];
const asked = (text: string) => stretchesAsked(parseQuery(text).query, ALL).map(({ from }) => from);

test('stretches are found by the criterion and by plain words, whatever says it of them', () => {
  expect(asked('stretches:*dunes*')).toEqual([5]);
  expect(asked('media:film stretches:ROKKAKU')).toEqual([12]);
  expect(asked('stretches:*')).toEqual([0, 5, 12]);
  expect(asked('kites dunes')).toEqual([5]);
  expect(asked('kite harbour')).toEqual([]);
});

test('where only films with stretches are asked for all are meant; other queries speak of none', () => {
  expect(asked('has:stretches')).toEqual([0, 5, 12]);
  expect(asked('media:film')).toEqual([]);
  const asks = (text: string) => asksForStretches(parseQuery(text).query);
  expect(
    ['has:stretches rating:3', 'stretches:launch', 'media:film', 'stretches:a or rating:3', 'not stretches:a'].map(
      asks,
    ),
  ).toEqual([...[true, true, false, false, false]]);
});
