/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import type { SavedSearch } from '@stellin/contract/search';
import { DONE } from '../testing/fixtures';
import { answering, changesIn, show } from '../testing/render';
import { SavedSearches } from './SavedSearches';

function searchOf(id: number, name: string, said: Partial<SavedSearch> = {}): SavedSearch {
  const query = `rating:${id}`;
  return {
    id,
    name,
    query,
    asks: query,
    sort: 'taken',
    note: '',
    folder: '',
    pinned: false,
    scope: '',
    size: null,
    dossierId: null,
    count: 7,
    problems: [],
    ...said,
  };
}
const SEARCHES = [
  searchOf(1, 'Best'),
  searchOf(2, 'No caption', { folder: 'Work/Gaps', pinned: true, size: 330 }),
  searchOf(3, 'Broken', { problems: ['there is no field “foo”'] }),
];

function list(role: 'cataloguer' | 'viewer' = 'cataloguer') {
  const asked = answering({
    listSearches: { searches: SEARCHES },
    apply: DONE,
    countPhotos: { count: 7, folded: 0, milliseconds: 1, errors: [] },
  });
  const shown: unknown[] = [];
  const sizes: number[] = [];
  const view = show(
    <SavedSearches
      query="kind:jpeg"
      sort="taken-desc"
      size={132}
      show={(change) => shown.push(change)}
      onSize={(size) => sizes.push(size)}
    />,
    { role },
  );
  return { ...view, asked, shown, sizes };
}

test('a search opens with its order and the size it was kept with; folders fold', async () => {
  const { user, shown, sizes } = list();
  await user.click(await screen.findByRole('button', { name: /^No caption/ }));
  expect([shown, sizes]).toEqual([[{ query: 'rating:2', sort: 'taken' }], [330]]);
  await user.click(screen.getByRole('button', { name: 'Work' }));
  expect(screen.queryByRole('button', { name: /^No caption/ })).toBeNull();
  expect(screen.queryByRole('button', { name: 'Gaps' })).toBeNull();
});

test('the menu asks another query, puts it on Holdings, makes a copy with a name of its own, removes it', async () => {
  const { user, asked } = list();
  for (const item of ['Ask the present query', 'Put on Holdings', 'Duplicate', 'Remove']) {
    await user.click(await screen.findByRole('button', { name: 'Change the saved search Best' }));
    await user.click(await screen.findByRole('menuitem', { name: item }));
  }
  await waitFor(() => expect(changesIn(asked)).toHaveLength(4));
  const [asks, pins, copies, removes] = changesIn(asked) as Record<string, unknown>[];
  expect(asks).toMatchObject({ kind: 'changeSearch', searchId: 1, query: 'kind:jpeg', sort: 'taken-desc', size: 132 });
  expect(pins).toMatchObject({ kind: 'changeSearch', searchId: 1, pinned: true });
  expect(copies).toMatchObject({ kind: 'saveSearch', query: 'rating:1' });
  expect(copies?.['name']).not.toBe('Best');
  expect(removes).toEqual({ kind: 'removeSearch', searchId: 1 });
});

test('a file of searches is taken in; another is refused by its name', async () => {
  const { user, asked } = list();
  await screen.findByRole('button', { name: /^Best/ });
  const file = screen.getByLabelText('File of saved searches');
  await user.upload(file, new File(['{"kind": "notes"}'], 'notes.json', { type: 'application/json' }));
  expect(screen.queryByRole('dialog')).toBeNull();
  const searches = [{ name: 'Festival', query: 'term:Festival', sort: 'taken' }];
  const good = JSON.stringify({ kind: 'stellin saved searches', searches });
  await user.upload(file, new File([good], 'searches.json', { type: 'application/json' }));
  const dialog = await screen.findByRole('dialog');
  expect(dialog.textContent).toContain('Festival');
  expect(changesIn(asked)).toEqual([]);
});

test('a viewer opens them and changes none', async () => {
  list('viewer');
  await screen.findByRole('button', { name: /^Best/ });
  expect(screen.queryByRole('button', { name: /^Change the saved search/ })).toBeNull();
});
