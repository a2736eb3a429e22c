/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import type { FollowedRow } from '@stellin/contract/tracks';
import { answering, choose, show } from '../testing/render';
import { ClockByPhoto } from './ClockByPhoto';
import { secondsBetween } from './clockText';

const photo = (photoId: number, name: string, clock: string | null): FollowedRow => ({
  ...{ photoId, name, previewVersion: 0, clock, before: null, after: null, state: 'gap' },
});
const PHOTOS = [
  photo(1, 'timeless.jpg', null),
  photo(2, 'harbour.jpg', '2031-06-01T13:00:00'),
  photo(3, 'pier.jpg', '2031-06-01T14:00:00'),
];

test('the time on a clock in a photo says what the camera was behind', async () => {
  answering({});
  const ahead = jest.fn();
  const { user } = show(<ClockByPhoto photos={PHOTOS} trackIds={[7]} zoneMinutes={120} onAhead={ahead} />);
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Take that' }).disabled).toBe(true);
  await user.type(screen.getByLabelText('The time on that clock'), '2031-06-01T13:05:30');
  await user.click(screen.getByRole('button', { name: 'Take that: 0:05:30' }));
  expect(ahead).toHaveBeenCalledWith(330);
});

test('a known spot says it by when a track passed; one that none passed is said', async () => {
  let passing: { aheadSeconds: number; metres: number } | null = { aheadSeconds: -600, metres: 14 };
  const asked = answering({ passing: () => ({ passing }) });
  const ahead = jest.fn();
  const { user } = show(<ClockByPhoto photos={PHOTOS} trackIds={[7]} zoneMinutes={120} onAhead={ahead} />);
  await choose(user, screen.getByLabelText('This photo'), 'pier.jpg · 2031-06-01 14:00:00');
  await choose(user, screen.getByLabelText('What it tells'), 'was taken at');
  await user.type(screen.getByLabelText('or its coordinates'), '55.1, 3.2');
  expect(await screen.findByText('A track passed 10 m away.')).toBeTruthy();
  expect(asked.at(-1)?.body).toEqual({
    ...{ trackIds: [7], zoneMinutes: 120, clock: '2031-06-01T14:00:00' },
    spot: { latitude: 55.1, longitude: 3.2 },
  });
  await user.click(screen.getByRole('button', { name: 'Take that: −0:10' }));
  expect(ahead).toHaveBeenCalledWith(-600);
  passing = null;
  await user.type(screen.getByLabelText('or its coordinates'), '5');
  expect(await screen.findByText('No track came within 1 km of it.')).toBeTruthy();
  await waitFor(() => expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Take that' }).disabled).toBe(true));
});

test('where no photo tells its time nothing can be found; clocks are compared to the second', () => {
  answering({});
  show(<ClockByPhoto photos={PHOTOS.slice(0, 1)} trackIds={[7]} zoneMinutes={0} onAhead={() => undefined} />);
  expect(screen.getByText('No photo here tells its time.')).toBeTruthy();
  expect(secondsBetween('2031-06-01T13:00:00+02:00', '2031-06-01T12:59')).toBe(-60);
  expect(secondsBetween('2031-06-01T13:00:00', '')).toBeUndefined();
});
