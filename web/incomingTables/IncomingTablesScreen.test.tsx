/** @jest-environment ./web/testing/browser.cjs */
import { screen, within } from '@testing-library/react';
import { Route, Routes } from 'react-router';
import { incomingSettings, type IncomingSettings, type IncomingTable } from '@stellin/contract/incomingTables';
import { answering, changesIn, choose, show, type Answers, type Asked } from '../testing/render';
import { IncomingTablesScreen } from './IncomingTablesScreen';

const TABLE: IncomingTable = {
  id: 7,
  name: 'kites.csv',
  at: '2026-03-01T10:00:00Z',
  format: 'text',
  encoding: 'windows-1252',
  separator: 'semicolon',
  rows: 3,
  columns: [
    { header: 'File name', samples: ['a.jpg', 'b.jpg'] },
    { header: 'Day', samples: ['3.4.2024', '30.4.2024'] },
    { header: 'Words', samples: ['Gulls'] },
  ],
  settings: incomingSettings.parse({
    uses: [{ to: 'key', key: 'name' }, { to: 'nothing' }, { to: 'terms', mode: 'add' }],
  }),
  counts: { found: 1, none: 1, several: 1, again: 0, partly: 0 },
  photos: 1,
  taken: null,
};
const ANSWERS: Answers = {
  listIncomingTables: { tables: [TABLE] },
  showIncomingTable: TABLE,
  showPrepared: { fieldSets: [], templates: [], rules: [] },
  useIncomingTable: ({ body }: Asked) => ({ ...TABLE, settings: body }),
  readTableAgain: TABLE,
  listIncomingWords: {
    words: [
      { word: 'gulls', written: 'Gulls', rows: 2, proposal: { id: 5, label: 'Gull', path: ['Birds'] } },
      { word: 'sea', written: 'Sea', rows: 1, proposal: null },
    ],
    total: 2,
  },
  listIncomingRows: ({ query }: Asked) =>
    (query as { state: string }).state === 'none'
      ? { rows: [{ position: 2, cells: ['z.jpg', '', ''], photos: 0, problem: null }], total: 1 }
      : { rows: [{ position: 3, cells: ['b.jpg', '', ''], photos: 2, problem: null }], total: 1 },
  previewIncomingTable: {
    photos: [
      {
        photoId: 1,
        name: 'a.jpg',
        previewVersion: 0,
        fields: [{ field: 'headline', label: 'Headline', before: null, after: 'Dunes', cut: false }],
      },
    ],
    total: 1,
  },
};

const open = (answers: Answers = {}, at = '/deliver/tables/7') => {
  const asked = answering({ ...ANSWERS, ...answers });
  const shown = show(
    <Routes>
      <Route path="/deliver/tables" element={<IncomingTablesScreen />} />
      <Route path="/deliver/tables/:id" element={<IncomingTablesScreen />} />
    </Routes>,
    { at },
  );
  return { ...shown, asked };
};
const settingsAsked = (asked: readonly Asked[]) =>
  asked.flatMap(({ name, body }) => (name === 'useIncomingTable' ? [body as IncomingSettings] : []));

test('what a column is for is chosen; dates are read as most of its values are', async () => {
  const { user, asked } = open();
  await choose(user, await screen.findByRole('combobox', { name: 'What “Day” is for' }), 'Date created');
  expect((await screen.findByRole('combobox', { name: 'How dates of “Day” are written' })).textContent).toBe(
    '1.6.2024: day first',
  );
  expect(settingsAsked(asked).at(-1)?.uses[1]).toEqual({
    ...{ to: 'field', target: 'dateCreated', mode: 'replace', language: '', dates: 'dayFirst' },
  });
  await choose(user, screen.getByRole('combobox', { name: 'How values of “Day” are put in' }), 'finds the photo');
  expect(settingsAsked(asked).at(-1)?.uses[1]).toEqual({ to: 'keyField', target: 'dateCreated' });
});

test('a file is read in another way when somebody says so', async () => {
  const { user, asked } = open();
  await choose(user, await screen.findByRole('combobox', { name: 'Values are separated by' }), 'Tab');
  expect(asked.filter(({ name }) => name === 'readTableAgain').map(({ body }) => body)).toEqual([{ separator: 'tab' }]);
});

test('words that are no terms become the proposed one, or nothing', async () => {
  const { user, asked } = open();
  await user.click(await screen.findByRole('tab', { name: 'Words' }));
  const table = await screen.findByRole('table', { name: 'Words that are no terms' });
  await user.click(within(table).getByRole('button', { name: 'Use “Gull”' }));
  await within(table).findByText('Birds ›');
  await user.click(within(within(table).getByRole('row', { name: /Sea/ })).getByRole('radio', { name: 'nothing' }));
  expect(settingsAsked(asked).at(-1)?.words).toEqual([
    { word: 'gulls', decision: 'term', termId: 5 },
    { word: 'sea', decision: 'drop', termId: null },
  ]);
});

test('rows that met no photo, or several, are shown and can be saved; the rest is taken in', async () => {
  const { user, asked } = open({ apply: { entry: ENTRY, job: null } });
  await user.click(await screen.findByRole('tab', { name: /^Rows/ }));
  await screen.findByText('No photo is meant');
  await user.click(screen.getByRole('button', { name: '1 about several' }));
  await screen.findByText('2 photos are meant');
  expect(screen.getByRole('link', { name: 'Save 2 rows as CSV' })).toMatchObject({
    href: expect.stringContaining('/api/incoming-tables/7/rest.csv'),
  });
  await user.click(screen.getByRole('tab', { name: 'Before and after' }));
  await screen.findByRole('row', { name: /a\.jpg.*Headline.*Dunes/ });
  await user.click(screen.getByRole('button', { name: 'Take in for 1 photo' }));
  expect(changesIn(asked)).toEqual([{ kind: 'takeTable', tableId: 7, name: 'kites.csv' }]);
});

test('without a column that says anything nothing is taken in', async () => {
  const settings = { ...TABLE.settings, uses: [TABLE.settings.uses[0], { to: 'nothing' }, { to: 'nothing' }] };
  open({ showIncomingTable: { ...TABLE, settings } });
  await screen.findByText('No column says anything of a photo yet.');
  expect(screen.getByRole('button', { name: /^Take in/ })).toMatchObject({ disabled: true });
});

test('a table is forgotten from the list', async () => {
  const { user, asked } = open({ removeIncomingTable: { done: true } }, '/deliver/tables');
  await screen.findByRole('heading', { name: 'Tables in' });
  await user.click(await screen.findByRole('button', { name: 'What to do with kites.csv' }));
  await user.click(await screen.findByRole('menuitem', { name: 'Forget the table' }));
  expect(
    asked.some(({ name, params }) => name === 'removeIncomingTable' && Number((params as { id: string }).id) === 7),
  ).toBe(true);
});

const ENTRY = { id: 1, at: '', by: '', title: 'Take in', photos: 1, state: 'done', objectId: null };
