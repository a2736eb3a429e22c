/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import type { PendingWrite } from '@stellin/contract/writeback';
import { answering, changesIn, Refused, show } from '../testing/render';
import { PendingRow } from './PendingRow';

const WRITE: PendingWrite = {
  photoId: 4,
  name: 'k4.jpg',
  folderPath: '2019',
  driveId: '0b9f4c2e-5d3a-4f6b-8c1d-2e3f4a5b6c7d',
  driveLabel: 'Vault',
  attached: true,
  state: 'conflict',
  since: '2026-06-01T10:00:00.000Z',
  message: '',
  add: [],
  remove: [],
  rating: null,
  mark: null,
  fields: [
    { field: 'headline', before: 'Old', after: 'Ours', file: 'Theirs', conflicts: true },
    { field: 'city', before: null, after: 'Saltmarsh', file: null, conflicts: false },
  ],
  previewVersion: 0,
};
const entry = { id: 1, at: '', by: '', title: 'Done', photos: 1, state: 'done', objectId: null };

test('a conflict shows what was, what we say and what the file says, and is settled field by field', async () => {
  const asked = answering({ apply: { entry, job: null } });
  const { user } = show(
    <ul>
      <PendingRow write={WRITE} />
    </ul>,
  );
  const row = screen.getByRole('row', { name: /Headline/ });
  expect([...row.children].map(({ textContent }) => textContent)).toEqual([
    'Headline',
    'Old',
    'Ours',
    'Theirs',
    'CatalogueFile',
  ]);
  expect(screen.getByRole('row', { name: /City/ }).textContent).toContain('merged: only the catalogue changed it');
  await user.click(screen.getByRole('button', { name: 'File' }));
  await waitFor(() => expect(changesIn(asked)).toHaveLength(1));
  expect(changesIn(asked)).toMatchObject([
    { kind: 'settleConflicts', selection: { query: null, plus: [4] }, field: 'headline', keep: 'file' },
  ]);
});

test('what a write does is read from the file when it is looked at; why it can’t be is said', async () => {
  answering({ previewWrite: new Refused(409, 'driveAway', 'The drive “Vault” is away.') });
  const { user } = show(
    <ul>
      <PendingRow write={{ ...WRITE, state: 'waiting', fields: [] }} />
    </ul>,
  );
  await user.click(screen.getByRole('button', { name: 'What the write of k4.jpg does' }));
  expect(await screen.findByText('The drive “Vault” is away.')).toBeTruthy();
});
