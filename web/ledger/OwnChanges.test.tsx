/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import type { LedgerEntry } from '@stellin/contract/ledger';
import { answering, show } from '../testing/render';
import { OwnChanges } from './OwnChanges';

const entry = (id: number, title: string, state: LedgerEntry['state']): LedgerEntry => ({
  ...{ id, title, state, photos: 2, at: '2026-06-01T10:00:00.000Z', by: 'Ida Brandt', objectId: null },
});

test('one’s own changes stand by name, without what only took others back; any of them is taken back', async () => {
  const asked = answering({
    listEntries: {
      entries: [
        entry(9, 'Rate 5: 2 photos', 'done'),
        entry(8, 'Undo: Mark', 'undo'),
        entry(7, 'Mark: 2 photos', 'undone'),
      ],
    },
    showEntry: { photos: [], objects: [], standing: { step: 'undo', later: [], laterCount: 0 } },
    takeBackEntry: { entry: entry(10, 'Undo: Rate 5', 'undo'), job: null },
    nextSteps: { undo: null, redo: null },
  });
  const { user } = show(<OwnChanges className="" />);
  await user.click(screen.getByRole('button', { name: 'Your changes' }));
  const items = await screen.findAllByRole('menuitem');
  expect(items.map(({ textContent }) => textContent)).toEqual([
    expect.stringMatching(/^Rate 5: 2 photos1 Jun 2026/),
    'Mark: 2 photostaken back',
  ]);
  expect(asked.find(({ name }) => name === 'listEntries')?.query).toMatchObject({ accountId: 1 });
  await user.click(items[0]!);
  await user.click(await screen.findByRole('button', { name: /Take back/ }));
  await waitFor(() => expect(asked.find(({ name }) => name === 'takeBackEntry')?.params).toEqual({ id: 9 }));
});
