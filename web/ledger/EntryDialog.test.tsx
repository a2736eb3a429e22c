/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import type { LedgerEntry } from '@stellin/contract/ledger';
import { answering, show, type Asked } from '../testing/render';
import { EntryDialog } from './EntryDialog';

const entry = (id: number, title: string, photos = 2): LedgerEntry => ({
  id,
  title,
  photos,
  at: '2026-06-01T10:00:00.000Z',
  by: 'Ida Brandt',
  state: 'done',
  objectId: null,
});
const later = entry(9, 'Rate 5: 1 photo', 1);
const row = (photoId: number, what: string, before: string, after: string) => ({
  photoId,
  name: `k${photoId}.jpg`,
  previewVersion: 1,
  what,
  before,
  after,
});

function ledger(standing: { step: 'undo' | 'redo' | null; later: LedgerEntry[] }): Asked[] {
  return answering({
    showEntry: ({ params }: Asked) =>
      (params as { id: number }).id === later.id
        ? { photos: [row(2, 'Rating', '3', '5')], objects: [], standing: { step: 'undo', later: [], laterCount: 0 } }
        : {
            photos: [row(1, 'Headline', '–', 'Kites'), row(1, 'City', '–', 'Saltmarsh'), row(2, 'Rating', '1', '3')],
            objects: [{ object: 'Term “Delta”', what: 'Scope note', before: '–', after: 'Two wings' }],
            standing: { ...standing, laterCount: standing.later.length },
          },
    takeBackEntry: { entry: entry(10, 'Undo: Rate 3'), job: null },
    repeatEntry: { entry: entry(11, 'Redo: Rate 3'), job: null },
    nextSteps: { undo: null, redo: null },
  });
}

test('what changed stands row by row, a photo named once', async () => {
  ledger({ step: 'undo', later: [] });
  show(<EntryDialog entry={entry(1, 'Rate 3')} onClose={() => undefined} />);
  const rows = await screen.findAllByRole('row');
  expect(rows.map((each) => [...each.children].map(({ textContent }) => textContent))).toEqual([
    ['Of', 'What', 'Before', 'After'],
    ['Term “Delta”', 'Scope note', '–', 'Two wings'],
    ['k1.jpg', 'Headline', '–', 'Kites'],
    ['', 'City', '–', 'Saltmarsh'],
    ['k2.jpg', 'Rating', '1', '3'],
  ]);
});

test('an entry is taken back, and one that was taken back repeated', async () => {
  const asked = ledger({ step: 'undo', later: [] });
  let closed = 0;
  const { user, unmount } = show(<EntryDialog entry={entry(1, 'Rate 3')} onClose={() => closed++} />);
  await user.click(await screen.findByRole('button', { name: 'Take back' }));
  await waitFor(() => expect(closed).toBe(1));
  expect(asked.find(({ name }) => name === 'takeBackEntry')?.params).toEqual({ id: 1 });
  unmount();
  const again = ledger({ step: 'redo', later: [] });
  const { user: other } = show(<EntryDialog entry={entry(1, 'Rate 3')} onClose={() => closed++} />);
  await other.click(await screen.findByRole('button', { name: 'Repeat' }));
  await waitFor(() => expect(again.some(({ name }) => name === 'repeatEntry')).toBe(true));
});

test('what later entries built on can’t be taken back; they are looked at from there', async () => {
  ledger({ step: 'undo', later: [later] });
  const { user } = show(<EntryDialog entry={entry(1, 'Rate 3')} onClose={() => undefined} />);
  const back = await screen.findByRole<HTMLButtonElement>('button', { name: 'Take back' });
  expect(back.disabled).toBe(true);
  await user.click(screen.getByRole('button', { name: 'Rate 5: 1 photo' }));
  expect(await screen.findByRole('dialog', { name: 'Rate 5: 1 photo' })).toBeTruthy();
  await waitFor(() =>
    expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Take back' }).disabled).toBe(false),
  );
});

test('to those who may not change anything none is offered', async () => {
  ledger({ step: null, later: [] });
  show(<EntryDialog entry={entry(1, 'Rate 3')} onClose={() => undefined} />);
  await screen.findAllByRole('row');
  expect(screen.queryByRole('button', { name: /Take back|Repeat/ })).toBeNull();
});
