/** @jest-environment ./web/testing/browser.cjs */
import { screen } from '@testing-library/react';
import { answering, Refused, show, type Asked } from '../testing/render';
import { LedgerScreen } from './LedgerScreen';

const entry = (id: number) => ({
  id,
  at: '2026-06-01T10:00:00.000Z',
  by: 'Ida Brandt',
  title: `Rate ${id}: 1 photo`,
  photos: 1,
  state: id === 149 ? 'undone' : 'done',
  objectId: null,
});

test('entries come page by page, the newest first; each opens what it changed', async () => {
  answering({
    listEntries: ({ query }: Asked) => {
      const { before = 151, limit } = query as { before?: number; limit: number };
      return { entries: Array.from({ length: Math.min(limit, before - 1) }, (_, i) => entry(before - 1 - i)) };
    },
    showEntry: { photos: [], objects: [], standing: { step: null, later: [], laterCount: 0 } },
  });
  const { user } = show(<LedgerScreen />);
  await screen.findByText('Rate 150: 1 photo');
  expect([screen.getAllByRole('row').length, screen.getByText('taken back').closest('tr')?.textContent]).toEqual([
    101,
    expect.stringContaining('Rate 149'),
  ]);
  await user.click(screen.getByRole('button', { name: 'Show earlier' }));
  await screen.findByText('Rate 1: 1 photo');
  expect(screen.queryByRole('button', { name: 'Show earlier' })).toBeNull();
  await user.click(screen.getByRole('button', { name: 'Rate 7: 1 photo' }));
  expect(await screen.findByRole('dialog', { name: 'Rate 7: 1 photo' })).toBeTruthy();
});

test('a ledger that can’t be read is not an empty one', async () => {
  answering({ listEntries: new Refused(503, 'notFinding', 'The database is away.') });
  show(<LedgerScreen />);
  expect((await screen.findByRole('alert')).textContent).toContain('The database is away.');
  expect(screen.queryByText('Nothing was changed yet.')).toBeNull();
});
