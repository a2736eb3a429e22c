/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import type { Dossier } from '@stellin/contract/dossiers';
import { answering, changesIn, Refused, show } from '../testing/render';
import { DossierDialog } from './DossierDialog';

const LOANS: Dossier = {
  id: 7,
  parentId: null,
  name: 'Loans',
  path: 'Loans',
  query: 'dossier:Loans',
  note: 'For 2027',
  colour: 'blue',
  photos: 3,
  cover: null,
  pinned: false,
};
const entry = { id: 1, at: '', by: '', title: 'Done', photos: 0, state: 'done', objectId: 8 };

test('a dossier is made with a colour, of photos, within another', async () => {
  const asked = answering({ apply: { entry, job: null } });
  let closed = 0;
  const selection = { query: null, plus: [1, 2], minus: [] };
  const { user } = show(
    <DossierDialog task={{ kind: 'make', parent: LOANS, selection, from: 'Of 2 photos.' }} onClose={() => closed++} />,
  );
  await user.type(screen.getByLabelText('Name'), 'Poster');
  await user.click(screen.getByRole('radio', { name: 'green' }));
  await user.click(screen.getByRole('button', { name: 'Make the dossier' }));
  await waitFor(() => expect(closed).toBe(1));
  expect(changesIn(asked)).toMatchObject([
    { kind: 'makeDossier', name: 'Poster', note: '', colour: 'green', parentId: 7, selection },
  ]);
});

test('a name that can’t be is refused before it is sent; another that is taken is kept to be mended', async () => {
  const asked = answering({ apply: new Refused(409, 'dossierExists', 'There is a dossier “Poster” there already.') });
  let closed = 0;
  const { user } = show(<DossierDialog task={{ kind: 'change', dossier: LOANS }} onClose={() => closed++} />);
  const name = screen.getByLabelText<HTMLInputElement>('Name');
  expect([name.value, screen.getByLabelText<HTMLTextAreaElement>('Note').value]).toEqual(['Loans', 'For 2027']);
  expect(screen.getByRole('radio', { name: 'blue' }).getAttribute('aria-checked')).toBe('true');
  await user.type(name, '/2027');
  await user.tab();
  expect(await screen.findByText('A name has no “/”.')).toBeTruthy();
  await user.clear(name);
  await user.type(name, 'Poster{Enter}');
  await waitFor(() => expect(changesIn(asked)).toHaveLength(1));
  expect([name.value, closed]).toEqual(['Poster', 0]);
});
