import { columnsOf, linkState, SHOWN_COLUMNS } from './links';
import { nothingPage, passwordPage, sheetPage, viewPage } from './pages';

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
const picture = { key: 'abc', alt: evil, caption: evil, lines: [{ label: evil, text: evil }] };

test('whatever texts say stands there as text', () => {
  const sheet = { title: evil, words: evil, base: '/v/x', pictures: [picture], total: 61, page: 1, pages: 2 };
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
  const sheet = { title: 'Kites', words: '', base: '/v/x', pictures: [picture], total: 130, page: 2, pages: 3 };
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
