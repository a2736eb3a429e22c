/** @jest-environment ./web/testing/browser.cjs */
// Folders: choosing one, making one, giving it another name.

import { screen, waitFor, within } from '@testing-library/react';
import { DONE, driveOf, FOLDERS, VAULT } from '../testing/fixtures';
import { answering, changesIn, Refused, show } from '../testing/render';
import { FolderMenu } from './FolderMenu';
import { FolderPicker, type Place } from './FolderPicker';

const scanned = { looked: 0, waiting: 0, faces: 0, vectors: 0, exceptions: [] };
const FESTIVAL = FOLDERS[2]!;
const FIELD = '0b9f4c2e-5d3a-4f6b-8c1d-2e3f4a5b6c7d';
const NOTHING_LEFT_OUT = { away: 0, missing: 0, readOnly: 0, busy: 0, taken: 0, examples: [], problem: null };

function menu(apply: unknown = DONE, folder = FESTIVAL) {
  const asked = answering({
    ...{ apply, scanState: scanned, setException: { done: true }, setPinned: { done: true } },
    listPinned: { pinned: [{ kind: 'search', id: 9 }] },
    listDrives: { drives: [driveOf(), driveOf({ key: FIELD, id: FIELD, label: 'Field' })], scanning: false },
    listFolders: { folders: [...FOLDERS, { ...FESTIVAL, id: 9, driveId: FIELD, parentId: null, name: '', path: '' }] },
    showFolder: { photos: 4, folders: 0, others: 2 },
    planFiling: { ...NOTHING_LEFT_OUT, photos: 4, bytes: 4000 },
  });
  const renamed: string[] = [];
  const view = show(
    <FolderMenu
      folder={folder}
      shown={`Vault 1/${folder.path}`}
      mountPoint="/media/vault"
      mayChange
      onRenamed={(shown) => renamed.push(shown)}
    />,
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

test('a folder goes into another one of its drive as it is; made one or copied, its photos do', async () => {
  const { user, open, changes } = menu();
  await open('Move, copy or make one with another …');
  const dialog = within(await screen.findByRole('dialog'));
  await user.click(await dialog.findByRole('radio', { name: 'Vault 1' }));
  expect(dialog.getByText(/^All that is in it goes along/)).toBeTruthy();
  await user.click(dialog.getByRole('radio', { name: /^Make it one with/ }));
  expect(await dialog.findByText(/^Only what the catalogue knows goes/)).toBeTruthy();
  await user.click(dialog.getByRole('radio', { name: /^Move it into/ }));
  await user.click(dialog.getByRole('button', { name: 'Move' }));
  await waitFor(() => expect(changes()).toEqual([{ kind: 'moveFolder', folderId: 3, parent: '' }]));
});

test('onto another drive its photos go, with the folders below it; into itself it can’t go', async () => {
  const { user, open, changes } = menu();
  await open('Move, copy or make one with another …');
  const dialog = within(await screen.findByRole('dialog'));
  await user.click(await dialog.findByRole('radio', { name: 'Vault 1/2019/Festival' }));
  expect(dialog.getByRole('alert').textContent).toContain('into itself');
  await user.click(dialog.getByRole('radio', { name: 'Field' }));
  await user.click(dialog.getByRole('radio', { name: /^Copy it into/ }));
  await waitFor(() => expect(dialog.getByRole<HTMLButtonElement>('button', { name: 'Copy' }).disabled).toBe(false));
  await user.click(dialog.getByRole('button', { name: 'Copy' }));
  await waitFor(() =>
    expect(changes()).toEqual([
      {
        ...{ kind: 'copyFiles', driveId: FIELD, folder: 'Festival', keepBelow: '2019/Festival' },
        selection: { query: 'within:"Vault 1/2019/Festival"', minus: [], plus: [] },
      },
    ]),
  );
});

test('what is in a folder is told before it is trashed; an empty one is deleted', async () => {
  const { user, open, changes } = menu();
  await open('Trash all that is in it …');
  expect(await screen.findByText(/^2 files that the catalogue does not know stay where they are/)).toBeTruthy();
  await user.click(await screen.findByRole('button', { name: 'Trash 4 photos' }));
  await waitFor(() =>
    expect(changes()).toMatchObject([{ kind: 'trashFiles', selection: { query: 'within:"Vault 1/2019/Festival"' } }]),
  );
});

test('an empty folder is deleted', async () => {
  const { open, changes } = menu(DONE, { ...FESTIVAL, photos: 0, photosWithin: 0 });
  await open('Delete the empty folder');
  await waitFor(() => expect(changes()).toEqual([{ kind: 'removeFolder', folderId: 3 }]));
});

test('a folder is kept on top behind what is there, and has a colour and a note', async () => {
  const { user, open, asked, changes } = menu();
  await open('Keep it on top');
  await waitFor(() =>
    expect(asked.find(({ name }) => name === 'setPinned')?.body).toEqual({
      pinned: [
        { kind: 'search', id: 9 },
        { kind: 'folder', id: 3 },
      ],
    }),
  );
  await open('Colour and note …');
  await user.click(await screen.findByRole('radio', { name: 'teal' }));
  await user.type(screen.getByLabelText('Note'), 'Scanned twice');
  await user.click(screen.getByRole('button', { name: 'Keep' }));
  await waitFor(() =>
    expect(changes()).toEqual([{ kind: 'describeFolder', folderId: 3, colour: 'teal', note: 'Scanned twice' }]),
  );
});
