/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor, within } from '@testing-library/react';
import { Route, Routes, useLocation } from 'react-router';
import type { Figures } from '@stellin/contract/holdings';
import { answering, choose, show } from '../testing/render';
import { FigureGrid } from './FigureGrid';
import { ScopeLine } from './ScopeLine';
import { SinceLine } from './SinceLine';
import { TimeCard } from './TimeCard';
import { timeLabel } from './timeLabel';
import { VocabularyCard } from './VocabularyCard';

// There is no canvas here; what charts show stands in their tables as well.
jest.mock('react-chartjs-2', () => ({ Bar: () => null }));

const figure = (label: string, query: string, photos: number) => ({ label, query, photos });
const FIGURES: Figures = {
  photos: 40,
  described: 10,
  time: {
    unit: 'year',
    bars: [
      { ...figure('2018-01-01T00:00:00', 'taken:2018', 30), described: 8 },
      { ...figure('2019-01-01T00:00:00', 'taken:2019', 7), described: 2 },
    ],
    missing: figure('Without a date', 'missing:date', 3),
  },
  facets: [
    {
      ...{ id: 'creator', label: 'Creators', distinct: 12 },
      values: [figure('Mara Olt', 'creator:"Mara Olt"', 21)],
      missing: figure('without', 'missing:creator', 4),
    },
    { id: 'drive', label: 'Drives', distinct: 1, values: [figure('Vault 1', 'drive:"Vault 1"', 40)], missing: null },
  ],
  media: [figure('Stills', 'media:still', 40), figure('Films', 'media:film', 0)],
  sizes: [figure('under 1 MB', 'size:<1MB', 40)],
  faces: [figure('With faces', 'faces:>0', 9)],
  doubles: figure('Doubles', 'is:double', 2),
  growth: [figure('2026-01', 'added:2026-01', 0), figure('2026-02', 'added:2026-02', 40)],
  ages: {
    years: ['before 2019', '2026'],
    decades: [
      {
        label: '2010s',
        cells: [figure('2010s, before 2019', 'x', 0), figure('2010s, 2026', 'taken:201X added:2026', 37)],
      },
    ],
  },
};
const WEEKS = [
  { week: '2026-02-02', by: 'Mara', changes: 3, photos: 30 },
  { week: '2026-02-09', by: 'Tomas', changes: 1, photos: 2 },
];
const ANSWERS = {
  listDrives: { drives: [], scanning: false },
  showWork: { weeks: WEEKS },
  listProjects: { projects: [] },
  listSearches: { searches: [] },
  showGrowth: { terms: 41, months: [{ month: '2026-02', made: 5, gone: 1 }], given: [] },
};

function Here() {
  const { pathname, search } = useLocation();
  return <p>{`at ${pathname}${decodeURIComponent(search)}`}</p>;
}

test('every chart has a table, whose rows lead to their photos', async () => {
  answering(ANSWERS);
  const { user } = show(
    <Routes>
      <Route
        path="/"
        element={
          <>
            <TimeCard time={FIGURES.time} />
            <FigureGrid figures={FIGURES} />
          </>
        }
      />
      <Route path="*" element={<Here />} />
    </Routes>,
  );
  const taken = screen.getByRole('region', { name: 'When they were taken' });
  expect(within(taken).getByText(/3 without a date/)).toBeTruthy();
  await user.click(within(taken).getByRole('button', { name: 'Table' }));
  const rows = within(taken).getAllByRole('row');
  expect(rows.map((row) => row.textContent)).toEqual(['TakenPhotosDescribed', '2018308', '201972', 'Without a date3']);
  const described = await screen.findByRole('region', { name: 'Described' });
  await user.click(within(described).getByRole('button', { name: 'Table' }));
  expect(within(described).getByRole('row', { name: /2026-02-02 Mara 3 30/ })).toBeTruthy();
  const ages = screen.getByRole('region', { name: 'By decade and year of taking in' });
  // Years in which nothing came in are left out.
  expect(within(ages).queryByText('before 2019')).toBeNull();
  const creators = screen.getByRole('region', { name: 'Creators' });
  expect(within(creators).getByText('the first of 12, 4 without')).toBeTruthy();
  await user.click(within(creators).getByRole('button', { name: 'Table' }));
  await user.click(within(creators).getByRole('link', { name: 'Mara Olt' }));
  expect(await screen.findByText('at /desk?q=creator:"Mara Olt"')).toBeTruthy();
});

test('what is looked at is chosen, or typed; what is no search says so', async () => {
  answering(ANSWERS);
  const shown = jest.fn();
  const { user } = show(<ScopeLine query="" onShow={shown} />);
  await choose(user, screen.getByRole('combobox', { name: 'What is looked at' }), 'Taken in this year');
  expect(shown).toHaveBeenLastCalledWith('added:"this year"');
  const typed = screen.getByLabelText('A search whose photos are looked at');
  await user.type(typed, 'rating:>=3 and (kite{Enter}');
  expect(shown).toHaveBeenCalledTimes(1);
  expect(typed.getAttribute('aria-invalid')).toBe('true');
  await user.clear(typed);
  await user.type(typed, 'rating:>=3{Enter}');
  await waitFor(() => expect(shown).toHaveBeenLastCalledWith('rating:>=3'));
});

test('stretches of time are written as short as they say it', () => {
  const from = '1998-03-04T05:00:00';
  expect((['decade', 'year', 'month', 'day', 'hour'] as const).map((unit) => timeLabel(unit, from))).toEqual([
    ...['1990s', '1998', '1998-03', '1998-03-04', '03-04 05:00'],
  ]);
});

test('what has changed since one was here stands as numbers that lead to it', async () => {
  answering({
    noteVisit: {
      ...{ day: '2026-02-01', cameIn: figure('came in', 'added:>=2026-02-01', 3) },
      ...{ changed: figure('changed', 'changed:>=2026-02-01', 0), by: [figure('Mara', 'changedBy:Mara', 2)] },
    },
  });
  show(<SinceLine />);
  const line = await screen.findByLabelText('Since you were here');
  expect(line.textContent).toBe('Since you were here on 1 Feb 2026: 3 photos came in, none changed (Mara 2).');
  expect(within(line).getByRole('link', { name: '3 photos' }).getAttribute('href')).toBe(
    '/desk?q=added%3A%3E%3D2026-02-01',
  );
});

test('the growth of the vocabulary stands as a table as well', async () => {
  answering(ANSWERS);
  const { user } = show(<VocabularyCard />);
  const card = await screen.findByRole('region', { name: 'Vocabulary' });
  expect(card.textContent).toContain('41 terms');
  await user.click(within(card).getByRole('button', { name: 'Table' }));
  expect(within(card).getByRole('row', { name: '2026-02 5 1' })).toBeTruthy();
});
