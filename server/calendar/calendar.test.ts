import { openWorld, putFiles, realJpeg, type World } from '../testing/world';
import { PROGRAM } from '../catalogue/viewer';

let world: World;
beforeAll(async () => {
  world = await openWorld();
  const drive = await world.addDrive('Vault');
  const at = async (time: string, more = {}) => realJpeg({ dateCreated: time, ...more }, time.length + 60);
  const harbour = { position: { latitude: 54.1, longitude: 8.3 } };
  const files: Record<string, Uint8Array> = {};
  for (const minute of [10, 12, 15, 21, 29])
    files[`regatta-${minute}.jpg`] = await at(`2019-06-11T14:${minute}:00`, harbour);
  for (const minute of [30, 31, 36, 40]) files[`fair-${minute}.jpg`] = await at(`2019-06-13T09:${minute}:00`);
  files['best.jpg'] = await at('2019-06-11T15:00:00', { rating: 5 });
  files['month.jpg'] = await at('2019-06');
  files['year.jpg'] = await at('2019');
  files['day.jpg'] = await at('2019-07-04');
  files['old.jpg'] = await at('1932-07-04');
  files['undated.jpg'] = await realJpeg({}, 7);
  await putFiles(drive, files);
  await world.takeIn(drive);
});
afterAll(() => world.close());

const show = (part: string, query = '') => world.services.calendar.show(PROGRAM, query, part);
const count = (query: string) => world.services.search.all.count(query);

test('years, months and days count what their queries find, and show the best photo', async () => {
  const years = await show('');
  expect(years).toMatchObject({ unit: 'year', photos: 14, roughly: 2, undated: 1 });
  expect(years.pages.map(({ name }) => name)).toEqual(Array.from({ length: 88 }, (_, i) => String(1932 + i)));
  const [months, days] = [await show('2019'), await show('2019-06')];
  expect(months.pages).toHaveLength(12);
  expect(days.pages).toHaveLength(30);
  expect(days).toMatchObject({ unit: 'day', photos: 12, roughly: 2 });
  for (const { pages } of [years, months, days])
    for (const { query, photos } of pages) expect([query, photos]).toEqual([query, await count(query)]);
  const best = (await world.ids()).get('best.jpg');
  expect(days.pages[10]).toMatchObject({ name: '2019-06-11', photos: 6, photoId: best });
  expect(days.pages[11]).toMatchObject({ photos: 0, photoId: null });
});

test('what a query says of time is left aside, all else is kept', async () => {
  expect(await show('2019-06', 'taken:1932 name:fair*')).toMatchObject({ photos: 4 });
  const [first] = (await show('2019-06', 'name:fair* taken:2019-06-01 has:day')).pages;
  expect(first?.query).toBe('name:fair* taken:2019-06-01 has:day');
});

test('events are found, with where they were and a query that finds as many', async () => {
  const events = await world.services.calendar.events(PROGRAM, '', '2019-06');
  expect(events.map(({ from, to, photos }) => [from, to, photos])).toEqual([
    ['2019-06-13T09:30:00', '2019-06-13T09:40:00', 4],
    ['2019-06-11T14:10:00', '2019-06-11T15:00:00', 6],
  ]);
  for (const { query, photos } of events) expect(await count(query)).toBe(photos);
  expect(events.map(({ place }) => place !== '')).toEqual([false, true]);
});

test('an event is named in one step: field, term, place and dossier; one undo takes all of it back', async () => {
  const [, regatta] = await world.services.calendar.events(PROGRAM, '', '2019-06');
  const place = { sublocation: 'Kite pier', city: 'Saltmarsh', provinceState: '', country: '', countryCode: '' };
  const selection = { query: `${regatta?.query} missing:event`, minus: [], plus: [] };
  const name = 'Regatta';
  await world.apply({
    ...{ kind: 'nameEvent', selection, name, term: { parentId: null }, dossier: true, field: true, place },
  });
  for (const query of ['term:Regatta', 'event:Regatta', 'dossier:Regatta', 'city:Saltmarsh sublocation:"Kite pier"'])
    expect([query, await count(query)]).toEqual([query, 6]);
  await world.services.ledger.undo(world.keeperId);
  for (const query of ['has:terms', 'event:Regatta', 'has:dossier', 'city:Saltmarsh'])
    expect([query, await count(query)]).toEqual([query, 0]);
});

test('a term that is called so is given; without anything to name the change is refused', async () => {
  await world.apply({ kind: 'addTerms', parentId: null, terms: [{ label: 'Fair' }] });
  const change = {
    ...{ kind: 'nameEvent' as const, selection: { query: 'name:fair*', minus: [], plus: [] }, name: 'FAIR' },
    ...{ term: { parentId: null }, dossier: false, field: false, place: null },
  };
  await world.apply(change);
  expect(await count('term:Fair')).toBe(4);
  await expect(world.apply({ ...change, term: null })).rejects.toThrow('nothing was chosen');
});
