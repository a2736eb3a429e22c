/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import type { SavedSearch } from '@stellin/contract/search';
import { answering, changesIn, show } from '../testing/render';
import { SearchDialog } from './SearchDialog';

const BEST: SavedSearch = {
  id: 3,
  name: 'Best',
  query: 'rating:5',
  sort: 'taken',
  note: '',
  folder: 'Picks',
  pinned: false,
  scope: '',
  size: null,
  dossierId: null,
  asks: 'rating:5',
  count: 4,
  problems: [],
};
const entry = { id: 1, at: '', by: '', title: 'Done', photos: 0, state: 'done', objectId: 8 };
const open = (query: string, search?: SavedSearch) => {
  const asked = answering({
    apply: { entry, job: null },
    countPhotos: { count: 4, folded: 0, milliseconds: 1, errors: [] },
    listSearches: { searches: [BEST] },
  });
  const closed = jest.fn();
  const { user } = show(
    <SearchDialog query={query} sort="rating" size={180} onClose={closed} {...(search ? { search } : {})} />,
  );
  return { asked, closed, user };
};

test('a query is kept with its branch apart, and stands on Holdings', async () => {
  const { asked, closed, user } = open('within:Vault/2019 rating:5');
  await user.type(screen.getByLabelText('Name'), ' Vault picks ');
  await user.type(screen.getByLabelText('Folder'), 'Work');
  await user.click(screen.getByLabelText('Stands on Holdings'));
  await user.click(screen.getByLabelText(/as its branch/));
  await user.click(screen.getByRole('button', { name: 'Save search' }));
  await waitFor(() => expect(closed).toHaveBeenCalled());
  expect(changesIn(asked)).toMatchObject([
    {
      kind: 'saveSearch',
      name: 'Vault picks',
      folder: 'Work',
      pinned: true,
      scope: 'within:Vault/2019',
      query: 'rating:5',
      sort: 'rating',
      size: 180,
    },
  ]);
});

test('one of the same name is replaced, which is said before', async () => {
  const { asked, user } = open('rating:4');
  await user.type(screen.getByLabelText('Name'), 'best');
  expect(await screen.findByText(/There is one of this name already/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Replace the saved search' }));
  await waitFor(() =>
    expect(changesIn(asked)).toMatchObject([{ kind: 'changeSearch', searchId: 3, name: 'Best', query: 'rating:4' }]),
  );
});

test('of one that is there only what is said of it is changed', async () => {
  const { asked, user } = open('kite', BEST);
  await user.type(screen.getByLabelText('Note'), 'For the jury');
  await user.click(screen.getByRole('button', { name: 'Keep the changes' }));
  await waitFor(() =>
    expect(changesIn(asked)).toEqual([
      { kind: 'changeSearch', searchId: 3, name: 'Best', folder: 'Picks', note: 'For the jury', pinned: false },
    ]),
  );
});
