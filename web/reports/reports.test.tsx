/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor, within } from '@testing-library/react';
import type { ReportPreset } from '@stellin/contract/reports';
import { answering, choose, show, type Asked } from '../testing/render';
import { periodOf, type PeriodName } from './periods';
import { ReportsScreen } from './ReportsScreen';

const REPORT = {
  ...{ title: 'Report', about: 'From 2026-05-01 until today', madeAt: '2026-06-01 09:00' },
  sections: [
    {
      ...{ title: 'What came in: 3 photos', empty: 'Nothing came in.' },
      columns: [
        { label: 'Where', isNumber: false },
        { label: 'New', isNumber: true },
      ],
      rows: [[{ text: 'Vault' }, { text: '3', query: 'accession:4' }]],
    },
    { title: 'What was delivered', empty: 'Nothing was delivered.', columns: [], rows: [] },
  ],
};
const PRESET: ReportPreset = {
  ...{ id: 7, name: 'For the board', monthlyTo: 'board@museum.example', by: 'Mara', sentAt: null },
  settings: { kind: 'inventory', from: '', until: '', projectId: null, accessionId: null },
};
const ANSWERS = {
  ...{ makeReport: REPORT, listReportPresets: { presets: [PRESET] }, listProjects: { projects: [] } },
  ...{ listAccessions: { accessions: [] }, keepReport: { id: 8 }, removeReport: { done: true } },
};
const made = (asked: readonly Asked[]) =>
  asked.flatMap(({ name, body }) => (name === 'makeReport' ? [(body as { kind: string }).kind] : []));

test('a report stands as tables, whose numbers lead to what they count; it is taken along as it is set', async () => {
  answering(ANSWERS);
  show(<ReportsScreen />);
  const article = within(await screen.findByRole('article', { name: 'Report' }));
  expect(article.getByRole('link', { name: '3' }).getAttribute('href')).toBe('/desk?q=accession%3A4');
  expect(article.getByText('Nothing was delivered.')).toBeTruthy();
  expect(screen.getByRole('link', { name: 'PDF' }).getAttribute('href')).toMatch(
    /^\/api\/reports\/file\?format=pdf&kind=period&from=\d{4}-\d{2}-01&until=&/,
  );
});

test('another kind is made at once; one that needs to be told of what waits for that', async () => {
  const asked = answering(ANSWERS);
  const { user } = show(<ReportsScreen />);
  await screen.findByRole('article');
  await choose(user, screen.getByRole('combobox', { name: 'What it is about' }), 'Accession register');
  await waitFor(() => expect(made(asked)).toEqual(['period', 'register']));
  await choose(user, screen.getByRole('combobox', { name: 'What it is about' }), 'A project');
  expect(screen.getByRole('combobox', { name: 'Project' })).toBeTruthy();
  expect(screen.queryByRole('link', { name: 'PDF' })).toBeNull();
  expect(made(asked)).toEqual(['period', 'register']);
});

test('a kept report is opened; one is kept by a name and sent every month', async () => {
  const asked = answering(ANSWERS);
  const { user } = show(<ReportsScreen />);
  const kept = within(await screen.findByRole('list', { name: 'Kept reports' }));
  await user.click(kept.getByRole('button', { name: /^For the board/ }));
  await waitFor(() => expect(made(asked).at(-1)).toBe('inventory'));
  await user.click(screen.getByRole('button', { name: 'Keep …' }));
  await user.type(await screen.findByLabelText(/^Name/), 'Drives');
  await user.type(screen.getByLabelText('Send it every month to'), 'nobody');
  await user.click(screen.getByRole('button', { name: 'Keep' }));
  expect(await screen.findByText('That is no mail address.')).toBeTruthy();
  await user.type(screen.getByLabelText('Send it every month to'), '@museum.example');
  await user.click(screen.getByRole('button', { name: 'Keep' }));
  await waitFor(() =>
    expect(asked.find(({ name }) => name === 'keepReport')?.body).toEqual({
      ...{ name: 'Drives', monthlyTo: 'nobody@museum.example', settings: PRESET.settings },
    }),
  );
  await user.click(kept.getByRole('button', { name: 'Change For the board' }));
  await user.click(await screen.findByRole('menuitem', { name: 'Keep it no longer' }));
  await waitFor(() => expect(asked.find(({ name }) => name === 'removeReport')?.params).toEqual({ id: 7 }));
});

test.each<[PeriodName, string, string]>([
  ['month', '2026-01-01', ''],
  ['lastMonth', '2025-12-01', '2025-12-31'],
  ['year', '2026-01-01', ''],
  ['lastYear', '2025-01-01', '2025-12-31'],
  ['all', '', ''],
])('the period %s in January', (name, from, until) => {
  expect(periodOf(name, '2026-01-15')).toEqual({ from, until });
});
