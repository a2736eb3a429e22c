/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor, within } from '@testing-library/react';
import type { Handover, ReturnedFile } from '@stellin/contract/handover';
import { answering, show, type Answers } from '../testing/render';
import { HandoverLine } from './HandoverLine';
import { ReturnedFiles } from './ReturnedFiles';

const ID = '0b9c8f4e-7d57-4f5e-9a51-3d7c2e6c1a10';
const HANDOVER: Handover = {
  folder: '/exchange/2031-05-04 0b9c8f4e',
  program: 'Retouch',
  outcome: null,
  closed: false,
  back: 4,
  waiting: 3,
};
const file = (id: number, part: Partial<ReturnedFile>): ReturnedFile => ({
  id,
  path: `kite ${id}.tif`,
  at: '2031-05-04T10:00:00Z',
  kind: 'picture',
  bytes: 2_000_000,
  state: 'waiting',
  problem: null,
  original: { photoId: 1, name: 'kite.jpg', previewVersion: 1 },
  photoId: null,
  goesTo: 'Vault/July',
  fields: [],
  contested: [],
  ...part,
});
const FILES = [
  file(1, {}),
  file(2, {
    path: 'kite.jpg',
    kind: 'words',
    goesTo: null,
    fields: [{ field: 'headline', label: 'Headline', before: 'Dunes', after: 'Dunes by night', cut: false }],
    contested: ['Headline'],
  }),
  file(3, { path: 'other.jpg', original: null, goesTo: null, problem: 'which photo it belongs to can’t be told' }),
  file(4, { state: 'taken', photoId: 9 }),
];
const ANSWERS: Answers = {
  listReturned: { files: FILES, total: 4 },
  takeReturned: { jobs: [] },
  leaveReturned: { done: true },
  lookForReturned: HANDOVER,
  closeHandover: { removed: 6, kept: 1 },
};

test('what came back stands beside its original, with what it says otherwise, and why some can’t be taken in', async () => {
  answering(ANSWERS);
  show(<ReturnedFiles id={ID} handover={HANDOVER} />);
  const table = await screen.findByRole('table', { name: 'Files that came back' });
  const rows = within(table).getAllByRole('row').slice(1);
  expect(rows.map((row) => row.textContent)).toEqual([
    expect.stringMatching(/another picture, 2\.0 MB.*goes to Vault\/July.*gets what its original says/),
    expect.stringMatching(/what is said of it.*Dunes Dunes by night.*Changed here meanwhile as well: Headline/),
    expect.stringMatching(/can’t be told/),
    expect.stringMatching(/taken in/),
  ]);
  expect(within(table).queryByRole('button', { name: 'Take in other.jpg' })).toBeNull();
  expect(within(table).getByRole('button', { name: 'Leave other.jpg' })).toBeTruthy();
  expect(within(table).getByRole('img', { name: 'kite 1.tif' }).getAttribute('src')).toContain(
    `${ID}/returned/1/picture`,
  );
});

test('files are taken in one by one or all, left, looked for, and the handover is ended', async () => {
  const asked = answering(ANSWERS);
  const { user } = show(<ReturnedFiles id={ID} handover={HANDOVER} />);
  await user.click(await screen.findByRole('button', { name: 'Take in kite 1.tif' }));
  await user.click(screen.getByRole('button', { name: 'Take in 3 files' }));
  await user.click(screen.getByRole('button', { name: 'Leave kite.jpg' }));
  await user.click(screen.getByRole('button', { name: 'Look now' }));
  await user.click(screen.getByRole('button', { name: 'End it, and clear the folder' }));
  await waitFor(() =>
    expect(asked.flatMap(({ name, body }) => (name === 'listReturned' ? [] : [[name, body ?? null]]))).toEqual([
      ['takeReturned', { ids: [1] }],
      ['takeReturned', { ids: null }],
      ['leaveReturned', { ids: [2] }],
      ['lookForReturned', null],
      ['closeHandover', null],
    ]),
  );
});

test('one that has ended only shows what became of it', async () => {
  answering(ANSWERS);
  show(<ReturnedFiles id={ID} handover={{ ...HANDOVER, closed: true }} />);
  await screen.findByRole('table', { name: 'Files that came back' });
  expect(screen.queryAllByRole('button', { name: /^(Take in|Leave|End)/ })).toEqual([]);
});

test('what became of the program is said once everything is out', () => {
  answering({});
  const { rerender } = show(<HandoverLine handover={HANDOVER} isOut={false} />);
  expect(screen.queryByText(/was started/)).toBeNull();
  rerender(<HandoverLine handover={HANDOVER} isOut />);
  expect(screen.getByText('“Retouch” was started')).toBeTruthy();
  rerender(<HandoverLine handover={{ ...HANDOVER, outcome: 'ended with an error (3): no licence' }} isOut />);
  expect(screen.getByText(/no licence/)).toBeTruthy();
});
