/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import type { FoundTerm } from '@stellin/contract/vocabulary';
import { answering, changesIn, show } from '../testing/render';
import { NewTerm } from './NewTerm';

const entry = { id: 1, at: '', by: '', title: 'Done', photos: 1, state: 'done', objectId: 31 };
const found: FoundTerm = {
  id: 5,
  parentId: 2,
  vocabularyId: null,
  label: 'Kites',
  also: '',
  heading: false,
  proposed: false,
  deprecated: false,
  colour: '',
  elsewhere: false,
  narrower: 3,
  photos: 0,
  photosWithin: 9,
  path: ['Objects'],
  found: 'Kites',
  from: 0,
  to: 3,
};
const selection = { query: null, plus: [1], minus: [] };

function open(role: 'keeper' | 'cataloguer') {
  const asked = answering({
    apply: { entry, job: null },
    findTerms: { terms: [found] },
    recentTerms: { terms: [] },
  });
  const created = jest.fn();
  const { user } = show(
    <NewTerm label="Squall" selection={selection} onClose={() => undefined} onCreated={created} />,
    {
      role,
    },
  );
  return { asked, created, user };
}

test('a keeper creates it, below a term that was picked, and the photos get it', async () => {
  const { asked, created, user } = open('keeper');
  await user.type(screen.getByLabelText('Below which term'), 'kit');
  await user.click(await screen.findByRole('option', { name: /^Kit/ }));
  await user.click(screen.getByRole('button', { name: 'Create' }));
  await waitFor(() => expect(created).toHaveBeenCalledWith(31));
  expect(changesIn(asked)).toEqual([
    { kind: 'addTerms', parentId: 5, terms: [{ label: 'Squall', scopeNote: '' }], selection },
  ]);
});

test('a cataloguer proposes it; without a label nothing is sent', async () => {
  const { asked, created, user } = open('cataloguer');
  const label = screen.getByLabelText('Label');
  await user.clear(label);
  await user.tab();
  expect(await screen.findByText('This is needed.')).toBeTruthy();
  await user.type(label, 'Squall');
  await user.type(screen.getByLabelText('What it is for'), 'Sudden wind');
  await user.click(screen.getByRole('button', { name: 'Propose' }));
  await waitFor(() => expect(changesIn(asked)).toHaveLength(1));
  expect(changesIn(asked)).toEqual([
    { kind: 'proposeTerm', parentId: null, label: 'Squall', scopeNote: 'Sudden wind', selection },
  ]);
  expect(created).not.toHaveBeenCalled();
});
