import fc from 'fast-check';
import { SEARCHED_FIELDS } from '@stellin/core/query/criteria';
import { evaluate } from '@stellin/core/search/evaluate';
import { asksForSetAside } from '@stellin/core/search/index/finder';
import { parseQuery, queryText } from '@stellin/core/search/language';
import type { SearchablePhoto } from '@stellin/core/search/photo';
import type { Query } from '@stellin/core/query/query';
import { ALL_CONDITIONS, anyQuery } from '@stellin/core/search/testing';
import { SORTS } from '@stellin/core/search/sorts';
import { openWorld, putFiles, realJpeg, type World } from '../testing/world';
import { today } from '../catalogue/clock';
import { foundSql } from '../catalogue/found';
import { PROGRAM, viewpointOf } from '../catalogue/viewer';

let world: World;
let photos: { id: number; foldedInto: number | null; searchable: SearchablePhoto }[];

const CAPTIONS = ['Zwei Drachen am Strand', 'A kite over the dunes', 'Björk’s box kite', 'A red delta', ''];
const KEYWORDS = [['boxkite'], ['Strand', 'delta kite'], [], ['kites', 'beach 100%_\\'], ['Saltmarsh']];
const TERMS = ['Kites', 'Delta', 'Box kite', 'Beach'];
const FACTS = [
  { make: 'Corvina', model: 'M7', lens: '35mm f/2', iso: 400, fNumber: 2.8, exposureTime: 1 / 60, focalLength: 24 },
  { make: 'Halden', model: 'm7', flashFired: true, duration: 50, codec: 'avc1', altitude: -1 },
  { flashFired: false, latitude: 54.3, longitude: 8.6 },
  { latitude: -12, longitude: 179.9, iso: 50 },
];

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
        ...(i % 3
          ? { dateCreated: ['2019-06-15T10:30:00', '2019', '1932', '2019-06', '2024-06-10'][i % 5] ?? '' }
          : {}),
        ...(i % 4 ? {} : { city: 'Saltmarsh', title: { 'x-default': 'Wind', de: 'Drachen 100%' } }),
        ...(i % 5 ? {} : { creator: ['Ida Brandt', 'Björk'], personInImage: ['Ida Brandt'] }),
        ...(i % 6 === 1 ? { custom: [{ Name: 'Loan', Value: ['Björk 12', `L ${i}`] }] } : {}),
        ...(i % 7 ? {} : { rightsMarked: true, locationShown: [{ City: 'Kiteham' }] }),
      },
      40 + i * 8,
      // Two are the same picture.
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
  for (const [i, label] of TERMS.entries())
    await world.apply({
      kind: 'giveTerms',
      selection: { query: `name:*${i}.jpg or name:*${i + 5}.jpg` },
      termIds: [idOf(label)],
    });
  const dossier = async (name: string, parentId: number | null, query: string) =>
    (await world.apply({ kind: 'makeDossier', name, parentId, selection: { query } })).objectId;
  const day = await dossier('Open day', null, 'rating:>=4');
  await dossier('Poster', day, 'rating:3');
  await dossier('Poster', null, 'rating:2 or rating:3');
  const { database } = world.services;
  // What cameras say, as it would have been read.
  for (const [i, facts] of FACTS.entries())
    await database.rows(
      `update photo_text set facts = facts || $1, camera_folded = $2, fields_folded = fields_folded || $3
       where name_folded like '%' || $4::text || '.jpg'`,
      [
        JSON.stringify(facts),
        (facts.make ? `${facts.make} ${facts.model}` : '').toLowerCase(),
        JSON.stringify({
          ...(facts.lens ? { lens: [facts.lens] } : {}),
          ...(facts.codec ? { codec: [facts.codec] } : {}),
        }),
        i + 2,
      ],
    );
  await database.rows(
    `update photo set picture_hash = '\\x00' where name in ('SKM_101.jpg', 'SKM_102.jpg', 'SKM_103.jpg')`,
  );
  const photoIds = await world.ids();
  const box = { left: 0.1, top: 0.1, width: 0.2, height: 0.3 };
  await world.apply({ kind: 'drawFace', photoId: photoIds.get('SKM_104.jpg') ?? 0, box, who: { name: 'Nils Ode' } });
  await world.apply({ kind: 'drawFace', photoId: photoIds.get('SKM_104.jpg') ?? 0, box, who: null });
  await world.apply({ kind: 'drawFace', photoId: photoIds.get('SKM_105.jpg') ?? 0, box, who: null });
  const [nils] = await world.services.people.listPersons(PROGRAM);
  await world.apply({
    kind: 'savePerson',
    personId: nils?.id ?? 0,
    name: 'Nils Ode',
    otherNames: ['Björk'],
    private: true,
  });
  await world.apply({ kind: 'namePhotos', selection: { query: 'name:SKM_106.jpg' }, who: { name: 'Björk' } });
  await world.apply({ kind: 'removePhotos', selection: { query: 'name:SKM_103.jpg' } });
  await world.apply({
    kind: 'setPrivate',
    selection: { query: 'name:SKM_107.jpg or name:SKM_110.jpg' },
    private: true,
  });
  await database.rows(
    `insert into face_guess (face_id, person_id, certainty) select f.id, n.id, 0.7 from face f cross join person n where f.state = 'open' and n.name = 'Nils Ode'`,
  );
  await world.apply({ kind: 'bundlePhotos', selection: { query: 'name:SKM_110.jpg or name:SKM_111.jpg' } });
  await world.unplug(field);
  const rows = await database.rows<{ id: number; foldedInto: number | null }>(
    'select id, folded_into as "foldedInto" from photo order by id',
  );
  photos = await Promise.all(
    rows.map(async (row) => {
      const seen = await world.services.finder.ask('photo', { id: row.id, from: viewpointOf(PROGRAM) });
      if (!seen) throw new Error('a photo is not in the index');
      return { ...row, searchable: seen.photo };
    }),
  );
});
afterAll(() => world.close());

/** By the naive evaluation, as the sheet shows it. */
function meant(query: Query): number[] {
  const setAside = asksForSetAside(query);
  const met = photos.filter(
    ({ searchable }) =>
      (setAside || !(searchable.states.has('removed') || searchable.states.has('trashed'))) &&
      evaluate(query, searchable, today()),
  );
  return [...new Set(met.map(({ id, foldedInto }) => foldedInto ?? id))].sort((a, b) => a - b);
}

async function byDatabase(query: Query): Promise<number[]> {
  const { sql, bind } = foundSql(queryText(query), PROGRAM);
  const rows = await world.services.database.rows<{ id: number }>(
    `select p.id from photo p where ${sql} order by p.id`,
    bind,
  );
  return rows.map(({ id }) => id);
}

async function agree(query: Query): Promise<void> {
  const text = queryText(query);
  const { query: read, errors } = parseQuery(text);
  expect(errors).toEqual([]);
  const wanted = meant(read);
  expect([text, 'index', await world.services.search.all.page(text, 'added', 0, 100)]).toEqual([text, 'index', wanted]);
  expect([text, 'database', await byDatabase(read)]).toEqual([text, 'database', wanted]);
}

test('the photos are told as they are', () => {
  expect(photos).toHaveLength(24);
  const first = photos.find(({ searchable }) => searchable.said.name?.[0] === 'SKM_100.jpg')?.searchable;
  expect(first).toMatchObject({
    said: { city: ['Saltmarsh'], person: ['Ida Brandt'], place: ['Saltmarsh', 'Kiteham'], keyword: ['boxkite'] },
    numbers: { rating: -1, accession: 2 },
    drive: 'Field_disk',
    folder: '2019',
  });
  expect(photos.filter(({ foldedInto }) => foldedInto !== null)).toHaveLength(1);
});

test('index and database find what the evaluation says, for each criterion', async () => {
  const few = new Set<string>(['title', 'city', 'creator', 'personInImage', 'rightsMarked', 'locationShown']);
  const skipped = new Set<string>(SEARCHED_FIELDS.map(({ id }) => id).filter((id) => !few.has(id)));
  for (const query of ALL_CONDITIONS) if (!skipped.has(query.criterion)) await agree(query);
});

test('index and database find what the evaluation says, for any query', async () => {
  await fc.assert(fc.asyncProperty(anyQuery, agree), { numRuns: 120 });
});

test('every order holds all photos once, page by page', async () => {
  for (const sort of SORTS) {
    const pages = await Promise.all(
      [0, 10, 20].map((offset) => world.services.photos.list(PROGRAM, { query: '', sort, offset, limit: 10 })),
    );
    const ids = pages.flat().map(({ id }) => id);
    // One is out of the catalogue, one stands behind its lead.
    expect(new Set(ids).size).toBe(22);
    expect(await world.services.photos.position(PROGRAM, ids[13] ?? 0, '', sort)).toBe(13);
  }
});

test('suggestions name terms by any label, with path and count, folders, fields and their values', async () => {
  const suggested = (text: string, query = '') => world.services.search.all.suggest(text, query);
  expect((await suggested('kasten'))[0]).toMatchObject({
    kind: 'term',
    label: 'Box kite',
    detail: 'Objects › Kites',
    query: 'term:"Box kite"',
  });
  const [delta] = await suggested('delt', 'drive:"Vault 1"');
  expect(delta?.photos).toBe(await world.services.search.all.count('term:Delta drive:"Vault 1"'));
  expect(await suggested('vault')).toContainEqual(
    expect.objectContaining({ kind: 'drive', query: 'within:"Vault 1"' }),
  );
  expect(await suggested('rat')).toContainEqual(expect.objectContaining({ kind: 'field', query: 'rating:' }));
  expect((await suggested('missing:ca')).map(({ query }) => query)).toEqual(['missing:caption', 'missing:camera']);
});

test('the groups of an order lie one after the other in it, and hold all of the result', async () => {
  for (const query of ['', 'rating:>2', 'within:"Vault 1"'])
    for (const sort of SORTS) {
      const groups = await world.services.photos.groups(PROGRAM, query, sort);
      if (groups.length === 0) continue;
      const list = await world.services.photos.list(PROGRAM, { query, sort, offset: 0, limit: 200 });
      const keys = await Promise.all(list.map(({ id }) => keyOf(id, sort)));
      expect(keys).toEqual(groups.flatMap(({ key, count }) => Array.from({ length: count }, () => key)));
    }
  expect(await world.services.photos.groups(PROGRAM, '', 'name')).toEqual([]);
});

async function keyOf(id: number, sort: string): Promise<string | null> {
  const photo = await world.services.photos.find(PROGRAM, id);
  if (sort.startsWith('taken')) return photo.takenAt?.slice(0, 10) ?? null;
  if (sort.startsWith('rating')) return String(photo.rating);
  if (sort === 'kind') return photo.kind;
  if (sort === 'folder') return [photo.driveLabel, photo.folderPath].filter(Boolean).join('/');
  return photo.bundle ? '1' : null;
}
