/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor, within } from '@testing-library/react';
import { Route, Routes, useLocation } from 'react-router';
import type { GivenList, ThingList, WorkList } from '@stellin/contract/workLists';
import { SelectionProvider } from '../photos/selection';
import { photoOf } from '../testing/fixtures';
import { answering, choose, show, type Asked } from '../testing/render';
import { GivenCard } from './GivenCard';
import { WalkScreen } from './WalkScreen';
import { WorkListCards } from './WorkListCards';

const listOf = (id: string, label: string, photos: number, given: Partial<WorkList> = {}): WorkList => ({
  ...{ id, label, photos, note: '', group: 'To describe', query: `missing:${id}`, done: 0, trend: null },
  ...given,
});
const LISTS = [
  listOf('caption', 'Without a caption', 12, { trend: -3, done: 2 }),
  listOf('people', 'Without people', 0),
  listOf('search-4', 'Morning', 7, { group: 'Kept searches', note: 'For the report' }),
];
const THINGS: ThingList[] = [{ id: 'keywords', things: 5, trend: 1 }];
const GIVEN: GivenList = {
  ...{ id: 3, list: 'caption', label: 'Without a caption', query: 'drive:Vault', accountId: 1, note: 'Before Easter' },
  ...{ due: '2026-03-01', to: 'Mara', mine: true, by: 'Tomas', givenAt: '2026-02-01T10:00:00Z' },
  ...{ before: 20, left: 12, late: true, doneAt: null },
};

function Here() {
  const { pathname, search } = useLocation();
  return <p>{`at ${pathname}${decodeURIComponent(search)}`}</p>;
}

const sent = (asked: readonly Asked[], name: string) =>
  asked.flatMap((each) => (each.name === name ? [each.body] : []));

test('lists stand by group with how many, how they change and where one begins; what is done folds away', async () => {
  answering({ showWorkLists: { lists: LISTS }, showThingLists: { lists: THINGS } });
  const { user } = show(<WorkListCards scope="drive:Vault" total={40} />);
  const described = await screen.findByRole('region', { name: 'To describe' });
  await within(described).findByText('Without a caption');
  expect(described.textContent).toContain('Without a caption2 done with▼ 3 fewer than a week ago12');
  expect(within(described).getByRole('link', { name: 'Start here: Without a caption' }).getAttribute('href')).toBe(
    '/holdings/lists/caption?q=drive%3AVault',
  );
  expect(within(described).queryByText('Without people')).toBeNull();
  await user.click(within(described).getByRole('button', { name: '1 list done' }));
  expect(within(described).getByText('Without people')).toBeTruthy();
  expect(screen.getByRole('region', { name: 'Kept searches' }).textContent).toContain('MorningFor the report7');
  const settle = await screen.findByRole('region', { name: 'To settle' });
  expect(within(settle).getByRole('link', { name: 'Keywords that files bring' }).getAttribute('href')).toBe(
    '/intake/keywords',
  );
});

test('a list is given to somebody with a note and a day', async () => {
  const asked = answering({
    ...{ showWorkLists: { lists: LISTS }, showThingLists: { lists: [] }, giveList: { done: true } },
    listWorkers: { people: [{ id: 8, name: 'Tomas Lind' }] },
  });
  const { user } = show(<WorkListCards scope="drive:Vault" total={40} />);
  await user.click(await screen.findByRole('button', { name: 'More about Without a caption' }));
  await user.click(await screen.findByRole('menuitem', { name: 'Give it to somebody …' }));
  await user.click(await screen.findByRole('button', { name: 'Give it' }));
  expect(await screen.findByText('Choose somebody.')).toBeTruthy();
  await choose(user, screen.getByLabelText('To whom *'), 'Tomas Lind');
  await user.type(screen.getByLabelText('Until when'), '2026-06-14');
  await user.type(screen.getByLabelText('Note'), 'First the old ones');
  await user.click(screen.getByRole('button', { name: 'Give it' }));
  await waitFor(() =>
    expect(sent(asked, 'giveList')).toEqual([
      { list: 'caption', query: 'drive:Vault', accountId: 8, note: 'First the old ones', due: '2026-06-14' },
    ]),
  );
});

test('what was given to oneself says from whom, until when and how much is left, and is done', async () => {
  const asked = answering({
    showGiven: {
      given: [GIVEN, { ...GIVEN, id: 4, mine: false, late: false, left: null, doneAt: GIVEN.givenAt }],
      doneInAll: 6,
    },
    endGiven: { done: true },
  });
  const { user } = show(<GivenCard />);
  const mine = await screen.findByRole('region', { name: 'Given to you' });
  expect(mine.textContent).toContain('6 done so far');
  expect(mine.textContent).toContain('from Tomas · until 1 Mar 2026, which is over · Before Easter');
  expect(mine.textContent).toContain('12 left of 20 photos');
  await user.click(within(mine).getByRole('button', { name: 'Done' }));
  expect(sent(asked, 'endGiven')).toEqual([{ as: 'done' }]);
  const others = screen.getByRole('region', { name: 'Given by you' });
  await user.click(within(others).getByRole('button', { name: 'Open again' }));
  expect(sent(asked, 'endGiven')).toEqual([{ as: 'done' }, { as: 'open' }]);
});

test('a list is walked through by keys: done with, later, skipped and back', async () => {
  const photos = [1, 2, 3].map((id) => photoOf(id));
  const asked = answering({
    walkList: { label: 'Without a caption', query: 'missing:caption', photos, left: 3, later: 0 },
    photoPosition: ({ params }: Asked) => ({ position: (params as { id: number }).id === 3 ? null : 0 }),
    settleListed: { done: true },
  });
  const { user } = show(
    <SelectionProvider>
      <Routes>
        <Route path="/holdings/lists/:list" element={<WalkScreen />} />
        <Route path="*" element={<Here />} />
      </Routes>
    </SelectionProvider>,
    { at: '/holdings/lists/caption?q=drive:Vault' },
  );
  expect(await screen.findByText('1 of 3')).toBeTruthy();
  await user.keyboard('k');
  expect(await screen.findByText('2 of 3')).toBeTruthy();
  await user.keyboard('x');
  expect((await screen.findByText(/3 of 3/)).textContent).toContain('3 of 3 · no longer on the list');
  expect(sent(asked, 'settleListed')).toEqual([
    { list: 'caption', photoId: 1, outcome: 'done' },
    { list: 'caption', photoId: 2, outcome: 'later' },
  ]);
  // Back, and taken back by the same key: one stays there.
  await user.keyboard('{Shift>}j{/Shift}');
  expect(await screen.findByText('2 of 3 · later')).toBeTruthy();
  await user.keyboard('x');
  expect(await screen.findByText('2 of 3')).toBeTruthy();
  expect(sent(asked, 'settleListed').at(-1)).toEqual({ list: 'caption', photoId: 2, outcome: 'open' });
  await user.keyboard('jj');
  expect(await screen.findByRole('heading', { name: 'You went through 3 photos' })).toBeTruthy();
  await user.click(screen.getByRole('link', { name: 'Back to Holdings' }));
  expect(await screen.findByText('at /holdings')).toBeTruthy();
});
