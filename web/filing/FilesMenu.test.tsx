/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import { JOB } from '../testing/fixtures';
import { answering, show } from '../testing/render';
import { SelectionProvider } from '../photos/selection';
import { FilesMenu } from './FilesMenu';

const selection = { query: 'search:"No caption"', minus: [], plus: [4] };
const menu = (
  <SelectionProvider>
    <FilesMenu selection={selection} bundled={undefined} query="" />
  </SelectionProvider>
);

test('just the chosen photos are written back; who may not write is not offered it', async () => {
  const asked = answering({ run: JOB });
  const { user, unmount } = show(menu);
  await user.click(screen.getByRole('button', { name: 'Files' }));
  await user.click(await screen.findByRole('menuitem', { name: 'Write them back now' }));
  await waitFor(() =>
    expect(asked.map(({ name, body }) => [name, body])).toContainEqual(['run', { selection, retryFailed: true }]),
  );
  unmount();
  show(menu, { role: 'viewer' });
  await user.click(screen.getByRole('button', { name: 'Files' }));
  expect(await screen.findByRole('menuitem', { name: /^Open bundles/ })).toBeTruthy();
  expect(screen.queryByRole('menuitem', { name: 'Write them back now' })).toBeNull();
});
