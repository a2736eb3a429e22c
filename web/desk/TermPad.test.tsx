/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import type { TermPad as Pad } from '@stellin/contract/vocabulary';
import { DONE } from '../testing/fixtures';
import { answering, changesIn, show } from '../testing/render';
import { TermPad } from './TermPad';

const SLED = { id: 4, label: 'Sled', path: ['Kites'] };
const PADS: Pad[] = [
  { id: 1, name: 'Kites', shared: true, mine: true, mayChange: true, keys: [{ key: 'l', term: SLED }] },
  { id: 2, name: 'Light', shared: false, mine: true, mayChange: true, keys: [] },
];
const selection = { query: null, minus: [], plus: [1] };

function pad(chosen: typeof selection | null = selection, pads = PADS) {
  const asked = answering({
    listPads: { pads },
    findTerms: { terms: [] },
    apply: DONE,
  });
  const set: [number, boolean][] = [];
  const view = show(
    <TermPad
      selection={chosen}
      stateOf={() => 'none'}
      onSet={(id, given) => set.push([id, given])}
      onClose={() => undefined}
    />,
  );
  return { ...view, asked, set };
}
beforeEach(() => localStorage.clear());

test('a key gives its term to the chosen photos; without any it gives nothing', async () => {
  const { user, set, unmount } = pad();
  await screen.findByRole('button', { name: 'L: Sled' });
  await user.keyboard('l');
  await user.click(screen.getByRole('button', { name: 'L: Sled' }));
  expect(set).toEqual([
    [4, true],
    [4, true],
  ]);
  unmount();
  const none = pad(null);
  await screen.findByRole('button', { name: 'L: Sled' });
  await none.user.keyboard('l');
  expect(none.set).toEqual([]);
});

test('a key without a term asks for one; one that has a term is refilled by the right button, and emptied', async () => {
  const { user, asked } = pad();
  await user.click(await screen.findByRole('button', { name: 'Q: put a term on this key' }));
  expect(screen.getByRole('combobox', { name: 'Term for the key Q' })).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Not now' }));
  await user.pointer({ keys: '[MouseRight]', target: screen.getByRole('button', { name: 'L: Sled' }) });
  await user.click(await screen.findByRole('button', { name: 'Empty the key' }));
  await waitFor(() => expect(changesIn(asked)).toMatchObject([{ kind: 'definePad', padId: 1, keys: {} }]));
});

test('one of several pads is shown, and is still shown the next time', async () => {
  const { user, unmount } = pad();
  await user.click(await screen.findByRole('button', { name: /^Light/ }));
  expect(screen.queryByRole('button', { name: 'L: Sled' })).toBeNull();
  unmount();
  pad();
  expect((await screen.findByRole('button', { name: /^Light/ })).getAttribute('aria-pressed')).toBe('true');
});

test('a pad is made, for everybody or for oneself, and removed', async () => {
  const { user, asked } = pad(selection, []);
  expect(await screen.findByText(/There is no pad yet/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'New pad …' }));
  await user.type(screen.getByLabelText('Name of the pad'), 'Places');
  await user.click(screen.getByRole('checkbox', { name: 'for everybody' }));
  await user.click(screen.getByRole('button', { name: 'Make it' }));
  await waitFor(() => expect(changesIn(asked)).toMatchObject([{ kind: 'definePad', name: 'Places', shared: false }]));
});

test('a pad that somebody else made for all gives its terms, and stays as it is', async () => {
  const theirs = PADS.slice(0, 1).map((each) => ({ ...each, mine: false, mayChange: false }));
  const { user, set } = pad(selection, theirs);
  expect(await screen.findByRole('button', { name: 'L: Sled' })).toBeTruthy();
  expect(screen.queryByRole('button', { name: 'Remove this pad' })).toBeNull();
  const empty = screen.getByRole('button', { name: 'Q: nothing on this key' });
  expect((empty as HTMLButtonElement).disabled).toBe(true);
  await user.keyboard('q');
  expect(screen.queryByRole('combobox', { name: 'Term for the key Q' })).toBeNull();
  await user.keyboard('l');
  expect(set).toHaveLength(1);
});
