/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor, within } from '@testing-library/react';
import { useLocation } from 'react-router';
import { dossierOf, driveOf, FOLDERS } from '../testing/fixtures';
import { SelectionProvider } from '../photos/selection';
import { answering, show, type Asked } from '../testing/render';
import { Breadcrumb } from './Breadcrumb';
import { Go } from './GoDialog';
import { OnTop } from './OnTop';

const ANSWERS = {
  listPinned: {
    pinned: [
      { kind: 'folder', id: 3 },
      { kind: 'search', id: 77 },
      { kind: 'dossier', id: 4 },
    ],
  },
  listDrives: { drives: [driveOf()], scanning: false },
  listFolders: { folders: FOLDERS },
  listDossiers: { dossiers: [dossierOf(4, 'Yearly report')] },
  listSearches: { searches: [] },
  setPinned: { done: true },
};

function Here() {
  const { pathname, search } = useLocation();
  return <p>{`at ${pathname}${decodeURIComponent(search).replaceAll('+', ' ')}`}</p>;
}

const goes = (at: string, answers: Parameters<typeof answering>[0] = {}) => {
  const asked = answering({ ...ANSWERS, ...answers });
  return {
    asked,
    ...show(
      <SelectionProvider>
        <Go />
        <Here />
      </SelectionProvider>,
      { at },
    ),
  };
};

test('what is kept on top has keys in its order; what is gone is left out', async () => {
  const { user } = goes('/people');
  await user.keyboard('g');
  const dialog = within(await screen.findByRole('dialog', { name: 'Go to' }));
  expect(await dialog.findByText('Yearly report')).toBeTruthy();
  // Nothing is shown from which one could step.
  expect(dialog.queryByText('Next day')).toBeNull();
  await user.keyboard('1');
  expect(await screen.findByText('at /desk?q=within:"Vault 1/2019/Festival"')).toBeTruthy();
  await user.keyboard('g');
  await screen.findByText('Yearly report');
  await user.keyboard('2');
  expect(await screen.findByText(/^at \/desk\?q=dossier:.*sort=hand$/)).toBeTruthy();
});

test('one steps from what is shown, both ways, and is told where there is nothing more', async () => {
  const { user, asked } = goes('/desk?q=taken:2019-06-02', {
    step: ({ query }: Asked) => ({
      to:
        (query as { direction: string }).direction === 'next'
          ? { query: 'taken:2019-06-04', label: '2019-06-04' }
          : null,
    }),
  });
  await user.keyboard('g');
  await screen.findByText('Next day');
  await user.keyboard('d');
  expect(await screen.findByText('at /desk?q=taken:2019-06-04')).toBeTruthy();
  await user.keyboard('g');
  await screen.findByText('Next day');
  await user.keyboard('{Shift>}M{/Shift}');
  await waitFor(() =>
    expect(asked.flatMap(({ name, query }) => (name === 'step' ? [query] : []))).toEqual([
      { kind: 'day', direction: 'next', query: 'taken:2019-06-02' },
      { kind: 'month', direction: 'before', query: 'taken:2019-06-04' },
    ]),
  );
  expect(screen.getByText('at /desk?q=taken:2019-06-04')).toBeTruthy();
});

test('a folder is gone to by a part of its name', async () => {
  const { user } = goes('/holdings');
  await user.keyboard('g');
  await screen.findByRole('dialog', { name: 'Go to' });
  await user.keyboard('f');
  const field = await screen.findByRole('combobox', { name: 'A part of its name' });
  await user.type(field, 'fest');
  await screen.findByRole('option', { name: /Vault 1\/2019\/Festival/ });
  await user.keyboard('{Enter}');
  expect(await screen.findByText('at /desk?q=within:"Vault 1/2019/Festival"')).toBeTruthy();
});

test('the path of the shown folder leads up, keeping what else is asked, and its arrows to those beside', async () => {
  answering({ step: { to: { query: 'within:"Vault 1/2020" rating:5', label: 'Vault 1/2020' } } });
  const shown: string[] = [];
  const { user } = show(
    <Breadcrumb query={'within:"Vault 1/2019/Festival" rating:5'} show={({ query }) => shown.push(query)} />,
  );
  expect(screen.getByRole('button', { name: 'Festival' }).getAttribute('aria-current')).toBe('location');
  await user.click(screen.getByRole('button', { name: '2019' }));
  await user.click(screen.getByRole('button', { name: 'Next folder' }));
  await waitFor(() => expect(shown).toEqual(['within:"Vault 1/2019" rating:5', 'within:"Vault 1/2020" rating:5']));
});

test('the order of what is on top is one’s own', async () => {
  const asked = answering(ANSWERS);
  const shown: unknown[] = [];
  const { user } = show(<OnTop query="" show={(result) => shown.push(result)} />);
  const list = await screen.findByRole('list', { name: 'On top' });
  expect(list.textContent).toBe('FestivalG 1Yearly reportG 2');
  await user.click(within(list).getByText('Festival'));
  expect(shown).toEqual([{ query: 'within:"Vault 1/2019/Festival"' }]);
  await user.click(within(list).getByRole('button', { name: 'Change Festival on top' }));
  await user.click(await screen.findByRole('menuitem', { name: 'Move down' }));
  await waitFor(() =>
    expect(asked.find(({ name }) => name === 'setPinned')?.body).toEqual({
      pinned: [
        { kind: 'dossier', id: 4 },
        { kind: 'folder', id: 3 },
      ],
    }),
  );
});
