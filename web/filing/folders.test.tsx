/** @jest-environment ./web/testing/browser.cjs */
// Folders: choosing one, making one, giving it another name.

import { screen, waitFor } from '@testing-library/react';
import { DONE, driveOf, FOLDERS, VAULT } from '../testing/fixtures';
import { answering, changesIn, Refused, show } from '../testing/render';
import { FolderMenu } from './FolderMenu';
import { FolderPicker, type Place } from './FolderPicker';

const scanned = { looked: 0, waiting: 0, faces: 0, vectors: 0, exceptions: [] };
const FESTIVAL = FOLDERS[2]!;

function menu(apply: unknown = DONE, folder = FESTIVAL) {
  const asked = answering({ apply, scanState: scanned, setException: { done: true } });
  const renamed: string[] = [];
  const view = show(
    <FolderMenu folder={folder} shown={`Vault 1/${folder.path}`} onRenamed={(shown) => renamed.push(shown)} />,
  );
  const open = async (item: string) => {
    await view.user.click(screen.getByRole('button', { name: /^Change the folder/ }));
    await view.user.click(await screen.findByRole('menuitem', { name: item }));
  };
  return { ...view, asked, open, renamed, changes: () => changesIn(asked) };
}

test('a folder is made below the chosen one', async () => {
  const { user, open, changes } = menu();
  await open('New folder …');
  await user.type(await screen.findByLabelText('Name'), 'Proofs{Enter}');
  await waitFor(() =>
    expect(changes()).toEqual([{ kind: 'makeFolder', driveId: VAULT, parent: '2019/Festival', name: 'Proofs' }]),
  );
  await waitFor(() => expect(screen.queryByRole('dialog')).toBeNull());
});

test('a name that no folder can have is refused in words before anything is sent', async () => {
  const { user, open, changes } = menu();
  await open('New folder …');
  await user.type(await screen.findByLabelText('Name'), 'a/b{Enter}');
  expect(await screen.findByText(/^That can’t be used:/)).toBeTruthy();
  expect(changes()).toEqual([]);
});

test('a folder gets another name, and one is told where it is now', async () => {
  const { user, open, changes, renamed } = menu();
  await open('Rename …');
  const name = await screen.findByLabelText('Name');
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Rename' }).disabled).toBe(true);
  await user.clear(name);
  await user.type(name, 'Kite festival{Enter}');
  await waitFor(() => expect(renamed).toEqual(['Vault 1/2019/Kite festival']));
  expect(changes()).toEqual([{ kind: 'renameFolder', folderId: 3, name: 'Kite festival' }]);
});

test('what the server refuses stays open with the name that was typed', async () => {
  const { user, open, changes } = menu(new Refused(409, 'folderExists', 'There is such a folder already.'));
  await open('New folder …');
  await user.type(await screen.findByLabelText('Name'), 'Proofs{Enter}');
  await waitFor(() => expect(changes()).toHaveLength(1));
  expect(screen.getByLabelText<HTMLInputElement>('Name').value).toBe('Proofs');
});

test('the drive itself has no other name here', async () => {
  const { user } = menu(DONE, FOLDERS[0]);
  await user.click(screen.getByRole('button', { name: /^Change the folder/ }));
  await screen.findByRole('menuitem', { name: 'New folder …' });
  expect(screen.queryByRole('menuitem', { name: 'Rename …' })).toBeNull();
});

function picker(props: { readOnlyToo?: boolean } = {}) {
  answering({
    listDrives: { drives: [driveOf(), driveOf({ id: OTHER, key: OTHER, label: 'Old disc', readOnly: true })] },
    listFolders: { folders: [...FOLDERS, { ...FOLDERS[0]!, id: 9, driveId: OTHER }] },
  });
  const chosen: (Place | undefined)[] = [];
  return { ...show(<FolderPicker {...props} onChoose={(place) => chosen.push(place)} />), chosen };
}
const OTHER = '6f1c1f2e-0c53-4a8e-9c55-2f7f1b1d0a02';

test('a folder is found by words of its path, and a new one may be made in it', async () => {
  const { user, chosen } = picker();
  await user.type(screen.getByLabelText('Find a folder'), 'fest');
  await user.click(await screen.findByRole('radio', { name: 'Vault 1/2019/Festival' }));
  expect(screen.queryByRole('radio', { name: 'Vault 1' })).toBeNull();
  await user.type(screen.getByLabelText('In a new folder there'), 'Prints/Large');
  expect(chosen.at(-1)).toEqual({ driveId: VAULT, folder: '2019/Festival/Prints/Large' });
  await user.type(screen.getByLabelText('In a new folder there'), '/..');
  expect(screen.getByText(/^That can’t be used:/)).toBeTruthy();
  expect(chosen.at(-1)).toBeUndefined();
});

test('drives that can’t be written to are offered only where nothing is written', async () => {
  const first = picker();
  await screen.findByRole('radio', { name: 'Vault 1' });
  expect(screen.queryByRole('radio', { name: 'Old disc' })).toBeNull();
  first.unmount();
  const { user, chosen } = picker({ readOnlyToo: true });
  await user.click(await screen.findByRole('radio', { name: 'Old disc' }));
  expect(chosen).toEqual([{ driveId: OTHER, folder: '' }]);
  expect(screen.queryByLabelText('In a new folder there')).toBeNull();
});
