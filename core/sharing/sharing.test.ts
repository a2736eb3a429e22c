import { oEmbedOf, originOf } from './embedding';
import { columnsOf, linkState, SHOWN_COLUMNS } from './links';
import { nothingPage, passwordPage, sharedMapPage, sheetPage, viewPage } from './pages';

const life = { revokedAt: null, endsAt: null, mostViews: null, views: 0 };
const now = new Date('2026-12-01T10:00:00Z');
const at = (text: string) => new Date(text);

test.each([
  ['open', {}],
  ['open', { endsAt: at('2026-12-01T10:00:01Z'), mostViews: 3, views: 2 }],
  ['ended', { endsAt: now }],
  ['used', { mostViews: 3, views: 3 }],
  ['revoked', { revokedAt: at('2026-11-01T00:00:00Z'), endsAt: now }],
] as const)('a link is %s', (state, part) => {
  expect(linkState({ ...life, ...part }, now)).toBe(state);
});

test('a link says nothing of files, drives, numbers, places and, unless wanted, people', () => {
  for (const id of [
    'file',
    'name',
    'drive',
    'folder',
    'id',
    'sha256',
    'field:regions',
    'field:position',
    'field:personInImage',
  ])
    expect(SHOWN_COLUMNS).not.toContain(id);
  const columns = ['drive', 'field:creator', 'field:personInImage', 'taken'] as const;
  expect(columnsOf({ columns, people: false, terms: false })).toEqual(['field:creator', 'taken']);
  expect(columnsOf({ columns, people: true, terms: true })).toEqual([
    ...['field:creator', 'taken', 'field:personInImage', 'terms'],
  ]);
});

const evil = '<script>alert(1)</script>"\'&';
const picture = {
  ...{ key: 'abc', alt: evil, caption: evil, lines: [{ label: evil, text: evil }] },
  ...{ width: 300, height: 200, position: { latitude: 54.1, longitude: 8.9 } },
};
const PLAIN = { map: false, head: { oEmbed: null, manifest: null } };

test('whatever texts say stands there as text', () => {
  const sheet = { title: evil, words: evil, base: '/v/x', pictures: [picture], total: 61, page: 1, pages: 2, ...PLAIN };
  const view = {
    ...{ title: evil, base: '/v/x', picture, number: 2, total: 3, before: 'aa', after: 'bb', sheetPage: 1 },
    ...{ downloads: true, seconds: null, answers: { sender: evil, sent: true, problem: evil } },
  };
  for (const page of [sheetPage(sheet), viewPage(view), passwordPage('/v/x', evil), nothingPage('/v/-')]) {
    expect(page).not.toContain('<script>');
    expect(page).toContain('noindex');
  }
  expect(sheetPage(sheet)).toContain('alt="&lt;script&gt;alert(1)&lt;/script&gt;&quot;&#39;&amp;"');
});

test('a sheet leads to its pages, a picture to its neighbours; a slide show goes on and stops', () => {
  const sheet = {
    title: 'Kites',
    words: '',
    base: '/v/x',
    pictures: [picture],
    total: 130,
    page: 2,
    pages: 3,
    ...PLAIN,
  };
  expect(sheetPage(sheet)).toContain('<a rel="prev" href="/v/x">');
  expect(sheetPage(sheet)).toContain('<a rel="next" href="/v/x?page=3">');
  const view = {
    title: 'Kites',
    base: '/v/x',
    picture,
    number: 1,
    total: 2,
    before: null,
    after: 'bb',
    sheetPage: 1,
    answers: null,
  };
  const still = viewPage({ ...view, downloads: false, seconds: null });
  expect(still).toContain('<a rel="next" href="/v/x/bb">');
  expect(still).not.toMatch(/rel="prev"|data-seconds|Download/);
  const shown = viewPage({ ...view, downloads: true, seconds: 8 });
  expect(shown).toContain('data-seconds="8"');
  expect(shown).toContain('<a rel="next" href="/v/x/bb?show">');
  expect(shown).toContain('/v/x/abc/picture.jpg');
  expect(viewPage({ ...view, after: null, downloads: false, seconds: 8 })).not.toContain('rel="next"');
});

const frame = { left: 0.5, top: 0.3, width: 0.01, west: 8, east: 10, south: 53, north: 55 };
const ground = { frame, land: [], coasts: [], towns: [{ name: evil, latitude: 54, longitude: 9 }] };

test('the map leads to a picture, or to those of a spot; texts on it stand there as text', () => {
  const other = { ...picture, key: 'def', alt: 'Pier' };
  const far = { ...picture, key: 'ghi', position: { latitude: 53.2, longitude: 8.2 } };
  const nowhere = { ...picture, key: 'jkl', position: null };
  const map = { title: evil, base: '/v/x', pictures: [picture, other, far, nowhere], ground, spot: null };
  const page = sharedMapPage(map);
  expect(page).toContain('href="/v/x/map?spot=abc"');
  expect(page).toContain('href="/v/x/ghi"');
  expect(page).toContain('Where 1 of 4 pictures were taken is not known.');
  expect(page).not.toContain('<script>');
  const spot = sharedMapPage({ ...map, spot: 'def' });
  expect(spot).toContain('2 pictures at one spot');
  expect(spot).not.toContain('/ghi/small.jpg');
  // A spot that is none is the map.
  expect(sharedMapPage({ ...map, spot: 'zzz' })).toContain('<svg');
  expect(sharedMapPage({ ...map, ground: null })).not.toContain('<svg');
});

test('pages of others are named by their origin, and nothing else', () => {
  expect(originOf('https://museum.example')).toBe('https://museum.example');
  expect(originOf('http://museum.example:8080/')).toBe('http://museum.example:8080');
  for (const wrong of [
    'https://museum.example/news',
    'https://a@museum.example',
    'javascript:alert(1)',
    '*',
    "'none'",
    'museum.example',
  ])
    expect(originOf(wrong)).toBeUndefined();
});

test('a page that asks is told a frame as large as it wants at most, as the specification of oEmbed has it', () => {
  const link = { address: 'https://a.example/v/x', title: evil, escapedTitle: 'Kites' };
  const told = oEmbedOf(link, { maxwidth: 400 });
  expect(told).toMatchObject({ version: '1.0', type: 'rich', title: evil, width: 400, height: 600 });
  expect(told.html).toBe(
    '<iframe src="https://a.example/v/x" width="400" height="600" title="Kites" loading="lazy" style="border:0"></iframe>',
  );
  expect(oEmbedOf(link, { maxwidth: 9000, maxheight: 1 })).toMatchObject({ width: 800, height: 200 });
});
