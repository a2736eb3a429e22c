import { parseQuery, queryText } from '../search/language';
import { DossierNames, followDossiers } from './naming';

const dossiers = [
  { id: 1, parentId: null, name: 'Open day' },
  { id: 2, parentId: 1, name: 'Poster' },
  { id: 3, parentId: null, name: 'Poster' },
  { id: 4, parentId: 2, name: 'Drafts' },
];
const names = new DossierNames(dossiers);
const ids = (text: string) => names.named(text).map(({ id }) => id);
const renamed = (id: number, name: string) =>
  new DossierNames(dossiers.map((dossier) => (dossier.id === id ? { ...dossier, name } : dossier)));
const follow = (text: string, after: DossierNames) => queryText(followDossiers(parseQuery(text).query, names, after));

test('a dossier is named by its name, or by the end of its path', () => {
  expect(ids('poster')).toEqual([2, 3]);
  expect(ids('Open day/Poster')).toEqual([2]);
  expect(ids('Poster/Drafts')).toEqual([4]);
  expect(ids('Open day/Drafts')).toEqual([]);
  expect([...names.namedWithin('Open day')]).toEqual([1, 2, 4]);
});

test('the shortest name that tells a dossier from others', () => {
  expect(names.nameOf(4)).toBe('Drafts');
  expect(names.nameOf(2)).toBe('Open day/Poster');
  // What stands at the top may be called like one below: only the whole path tells it.
  expect(names.nameOf(3)).toBe('/Poster');
  expect(ids('/Poster')).toEqual([3]);
  expect(ids('/Open day/Poster')).toEqual([2]);
});

test('queries follow when a dossier is called otherwise', () => {
  expect(follow('dossier:Drafts rating:5', renamed(4, 'Proofs'))).toBe('dossier:Proofs rating:5');
  expect(follow('not dossier:"Open day/Poster"', renamed(1, 'Open days'))).toBe('not dossier:"Open days/Poster"');
  expect(follow('dossier:Poster', renamed(3, 'Placard'))).toBe('dossier:Poster or dossier:Placard');
  expect(follow('dossier:"Open day"', renamed(4, 'Proofs'))).toBe('dossier:"Open day"');
  const gone = new DossierNames(dossiers.filter(({ id }) => id !== 4));
  expect(follow('dossier:Drafts', gone)).toBe('dossier:Drafts');
});
