/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import type { CameraClockRow } from '@stellin/contract/tracks';
import { DONE } from '../testing/fixtures';
import { answering, changesIn, choose, show } from '../testing/render';
import { ClockNotice } from './ClockNotice';
import { ClocksPanel } from './ClocksPanel';
import { aheadText, daysText } from './clockText';

const SELECTION = { query: 'drive:Vault', minus: [], plus: [] };
const CLOCK: CameraClockRow = {
  ...{ id: 4, camera: 'Corvina M3', from: '2019-06-03', until: '2019-06-09', aheadSeconds: 3600, note: '' },
  ...{ photos: 12, query: 'camera:"Corvina M3" taken:2019-06-03..2019-06-09' },
};
const server = (clocks: CameraClockRow[]) =>
  answering({
    listClocks: { clocks },
    facets: {
      facets: [
        {
          ...{ id: 'camera', distinct: 1, missing: null },
          values: [{ value: 'Corvina M3', label: 'Corvina M3', photos: 30, chosen: 'no', query: '' }],
        },
      ],
      milliseconds: 1,
    },
    apply: DONE,
  });

test('a wrong clock is noted; days the wrong way round and a clock that was right are refused', async () => {
  const asked = server([]);
  const { user } = show(<ClocksPanel selection={SELECTION} />);
  await user.click(await screen.findByRole('button', { name: 'Note a wrong clock' }));
  await user.type(screen.getByLabelText('Camera'), 'Corvina M4');
  await user.type(screen.getByLabelText('First day'), '2019-06-09');
  await user.type(screen.getByLabelText('Last day'), '2019-06-03');
  await user.clear(screen.getByLabelText('Hours'));
  await user.type(screen.getByLabelText('Hours'), '0');
  await user.click(screen.getByRole('button', { name: 'Note' }));
  expect(await screen.findByText(/lies before the first day/)).toBeTruthy();
  expect(screen.getByText(/how far it was off/)).toBeTruthy();
  expect(changesIn(asked)).toEqual([]);
  await user.clear(screen.getByLabelText('Last day'));
  await user.type(screen.getByLabelText('Last day'), '2019-06-10');
  await user.clear(screen.getByLabelText('Minutes'));
  await user.type(screen.getByLabelText('Minutes'), '90');
  await choose(user, screen.getByLabelText('Ahead or behind'), 'behind');
  await user.click(screen.getByRole('button', { name: 'Note' }));
  await waitFor(() => expect(changesIn(asked)).toHaveLength(1));
  expect(changesIn(asked)).toMatchObject([
    {
      ...{ kind: 'saveCameraClock', clockId: null, camera: 'Corvina M4', from: '2019-06-09', until: '2019-06-10' },
      aheadSeconds: -5400,
    },
  ]);
});

test('photos that still say what it said are put right; the zones of positions are noted', async () => {
  const asked = server([CLOCK]);
  const { user } = show(<ClocksPanel selection={SELECTION} />);
  expect(await screen.findByText('1 h ahead, 3 Jun 2019 – 9 Jun 2019')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Put 12 photos right' }));
  await user.click(screen.getByRole('button', { name: 'Time zones from positions' }));
  await waitFor(() => expect(changesIn(asked)).toHaveLength(2));
  expect(changesIn(asked)).toEqual([
    { kind: 'putClocksRight', selection: { query: CLOCK.query, minus: [], plus: [] } },
    { kind: 'noteZones', selection: SELECTION },
  ]);
});

test('where photos are taken in it is proposed, and nothing is said while all are right', async () => {
  const asked = server([CLOCK, { ...CLOCK, id: 5, camera: 'Wren 2', photos: 0 }]);
  const { user } = show(<ClockNotice />);
  expect(await screen.findByText(/12 photos of Corvina M3 say what its clock said/)).toBeTruthy();
  expect(screen.queryByText(/Wren 2/)).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Put them right' }));
  await waitFor(() => expect(changesIn(asked)).toMatchObject([{ kind: 'putClocksRight' }]));
});

test('how clocks are said', () => {
  expect(aheadText(-90)).toBe('1 min 30 s behind');
  expect(daysText({ from: '2019-06-03', until: '2019-06-03' })).toBe('3 Jun 2019');
});
