/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import { subDays, subHours } from 'date-fns';
import { USUAL_PLAN, type Backup, type BackupState } from '@stellin/contract/backup';
import { JOB } from '../testing/fixtures';
import { answering, Refused, show } from '../testing/render';
import { BackupCard } from './BackupCard';

const NONE: BackupState = { nightly: true, last: null, failed: null, checked: null };
const at = (days: number) => subDays(new Date(), days).toISOString();
const MADE: Backup = {
  id: '5b8a0c5e-8d3c-4c1c-9a39-6f4a2c9f6a11',
  at: at(1),
  path: '/disk/stellin-2026-03-01-023000.tar',
  there: true,
  bytes: 12_400_000,
  seconds: 3,
  nightly: true,
  previews: false,
  problem: null,
  checkedAt: null,
  checkProblem: null,
};

test.each<[string, BackupState, string[]]>([
  ['where there is none', NONE, ['Not backed up yet']],
  [
    'a fresh one that was tried out',
    {
      ...NONE,
      last: { at: subHours(new Date(), 5).toISOString(), bytes: 512_000_000, isOld: false },
      checked: { at: at(3), problem: null },
    },
    ['Backed up about 5 hours ago', '512 MB', 'Tried out 3 days ago: all of it can be restored'],
  ],
  [
    'an old one',
    { ...NONE, last: { at: at(3), bytes: 1000, isOld: true } },
    ['Backed up 3 days ago', 'older than two days'],
  ],
  [
    'one that failed since',
    { ...NONE, last: { at: at(1), bytes: 1000, isOld: false }, failed: { at: at(0), problem: 'the drive is full' } },
    ['failed: the drive is full'],
  ],
  [
    'one that can’t be restored',
    { ...NONE, last: { at: at(1), bytes: 1000, isOld: false }, checked: { at: at(0), problem: 'it is damaged' } },
    ['it is damaged'],
  ],
  ['none by itself', { ...NONE, nightly: false }, ['None is made by itself']],
])('it says how safe the catalogue is: %s', async (_, state, texts) => {
  answering({ showBackupState: state });
  show(<BackupCard />, { role: 'viewer' });
  for (const text of texts) expect(await screen.findByText(text, { exact: false })).toBeTruthy();
  expect(screen.queryByRole('button')).toBeNull();
});

test('a keeper backs up, tries one out, and settles the plan', async () => {
  const asked = answering({
    showBackupState: { ...NONE, last: { at: MADE.at, bytes: MADE.bytes, isOld: false } },
    listBackups: {
      plan: USUAL_PLAN,
      ownFolder: '/home/keeper/stellin/backups',
      backups: [
        MADE,
        { ...MADE, id: '6b8a0c5e-8d3c-4c1c-9a39-6f4a2c9f6a12', there: false, nightly: false, checkedAt: at(1) },
      ],
    },
    backUp: JOB,
    checkBackup: JOB,
    planBackups: { done: true },
  });
  const { user } = show(<BackupCard />);
  await user.click(await screen.findByRole('button', { name: 'Back up now' }));
  await user.click(screen.getByRole('button', { name: 'Backups …' }));
  expect(await screen.findByText(/is not there now/)).toBeTruthy();
  // Of the two only the one whose file is there can be tried out.
  await user.click(screen.getByRole('button', { name: 'Try it out' }));
  const folder = screen.getByLabelText('Folder');
  expect(folder.getAttribute('placeholder')).toBe('/home/keeper/stellin/backups');
  await user.type(folder, 'disk');
  await user.tab();
  expect(await screen.findByText(/a whole path/)).toBeTruthy();
  await user.clear(folder);
  await user.type(folder, '/disk');
  await user.clear(screen.getByLabelText('weeks'));
  await user.type(screen.getByLabelText('weeks'), '9');
  await user.click(screen.getByRole('checkbox', { name: /Previews go along/ }));
  await user.click(screen.getByRole('button', { name: 'Keep the plan' }));
  await waitFor(() => expect(asked.map(({ name }) => name)).toContain('planBackups'));
  const done = asked.filter(({ name }) => ['backUp', 'checkBackup', 'planBackups'].includes(name));
  expect(done.map(({ name, params, body }) => [name, params ?? body])).toEqual([
    ['backUp', undefined],
    ['checkBackup', { id: MADE.id }],
    ['planBackups', { ...USUAL_PLAN, folder: '/disk', keep: { days: 7, weeks: 9, months: 12 }, previews: true }],
  ]);
});

test('a plan that the server refuses stays as it was typed', async () => {
  answering({
    showBackupState: NONE,
    listBackups: { plan: USUAL_PLAN, ownFolder: '/own', backups: [] },
    planBackups: new Refused(
      400,
      'folderUnusable',
      'The folder /nowhere can’t be used: there is no permission to do this.',
    ),
  });
  const { user } = show(<BackupCard />);
  await user.click(await screen.findByRole('button', { name: 'Backups …' }));
  await user.type(await screen.findByLabelText('Folder'), '/nowhere');
  await user.click(screen.getByRole('button', { name: 'Keep the plan' }));
  expect(await screen.findByText(/can’t be used/)).toBeTruthy();
  expect(screen.getByLabelText<HTMLInputElement>('Folder').value).toBe('/nowhere');
});
