/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor, within } from '@testing-library/react';
import type { Stretch } from '@stellin/core/media/stretches';
import { answering, show } from '../testing/render';
import { StretchList } from './StretchList';
import { askedIn } from './useStretches';

const LAUNCH: Stretch = {
  key: '0:0',
  from: 2,
  to: 4.5,
  name: 'Launch',
  note: '',
  rating: 0,
  terms: ['Rokkaku'],
  people: [],
};
const WIND: Stretch = { ...LAUNCH, key: '0:1', from: 9, to: 9, name: '', terms: [] };

function list(
  role: 'cataloguer' | 'viewer',
  stretches: readonly Stretch[] = [LAUNCH, WIND],
  { fresh = null, isKept = true }: { fresh?: string | null; isKept?: boolean } = {},
) {
  answering({});
  const [kept, gone]: [(readonly Stretch[])[], number[]] = [[], []];
  const view = show(
    <StretchList
      photoId={5}
      stretches={stretches}
      fresh={fresh}
      mayChange={role === 'cataloguer'}
      onSeek={(seconds) => gone.push(seconds)}
      onChange={(all) => {
        kept.push(all);
        return Promise.resolve(isKept);
      }}
    />,
    { role },
  );
  return { ...view, kept, gone };
}

test('a stretch is gone to, named, described and rated where it stands', async () => {
  const { user, kept, gone } = list('cataloguer');
  const launch = await screen.findByRole('listitem', { name: 'Stretch Launch' });
  await user.click(within(launch).getByRole('button', { name: 'Go to Launch' }));
  expect(gone).toEqual([2]);
  const terms = within(launch).getByRole('textbox', { name: 'Terms' });
  await user.clear(terms);
  await user.type(terms, 'Rokkaku; Dunes {Enter}');
  expect(kept.at(-1)).toEqual([{ ...LAUNCH, terms: ['Rokkaku', 'Dunes'] }, WIND]);
  await user.click(within(launch).getByRole('button', { name: 'Rate 4' }));
  expect(kept.at(-1)?.[0]?.rating).toBe(4);
  await user.click(within(launch).getByRole('button', { name: 'Remove Launch' }));
  expect(kept.at(-1)).toEqual([WIND]);
  // Left as it was, nothing is changed.
  const changes = kept.length;
  await user.click(within(launch).getByRole('textbox', { name: 'Name' }));
  await user.tab();
  expect(kept).toHaveLength(changes);
});

test('one that was just made takes the focus; a mere mark is no file', async () => {
  list('cataloguer', [LAUNCH, WIND], { fresh: '0:1' });
  const mark = await screen.findByRole('listitem', { name: 'Stretch 0:09.0' });
  await waitFor(() => expect(document.activeElement).toBe(within(mark).getByRole('textbox', { name: 'Name' })));
  expect(within(mark).queryByRole('link')).toBeNull();
  expect(screen.getByRole('link', { name: 'Download Launch as a file' }).getAttribute('href')).toBe(
    '/api/photos/5/clip?from=2&to=4.5',
  );
  expect(screen.getByRole('link', { name: 'EDL' }).getAttribute('href')).toBe('/api/photos/5/stretches?format=edl');
});

test('what could not be kept stays as it was typed', async () => {
  const { user, kept } = list('cataloguer', [LAUNCH], { isKept: false });
  const note = await screen.findByRole<HTMLInputElement>('textbox', { name: 'Note' });
  await user.type(note, 'Over the dunes{Enter}');
  expect(kept.at(-1)?.[0]?.note).toBe('Over the dunes');
  await user.tab();
  expect(note.value).toBe('Over the dunes');
});

test('who may only look sees what is said, and nothing to change', async () => {
  list('viewer');
  expect(await screen.findByText('Launch · Rokkaku')).toBeTruthy();
  expect(screen.queryByRole('textbox')).toBeNull();
  expect(screen.queryByRole('button', { name: /^Remove/ })).toBeNull();
});

test('without any it is said how one is made', async () => {
  list('cataloguer', []);
  expect(await screen.findByText(/begins a stretch where it is played/)).toBeTruthy();
});

test('who looks for a stretch is led to it', () => {
  expect(askedIn('media:film stretches:*launch*', [WIND, LAUNCH])?.from).toBe(2);
  expect(askedIn('rokkaku', [WIND, LAUNCH])?.from).toBe(2);
  expect(askedIn('media:film', [WIND, LAUNCH])).toBeUndefined();
});
