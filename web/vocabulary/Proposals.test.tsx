/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import { FINDING_KINDS } from '@stellin/core/vocabulary/lint';
import { DONE } from '../testing/fixtures';
import { answering, changesIn, show } from '../testing/render';
import { AddMany } from './AddMany';
import { Proposals } from './Proposals';

const proposals = {
  proposals: [
    {
      id: 9,
      label: 'Sled kite',
      path: ['Kites'],
      scopeNote: 'As in the shed',
      by: 'Henrik Voss',
      photos: 3,
      samples: [],
      near: [{ id: 4, label: 'Sled', path: ['Kites'] }],
    },
  ],
  settled: [{ at: '2026-05-01T10:00:00Z', title: 'Accept “Box kite”', by: 'The keeper', word: '' }],
};

function list(mayEdit: boolean) {
  const asked = answering({ listProposals: proposals, apply: DONE });
  const shown: number[] = [];
  const merged: number[] = [];
  const view = show(<Proposals mayEdit={mayEdit} onShow={(id) => shown.push(id)} onMerge={(id) => merged.push(id)} />);
  return { ...view, asked, shown, merged };
}

test('a keeper accepts a proposal, maps it to a term that is there, or refuses it with a word', async () => {
  const { user, asked, shown, merged } = list(true);
  await user.click(await screen.findByRole('button', { name: 'Accept' }));
  await user.click(screen.getByRole('button', { name: 'Sled' }));
  await user.click(screen.getByRole('button', { name: 'Rename or place …' }));
  await user.click(screen.getByRole('button', { name: 'Map to …' }));
  await user.click(screen.getByRole('button', { name: 'Refuse …' }));
  await user.type(screen.getByLabelText('A word on why'), 'It is the sled.{Enter}');
  await waitFor(() =>
    expect(changesIn(asked)).toMatchObject([
      { kind: 'acceptTerms', termIds: [9] },
      { kind: 'mergeTerms', termIds: [9], intoId: 4, keepLabels: 'alternative' },
      { kind: 'refuseTerm', termId: 9, word: 'It is the sled.' },
    ]),
  );
  expect([shown, merged]).toEqual([[9], [9]]);
});

test('a cataloguer sees what waits and what became of theirs', async () => {
  list(false);
  expect(await screen.findByText('As in the shed')).toBeTruthy();
  expect(screen.getByText(/Accept “Box kite”/)).toBeTruthy();
  expect(screen.queryByRole('button', { name: 'Accept' })).toBeNull();
});

test('many terms are added as an outline; a line that is wrong is named and stops it', async () => {
  const asked = answering({
    listVocabularies: {
      vocabularies: [],
      findings: Object.fromEntries(FINDING_KINDS.map((kind) => [kind, 0])),
      proposals: 0,
    },
    apply: DONE,
  });
  let closed = 0;
  const { user } = show(<AddMany below={{ id: 2, label: 'Kites' }} onClose={() => closed++} />);
  const box = screen.getByRole('textbox');
  await user.click(box);
  await user.paste('Rokkaku = six-sided kite\n  Edo rokkaku\nDelta');
  await user.click(screen.getByRole('button', { name: /Add 3 terms/ }));
  await waitFor(() => expect(closed).toBe(1));
  expect(changesIn(asked)).toMatchObject([
    {
      kind: 'addTerms',
      parentId: 2,
      terms: [{ label: 'Rokkaku', narrower: [{ label: 'Edo rokkaku' }] }, { label: 'Delta' }],
    },
  ]);
});
