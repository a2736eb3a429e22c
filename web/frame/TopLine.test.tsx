/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor, within } from '@testing-library/react';
import { answering, show } from '../testing/render';
import { TopLine } from './TopLine';

const ALL = { listDrives: { drives: [], attached: 0 }, listJobs: { jobs: [] } };

test.each([
  ['little', 3_200_000_000, 'Disk filling up: 3.2 GB free'],
  ['none', 400_000_000, 'Disk full: 400 MB free'],
])('that there is %s room on the disk stands in the top line', async (state, freeBytes, text) => {
  answering({ ...ALL, showRoom: { freeBytes, state } });
  show(<TopLine />, { role: 'viewer' });
  expect((await screen.findByRole('status')).textContent).toBe(text);
});

test('as long as there is enough nothing is said of it', async () => {
  let told: () => void = () => undefined;
  const roomTold = new Promise<void>((resolve) => (told = resolve));
  answering({
    ...ALL,
    showRoom: () => {
      told();
      return { freeBytes: 9e12, state: 'enough' };
    },
    // Shown after the answer about room.
    listDrives: async () => {
      await roomTold;
      return ALL.listDrives;
    },
  });
  show(<TopLine />);
  await screen.findByRole('link', { name: /drives/ });
  expect(screen.queryByRole('status')).toBeNull();
});

test.each([
  ['keeper', true, true],
  ['cataloguer', true, false],
  ['viewer', false, false],
] as const)('a %s finds the places of their work', async (role, works, administers) => {
  answering(ALL);
  const { user } = show(<TopLine />, { role });
  expect(await screen.findByRole('link', { name: 'Desk' })).toBeTruthy();
  expect(screen.queryByRole('link', { name: 'Intake' }) !== null).toBe(works);
  expect(screen.queryByRole('link', { name: /^Write-back/ }) !== null).toBe(works);
  await user.click(screen.getByRole('button', { name: role }));
  expect(await screen.findByRole('menuitem', { name: 'Your account' })).toBeTruthy();
  expect(screen.queryByRole('menuitem', { name: 'Team' }) !== null).toBe(administers);
});

test('how it looks is kept with the account', async () => {
  const asked = answering({ ...ALL, changeTheme: { done: true }, whoAmI: null });
  const { user } = show(<TopLine />, { role: 'viewer' });
  await user.click(await screen.findByRole('button', { name: 'viewer' }));
  await user.click(await screen.findByRole('menuitem', { name: 'Dark theme' }));
  expect(document.documentElement.dataset['theme']).toBe('dark');
  await waitFor(() => expect(asked.find(({ name }) => name === 'changeTheme')?.body).toEqual({ theme: 'dark' }));
});

test('on a short line jobs and drives are one status with a count, which opens a panel with both', async () => {
  answering(ALL);
  const { user } = show(<TopLine />);
  await user.click(await screen.findByRole('button', { name: 'Status: 0 drives' }));
  const panel = await screen.findByRole('dialog', { name: 'Status' });
  expect(panel.textContent).toContain('0 drives attached · 0 away');
  expect(within(panel).getByRole('link', { name: 'Intake' })).toBeTruthy();
});
