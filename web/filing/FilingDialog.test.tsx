/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import type { FilingAction } from '@stellin/contract/filing';
import { DONE, driveOf, FOLDERS, planOf, VAULT } from '../testing/fixtures';
import { answering, changesIn, Refused, show, type Answers } from '../testing/render';
import { FilingDialog } from './FilingDialog';

const selection = { query: null, minus: [], plus: [1, 2] };
const ANSWERS = { listDrives: { drives: [driveOf()] }, listFolders: { folders: FOLDERS }, apply: DONE };

function dialog(action: FilingAction, answers: Answers, place?: { driveId: string; folder: string }) {
  const asked = answering({ ...ANSWERS, ...answers });
  const done: string[] = [];
  const view = show(
    <FilingDialog
      action={action}
      selection={selection}
      {...(place ? { place } : {})}
      onClose={() => done.push('closed')}
      onDone={() => done.push('done')}
    />,
  );
  return { ...view, asked, done };
}

test('photos go into a folder that is found by typing, or a new one in it', async () => {
  const { user, asked, done } = dialog('move', { planFiling: planOf() });
  const verb = () => screen.getByRole<HTMLButtonElement>('button', { name: /^Move/ });
  expect(verb().disabled).toBe(true);
  await user.type(await screen.findByLabelText('Find a folder'), 'fest');
  expect(screen.getAllByRole('radio')).toHaveLength(1);
  await user.click(screen.getByText('Vault 1/2019/Festival'));
  await user.type(screen.getByPlaceholderText('optional'), 'Night');
  await waitFor(() => expect(verb().textContent).toContain('2 photos'));
  await user.click(verb());
  await waitFor(() => expect(done).toEqual(['done']));
  expect(changesIn(asked)).toEqual([
    { kind: 'moveFiles', selection, driveId: VAULT, folder: '2019/Festival/Night', keepBelow: null },
  ]);
});

test('where the place is said already Enter confirms', async () => {
  const { user, asked } = dialog('move', { planFiling: planOf() }, { driveId: VAULT, folder: '2019' });
  expect(await screen.findByText('Vault 1 › 2019')).toBeTruthy();
  expect(screen.queryByLabelText('Find a folder')).toBeNull();
  await waitFor(() => expect(document.activeElement?.textContent).toContain('Move 2 photos'));
  await user.keyboard('{Enter}');
  await waitFor(() => expect(changesIn(asked)).toHaveLength(1));
});

test('what is left out is said, and what can’t be done is refused before it is sent', async () => {
  const first = dialog('trash', { planFiling: planOf({ away: 3, readOnly: 1 }) });
  const said = (await screen.findAllByRole('listitem')).map(({ textContent }) => textContent).join('; ');
  expect(said).toMatch(/3 .*away/);
  expect(said).toMatch(/1 .*written to/);
  first.unmount();
  dialog(
    'copy',
    { planFiling: planOf({ photos: 0, problem: 'There is no room on Vault 1.' }) },
    {
      driveId: VAULT,
      folder: '',
    },
  );
  expect((await screen.findByRole('alert')).textContent).toContain('There is no room on Vault 1.');
  expect(screen.getByRole<HTMLButtonElement>('button', { name: /^Copy/ }).disabled).toBe(true);
});

test('new names are shown before and after; a server that refuses leaves the dialog with what was typed', async () => {
  const examples = [{ photoId: 1, before: 'SKM_1.jpg', after: 'kite-1.jpg', taken: false }];
  const { user, asked, done } = dialog('rename', {
    planFiling: planOf({ examples }),
    apply: new Refused(409, 'filesOnTheWay', 'The files are still on the way.'),
  });
  const pattern = screen.getByLabelText<HTMLInputElement>(/^New names?|^Name|^Pattern/);
  await user.clear(pattern);
  await user.type(pattern, 'kite-{{number}');
  expect(await screen.findByText('kite-1.jpg')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: /^Rename 2 photos/ }));
  await waitFor(() => expect(changesIn(asked)).toHaveLength(1));
  expect(changesIn(asked)[0]).toMatchObject({ kind: 'renameFiles', pattern: 'kite-{number}' });
  expect([done, pattern.value]).toEqual([[], 'kite-{number}']);
});
