/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import { SelectionProvider } from '../photos/selection';
import { DONE, dossierOf } from '../testing/fixtures';
import { answering, changesIn, show, type Answers } from '../testing/render';
import { DossierList } from './DossierList';

const DOSSIERS = [
  dossierOf(1, 'Loans', { pinned: true, photos: 5 }),
  dossierOf(2, '2027', { parentId: 1, path: 'Loans/2027', photos: 2 }),
  dossierOf(3, 'Posters', { photos: 1234 }),
];

function list(answers: Answers = {}, role: 'cataloguer' | 'viewer' = 'cataloguer') {
  const asked = answering({ listDossiers: { dossiers: DOSSIERS }, apply: DONE, pinDossier: {}, ...answers });
  const shown: unknown[] = [];
  const view = show(
    <SelectionProvider>
      <DossierList query="kind:jpeg" sort="taken-desc" show={(change) => shown.push(change)} />
    </SelectionProvider>,
    { role },
  );
  return { ...view, asked, shown };
}
const menu = async (user: ReturnType<typeof list>['user'], name: string, item: RegExp) => {
  await user.click(await screen.findByRole('button', { name: `Change the dossier ${name}` }));
  await user.click(await screen.findByRole('menuitem', { name: item }));
};

test('a dossier opens in its own order; those below it fold away', async () => {
  const { user, shown } = list();
  await user.click(await screen.findByRole('button', { name: /^Posters/ }));
  expect(shown).toEqual([{ query: 'dossier:Posters', sort: 'hand' }]);
  expect(screen.getByRole('button', { name: /^Posters/ }).textContent).toContain('1,234');
  await user.click(screen.getByRole('button', { name: 'Fold Loans' }));
  expect(screen.queryByRole('button', { name: /^2027/ })).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Unfold Loans' }));
  expect(screen.getByRole('button', { name: /^2027/ })).toBeTruthy();
});

test('the menu does what dragging does: up, down, into another and out again', async () => {
  const { user, asked } = list();
  await menu(user, 'Posters', /^Move up/);
  await menu(user, 'Posters', /^Into the one above/);
  await menu(user, '2027', /^Out, one level up/);
  await waitFor(() =>
    expect(changesIn(asked)).toEqual([
      { kind: 'placeDossier', dossierId: 3, parentId: null, before: 1 },
      { kind: 'placeDossier', dossierId: 3, parentId: 1, before: null },
      { kind: 'placeDossier', dossierId: 2, parentId: null, before: 3 },
    ]),
  );
});

test('one is pinned and unpinned, and removed without its photos', async () => {
  const { user, asked } = list();
  await menu(user, 'Loans', /^Unpin/);
  await menu(user, 'Posters', /^Pin/);
  await waitFor(() =>
    expect(asked.filter(({ name }) => name === 'pinDossier').map(({ body }) => body)).toEqual([
      { dossierId: null },
      { dossierId: 3 },
    ]),
  );
  await menu(user, 'Posters', /^Remove/);
  await waitFor(() => expect(changesIn(asked)).toEqual([{ kind: 'removeDossier', dossierId: 3 }]));
});

test('without chosen photos nothing is put in; a viewer is offered no menu', async () => {
  const { user, unmount } = list();
  await user.click(await screen.findByRole('button', { name: 'Change the dossier Posters' }));
  const item = await screen.findByRole('menuitem', { name: 'Put the chosen photos in' });
  expect(item.getAttribute('aria-disabled')).toBe('true');
  unmount();
  list({}, 'viewer');
  await screen.findByRole('button', { name: /^Posters/ });
  expect(screen.queryByRole('button', { name: /^Change the dossier/ })).toBeNull();
  expect(screen.queryByRole('button', { name: 'New dossier' })).toBeNull();
});
