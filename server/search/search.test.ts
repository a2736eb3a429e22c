import fc from 'fast-check';
import { textsOf } from '@stellin/core/metadata/values';
import { evaluate, type SearchablePhoto } from '@stellin/core/search/evaluate';
import { parseQuery, queryText } from '@stellin/core/search/language';
import type { CriterionId, Part, State } from '@stellin/core/search/criteria';
import type { Query } from '@stellin/core/search/query';
import { SORTS } from '@stellin/contract/photos';
import { openWorld, putFiles, realJpeg, type World } from '../testing/world';

let world: World;
let photos: { name: string; searchable: SearchablePhoto }[];

const CAPTIONS = ['Zwei Drachen am Strand', 'A kite over the dunes', 'Björk’s box kite', 'A red delta', ''];
const KEYWORDS = [['boxkite'], ['Strand', 'delta kite'], [], ['kites', 'beach 100%_\\'], ['Saltmarsh']];
const TERMS = ['Kites', 'Delta', 'Box kite', 'Beach'];

beforeAll(async () => {
  world = await openWorld();
  const [vault, field] = [await world.addDrive('Vault 1'), await world.addDrive('Field_disk')];
  for (let i = 0; i < 24; i++) {
    const description = CAPTIONS[i % 5] ?? '';
    const bytes = await realJpeg(
      {
        ...(description ? { description } : {}),
        keywords: KEYWORDS[(i * 3) % 5] ?? [],
        rating: (i % 7) - 1,
        ...(i % 6 === 0 ? { mark: i % 4 ? 'Print' : 'To print' } : {}),
        ...(i % 3 ? { dateCreated: `20${10 + (i % 6)}-0${1 + (i % 9)}-15T10:30:00` } : {}),
        ...(i % 4 ? {} : { city: 'Saltmarsh' }),
        ...(i % 5 ? {} : { creator: ['Ida Brandt', 'Björk'] }),
      },
      40 + i * 8,
    );
    await putFiles(i % 3 ? vault : field, {
      [`${['2019', '2019/June', '2019 B', ''][i % 4]}/SKM_${100 + i}.jpg`]: bytes,
    });
  }
  await world.takeIn(vault);
  await world.takeIn(field);
  await world.apply({
    kind: 'addTerms',
    parentId: null,
    terms: [
      {
        label: 'Objects',
        heading: true,
        narrower: [
          {
            label: 'Kites',
            narrower: [
              { label: 'Delta' },
              { label: 'Box kite', otherLabels: [{ kind: 'alternative', language: 'de', label: 'Kastendrachen' }] },
            ],
          },
        ],
      },
      { label: 'Beach' },
    ],
  });
  const terms = await world.services.vocabulary.list();
  const idOf = (label: string) => terms.find((term) => term.label === label)?.id ?? 0;
  // Kites that are flown at the beach are found there, too.
  await world.apply({ kind: 'relateTerms', relation: 'broader', fromId: idOf('Box kite'), toId: idOf('Beach') });
  for (const [i, label] of TERMS.entries()) {
    const term = terms.find((candidate) => candidate.label === label);
    await world.apply({
      kind: 'giveTerms',
      selection: { query: `name:*${i}.jpg or name:*${i + 5}.jpg` },
      termIds: [term?.id ?? 0],
    });
  }
  photos = await describePhotos();
  await world.unplug(field);
  for (const { searchable } of photos)
    if (searchable.drive === 'Field_disk') (searchable.states as Set<State>).add('away');
});
afterAll(() => world.close());

/** The catalogue as plain objects, read through the API's own descriptions of photos. */
async function describePhotos(): Promise<typeof photos> {
  const { services } = world;
  const list = await services.photos.list({ query: '', sort: 'added', offset: 0, limit: 200 });
  const terms = new Map((await services.vocabulary.list()).map((term) => [term.id, term]));
  const labelsOf = (id: number | null): string[][] => {
    const term = id === null ? undefined : terms.get(id);
    return term ? [...labelsOf(term.parentId), [term.label, ...term.otherLabels.map(({ label }) => label)]] : [];
  };
  return Promise.all(
    list.map(async ({ id, name }) => {
      const photo = await services.photos.find(id);
      const texts = ['description', 'city', 'creator'].flatMap((field) =>
        photo.fields[field] === undefined ? [] : textsOf(photo.fields[field]),
      );
      const has: Record<Part, boolean> = {
        ...photo.parts,
        keywords: photo.keywords.length > 0,
        date: photo.takenAt !== null,
        rating: photo.rating !== 0,
      };
      const searchable: SearchablePhoto = {
        name,
        texts: [name, ...texts, ...photo.keywords],
        caption: String(photo.fields['description'] ?? ''),
        camera: '',
        kind: photo.kind,
        keywords: photo.keywords,
        fields: photo.fields,
        terms: photo.termIds.map((term) => ({
          path: labelsOf(term),
          also: terms.get(term)?.label === 'Box kite' ? [[['Beach']]] : [],
        })),
        rating: photo.rating,
        mark: photo.mark,
        takenAt: photo.takenAt ?? undefined,
        drive: photo.driveLabel,
        folder: photo.folderPath,
        accession: photo.driveLabel === 'Vault 1' ? 1 : 2,
        parts: new Set((Object.keys(has) as Part[]).filter((part) => has[part])),
        states: new Set<State>(photo.writeState ? [photo.writeState] : []),
      };
      return { name, searchable };
    }),
  );
}

async function found(query: Query): Promise<string[]> {
  const page = await world.services.photos.list({ query: queryText(query), sort: 'name', offset: 0, limit: 200 });
  return page.map(({ name }) => name).sort();
}

const meant = (query: Query) =>
  photos
    .filter(({ searchable }) => evaluate(query, searchable))
    .map(({ name }) => name)
    .sort();

const VALUES: Partial<Record<CriterionId, readonly string[]>> = {
  term: [
    'Kites',
    'kites',
    'delta',
    'Kastendrachen',
    'Objects',
    'Kites/Delta',
    'Objects/Delta',
    'Objects/Kites/Box kite',
    'Beach',
    'none',
  ],
  only: ['Kites', 'Delta', 'none'],
  keyword: ['boxkite', 'STRAND', 'beach*', '*100%*', '*_*', '?ites', '*\\*'],
  name: ['SKM_10?.jpg', 'skm*', 'SKM_100.jpg', '*1*'],
  caption: ['*kite*', '*', 'A red delta', '*björk*'],
  camera: ['*'],
  kind: ['jpeg', 'png'],
  rating: ['-1', '0', '3', '4.5'],
  mark: ['Print', 'to pr*', 'nothing'],
  taken: ['2011', '2012-03', '2013-04-15', '2013-04-15T10:30'],
  drive: ['Vault 1', 'vault*', 'Field_disk', 'Field?disk'],
  within: ['Vault 1', 'Vault 1/2019', 'Vault 1/2019/June/', 'Field_disk/2019', 'FieldXdisk', 'vault 1'],
  folder: ['Vault 1', 'Vault 1/2019', 'Field_disk/2019 B'],
  accession: ['1', '2'],
  has: ['terms', 'caption', 'people', 'location', 'keywords', 'date', 'rating'],
  missing: ['terms', 'caption', 'people', 'location', 'keywords', 'date', 'rating'],
  is: ['away', 'damaged', 'waiting', 'conflict', 'failed'],
  city: ['Saltmarsh', 'salt*', '*', 'none'],
  creator: ['ida*', '*björk*', 'Jon'],
};
const criteria = fc.constantFrom(...(Object.keys(VALUES) as CriterionId[])).chain((criterion) =>
  fc
    .record({
      value: fc.constantFrom(...(VALUES[criterion] ?? [])),
      to: fc.constantFrom(...(VALUES[criterion] ?? [])),
      operator: fc.constantFrom('=', '>', '>=', '<', '<=', '..' as const),
    })
    .map(({ value, to, operator }): Query => {
      const compares = ['rating', 'taken', 'accession'].includes(criterion);
      if (!compares || operator === '=') return { kind: 'criterion', criterion, operator: '=', value };
      return operator === '..'
        ? { kind: 'criterion', criterion, operator, value, to }
        : { kind: 'criterion', criterion, operator: operator as '>', value };
    }),
);
const words = fc.constantFrom<Query>(
  { kind: 'words', text: 'kite' },
  { kind: 'words', text: 'drach*' },
  { kind: 'words', text: 'bjork' },
  { kind: 'words', text: '103' },
  { kind: 'phrase', text: 'box kite' },
  { kind: 'phrase', text: 'kite over the' },
  { kind: 'words', text: 'objects' },
);
const { tree } = fc.letrec<{ tree: Query }>((tie) => ({
  tree: fc.oneof(
    { maxDepth: 3 },
    criteria,
    words,
    fc.array(tie('tree'), { minLength: 2, maxLength: 3 }).map((of): Query => ({ kind: 'all', of })),
    fc.array(tie('tree'), { minLength: 2, maxLength: 3 }).map((of): Query => ({ kind: 'any', of })),
    tie('tree').map((of): Query => ({ kind: 'not', of })),
  ),
}));

test('PostgreSQL finds what the evaluator says, for any query', async () => {
  expect(photos).toHaveLength(24);
  await fc.assert(
    fc.asyncProperty(tree, async (query) => {
      const { query: read, errors } = parseQuery(queryText(query));
      expect(errors).toEqual([]);
      expect(await found(query)).toEqual(meant(read));
    }),
    { numRuns: 400 },
  );
});

test('every order holds all photos once, page by page', async () => {
  for (const sort of SORTS) {
    const pages = await Promise.all(
      [0, 10, 20].map((offset) => world.services.photos.list({ query: '', sort, offset, limit: 10 })),
    );
    const ids = pages.flat().map(({ id }) => id);
    expect(new Set(ids).size).toBe(24);
    expect(await world.services.photos.position(ids[13] ?? 0, '', sort)).toBe(13);
  }
});

test('suggestions name terms by any label, with path and count, folders, fields and their values', async () => {
  const suggested = (text: string, query = '') => world.services.search.suggest(text, query);
  expect((await suggested('kasten'))[0]).toMatchObject({
    kind: 'term',
    label: 'Box kite',
    detail: 'Objects › Kites',
    query: 'term:"Box kite"',
  });
  const [delta] = await suggested('delt', 'drive:"Vault 1"');
  expect(delta?.photos).toBe(await world.services.search.count('term:Delta drive:"Vault 1"'));
  expect(await suggested('vault')).toContainEqual(
    expect.objectContaining({ kind: 'drive', query: 'within:"Vault 1"' }),
  );
  expect(await suggested('rat')).toContainEqual(expect.objectContaining({ kind: 'field', query: 'rating:' }));
  expect((await suggested('missing:ca')).map(({ query }) => query)).toEqual(['missing:caption']);
});

test('the groups of an order lie one after the other in it, and hold all of the result', async () => {
  for (const query of ['', 'rating:>2', 'within:"Vault 1"'])
    for (const sort of SORTS) {
      const groups = await world.services.photos.groups(query, sort);
      if (groups.length === 0) continue;
      const list = await world.services.photos.list({ query, sort, offset: 0, limit: 200 });
      const keys = await Promise.all(list.map(({ id }) => keyOf(id, sort)));
      expect(keys).toEqual(groups.flatMap(({ key, count }) => Array.from({ length: count }, () => key)));
    }
  expect(await world.services.photos.groups('', 'name')).toEqual([]);
});

async function keyOf(id: number, sort: string): Promise<string | null> {
  const photo = await world.services.photos.find(id);
  if (sort.startsWith('taken')) return photo.takenAt?.slice(0, 10) ?? null;
  if (sort.startsWith('rating')) return String(photo.rating);
  if (sort === 'kind') return photo.kind;
  if (sort === 'folder') return [photo.driveLabel, photo.folderPath].filter(Boolean).join('/');
  return null;
}
