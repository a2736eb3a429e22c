import fc from 'fast-check';
import { criterion } from '../../query/query';
import { catalogue, indexOf, EVERYTHING_SEEN } from '../testing';
import { textMatches, wordsOf } from '../../text/words';
import { Finder } from './finder';

const LONG_WORD = 'ringelnatz'.repeat(60);
const CAPTIONS = [
  'Kite festival at Saltmarsh, 1987',
  'A kitemaker’s bench; two kites 12x9',
  'Drachenfest am Strand (Köln 2019)',
  'Box-kite no. 44b over the dunes',
  'The pier',
  'ein zwei drei',
  // PostgreSQL keeps no word as long as that.
  `The longest word: ${LONG_WORD} and what follows`,
  'Ķite',
];
/** Far more photos than have any of these captions: so they are found by their words. */
const OTHERS = 100;

const [sample] = fc.sample(catalogue, { numRuns: 1, seed: 5 });
const [photo] = sample ?? [];
if (!photo) throw new Error('there is no photo to begin with');
const captions = [...CAPTIONS, ...Array.from({ length: OTHERS }, (_, i) => (i % 2 ? '' : `Plain ${i}`))];
const photos = captions.map((caption) => ({
  ...photo,
  row: { ...photo.row, foldedInto: undefined, states: 0 },
  texts: { ...photo.texts, caption, words: wordsOf(caption).filter((word) => word.length <= 500) },
}));
const finder = new Finder(indexOf(photos));

test.each([
  '*kite*',
  '*kite',
  'kite*',
  'kite festival at saltmarsh, 1987',
  'kite festival at saltmarsh',
  '*festival at*',
  '*kites 12x*',
  '*2x9',
  '*köln*',
  '*koln?2019*',
  '*-kite*',
  '*x-k*',
  '*44b*',
  '*4b o*',
  '*ringelnatz*',
  `*${LONG_WORD}*`,
  '*what follows',
  '*ei?*',
  'ein?zwei*',
  '*plain*',
  '*plain 8',
  '*',
  '*?*',
  '*no such*',
  '*(*',
])('caption:%s finds the captions that meet it', (pattern) => {
  const found = finder.page(
    { query: criterion('caption', pattern) },
    { id: 'added', descending: false },
    0,
    1000,
    EVERYTHING_SEEN,
  );
  const meant = captions.flatMap((caption, i) => (caption !== '' && textMatches(caption, pattern) ? [i + 1] : []));
  expect(found).toEqual(meant);
});
