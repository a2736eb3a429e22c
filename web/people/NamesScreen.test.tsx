/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor, within } from '@testing-library/react';
import { answering, changesIn, show } from '../testing/render';
import { NamesScreen } from './NamesScreen';

const name = (text: string, photos: number, proposed: { id: number; name: string } | null = null) => ({
  name: text,
  photos,
  samples: [{ photoId: 1, version: 1 }],
  proposed,
});
const SCAN = { looked: 3, waiting: 0, faces: 3, vectors: 3, exceptions: [] };
const entry = { id: 1, at: '', by: '', title: 'Done', photos: 1, state: 'done', objectId: null };

function open(names: unknown[]) {
  const asked = answering({
    listNames: { names },
    listPersons: { persons: [] },
    scanState: SCAN,
    listJobs: { jobs: [] },
    apply: { entry, job: null },
  });
  return { asked, ...show(<NamesScreen />, { role: 'cataloguer' }) };
}
const rowOf = (text: string) => screen.findByRole('row', { name: new RegExp(text) });

test('each name becomes somebody new, somebody known, or nobody, all in one step', async () => {
  const { asked, user } = open([
    name('Björn Askel', 2),
    name('ida brandt', 5, { id: 7, name: 'Ida Brandt' }),
    name('untitled', 9),
  ]);
  await user.click(within(await rowOf('Björn Askel')).getByRole('button', { name: 'New person' }));
  await user.click(within(await rowOf('ida brandt')).getByRole('button', { name: 'Ida Brandt' }));
  await user.click(within(await rowOf('untitled')).getByRole('button', { name: 'Nobody' }));
  expect((await rowOf('untitled')).textContent).toContain('Nobody of the catalogue');
  await user.click(screen.getByRole('button', { name: 'Settle 3 names' }));
  await waitFor(() => expect(changesIn(asked)).toHaveLength(1));
  expect(changesIn(asked)).toEqual([
    {
      kind: 'settleNames',
      decisions: [
        { name: 'Björn Askel', who: { name: 'Björn Askel' } },
        { name: 'ida brandt', who: { personId: 7 } },
        { name: 'untitled', who: null },
      ],
    },
  ]);
});

test('all are taken as proposed at once, and a decision can be changed before', async () => {
  const { user } = open([name('Hedda Falk', 2), name('ida brandt', 5, { id: 7, name: 'Ida Brandt' })]);
  await rowOf('Hedda Falk');
  await user.click(screen.getByRole('button', { name: 'Take all as proposed' }));
  expect((await rowOf('Hedda Falk')).textContent).toContain('new');
  await user.click(within(await rowOf('Hedda Falk')).getByRole('button', { name: 'Change' }));
  expect(screen.getByRole('button', { name: 'Settle 1 name' })).toBeTruthy();
});

test('names are put in order by how many photos have them', async () => {
  const { user } = open([name('Few', 2), name('Many', 9)]);
  await rowOf('Few');
  await user.click(screen.getByRole('button', { name: 'Photos' }));
  expect(screen.getAllByRole('row').map(({ textContent }) => textContent?.slice(0, 3))).toEqual(['Nam', 'Man', 'Few']);
});

test('without names it says so', async () => {
  open([]);
  expect(await screen.findByText('Every name is settled.')).toBeTruthy();
});
