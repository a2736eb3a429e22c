/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import type { CalendarPage, CalendarShown, FoundEvent } from '@stellin/contract/calendar';
import { DONE } from '../testing/fixtures';
import { answering, changesIn, show } from '../testing/render';
import { Calendar } from './Calendar';
import { pageInFull, spanText } from './calendarText';

const page = (name: string, photos: number): CalendarPage => ({
  ...{ name, photos, photoId: photos > 0 ? 7 : null, previewVersion: photos > 0 ? 1 : 0 },
  query: `taken:${name}${name.length === 10 ? ' has:day' : ''}`,
});
const SHOWN: Record<string, CalendarShown> = {
  '': {
    ...{ unit: 'year', photos: 1204, roughly: 3, undated: 9 },
    pages: [page('1932', 4), page('1933', 0), page('2019', 1200)],
  },
  '2019': {
    ...{ unit: 'month', photos: 1200, roughly: 0, undated: 9 },
    pages: Array.from({ length: 12 }, (_, i) => page(`2019-${String(i + 1).padStart(2, '0')}`, i === 5 ? 1200 : 0)),
  },
  '2019-06': {
    ...{ unit: 'day', photos: 1200, roughly: 0, undated: 9 },
    pages: Array.from({ length: 30 }, (_, i) => page(`2019-06-${String(i + 1).padStart(2, '0')}`, i === 10 ? 1200 : 0)),
  },
};
const EVENT: FoundEvent = {
  ...{ from: '2019-06-11T14:10:00', to: '2019-06-11T15:00:00', photos: 6, photoId: 7, previewVersion: 1 },
  ...{ query: 'taken:2019-06-11T14:10:00..2019-06-11T15:00:00 has:hour', place: 'Old pier, Saltmarsh' },
  names: { sublocation: 'Old pier', city: 'Saltmarsh', provinceState: '', country: 'Norland', countryCode: 'XN' },
};

function open(query = '', { mayName = true, events = [EVENT] } = {}) {
  const asked = answering({
    showCalendar: ({ query: { part = '' } = {} }: { query?: { part?: string } }) => SHOWN[part],
    findEvents: { events },
    findTerms: { terms: [] },
    apply: DONE,
  });
  const told: string[] = [];
  const { user } = show(
    <Calendar
      query={query}
      show={(next) => told.push(next.query)}
      mayName={mayName}
      onClose={() => told.push('closed')}
    />,
  );
  return { asked, told, user };
}

test('from all years to a day by keys, and the day is shown', async () => {
  const { told, user } = open();
  expect(await screen.findByText('1,204 photos, 3 of them not known to the day; 9 undated')).toBeTruthy();
  // A year without photos is not listed.
  expect(screen.queryByRole('button', { name: '1933: 0 photos' })).toBeNull();
  await waitFor(() => expect(document.activeElement?.getAttribute('data-page')).toBe('1932'));
  await user.keyboard('{ArrowRight}{Enter}');
  expect(await screen.findByRole('button', { name: 'June 2019: 1,200 photos' })).toBeTruthy();
  await user.keyboard('{Enter}');
  const day = await screen.findByRole('button', { name: '11 June 2019: 1,200 photos' });
  await waitFor(() => expect(document.activeElement).toBe(day));
  // A day without photos leads nowhere.
  await user.keyboard('{ArrowLeft}{Enter}');
  expect(told).toEqual([]);
  await user.keyboard('{ArrowRight}{Enter}');
  expect(told).toEqual(['taken:2019-06-11 has:day', 'closed']);
});

test('it opens where the query is; ⌫ leads out, Esc closes it', async () => {
  const { told, user } = open('kite taken:2019-06-03');
  await screen.findByRole('button', { name: '11 June 2019: 1,200 photos' });
  await user.click(screen.getByRole('button', { name: 'Show June 2019' }));
  expect(told.splice(0)).toEqual(['kite taken:2019-06', 'closed']);
  await user.keyboard('{Backspace}');
  await screen.findByRole('button', { name: 'June 2019: 1,200 photos' });
  await user.keyboard('{Backspace}');
  await screen.findByRole('button', { name: '1932: 4 photos' });
  await user.keyboard('{Escape}');
  expect(told).toEqual(['closed']);
});

test('an event is shown on the Desk, and named in one step', async () => {
  const { asked, told, user } = open();
  await user.click(await screen.findByRole('button', { name: '11 Jun 2019, 14:10 – 15:00' }));
  expect(told).toEqual([EVENT.query, 'closed']);
  await user.click(screen.getByRole('button', { name: /^Name 11 Jun/ }));
  const submit = screen.getByRole<HTMLButtonElement>('button', { name: 'Name 6 photos' });
  expect(submit.disabled).toBe(true);
  await user.type(screen.getByLabelText('Name'), 'Regatta');
  await user.click(screen.getByRole('checkbox', { name: /^Gather/ }));
  await user.click(screen.getByRole('button', { name: 'Leave it out' }));
  await user.click(submit);
  await waitFor(() => expect(changesIn(asked)).toHaveLength(1));
  expect(changesIn(asked)).toEqual([
    {
      ...{ kind: 'nameEvent', selection: { query: EVENT.query, minus: [], plus: [] }, name: 'Regatta' },
      ...{ term: { parentId: null }, dossier: false, field: true, place: null },
    },
  ]);
});

test('who may not describe is not offered to name events', async () => {
  open('', { mayName: false });
  expect(await screen.findByRole('button', { name: '11 Jun 2019, 14:10 – 15:00' })).toBeTruthy();
  expect(screen.queryByRole('button', { name: /^Name / })).toBeNull();
});

test('a result without events says so', async () => {
  open('', { events: [] });
  expect(await screen.findByText('None is found here.')).toBeTruthy();
});

test('how pages and spans are said', () => {
  expect(pageInFull('day', '2019-06-04')).toBe('4 June 2019');
  expect(pageInFull('month', '2019-06')).toBe('June 2019');
  expect(pageInFull('year', '1932')).toBe('1932');
  expect(spanText('2019-06-11T14:10:00', '2019-06-11T14:10:40')).toBe('11 Jun 2019, 14:10');
  expect(spanText('2019-06-11T14:10:00', '2019-06-13T09:00:00')).toBe('11 – 13 Jun 2019');
  expect(spanText('2018-12-30T14:10:00', '2019-01-02T09:00:00')).toBe('30 Dec – 2 Jan 2019');
});
