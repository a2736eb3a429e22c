/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import { IMPORT_KINDS } from '@stellin/core/vocabulary/importKinds';
import { FINDING_KINDS } from '@stellin/core/vocabulary/lint';
import { DONE } from '../testing/fixtures';
import { answering, changesIn, choose, Refused, show, type Answers, type Asked } from '../testing/render';
import { ImportDialog } from './ImportDialog';

const IMPORT = '6f1c1f2e-0c53-4a8e-9c55-2f7f1b1d0a09';
const read = {
  importId: IMPORT,
  format: 'indented',
  name: 'Boatyard',
  terms: 3,
  problems: [{ at: 'Line 2', message: 'a tab too many' }],
  problemCount: 1,
};
const row = (key: string, kind: string, label: string) => ({
  key,
  kind,
  label,
  path: ['Boats', label],
  termId: null,
  what: kind === 'changed' ? ['its scope note'] : [],
});
const rows = [row('a', 'new', 'Sloop'), row('b', 'doubtful', 'Barge'), row('c', 'gone', 'Punt')];

function dialog(answers: Answers = {}) {
  const asked = answering({
    listVocabularies: {
      vocabularies: [
        {
          id: 1,
          name: 'Museum thesaurus',
          language: 'en',
          uri: 'urn:museum',
          note: '',
          byHand: false,
          terms: 120,
          levels: 5,
        },
      ],
      findings: Object.fromEntries(FINDING_KINDS.map((kind) => [kind, 0])),
      proposals: 0,
    },
    readImport: read,
    compareImport: ({ query }: Asked) => ({
      counts: { ...Object.fromEntries(IMPORT_KINDS.map((kind) => [kind, 0])), new: 1, doubtful: 1, gone: 1 },
      rows: rows.filter(({ kind }) => [undefined, kind].includes((query as { kind?: string }).kind)),
    }),
    apply: DONE,
    ...answers,
  });
  let closed = 0;
  const view = show(<ImportDialog onClose={() => closed++} />);
  const paste = async () => {
    await view.user.click(screen.getByLabelText('Or paste it here'));
    await view.user.paste('Boats\n\t\tSloop');
    await view.user.click(screen.getByRole('button', { name: 'Read it' }));
  };
  return { ...view, asked, paste, changes: () => changesIn(asked), closed: () => closed };
}

test('what is pasted is read in the format chosen, and what had to be mended is listed', async () => {
  const { user, asked, paste } = dialog();
  expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Read it' }).disabled).toBe(true);
  await choose(user, screen.getByLabelText('Format'), 'Indented text');
  await paste();
  expect(await screen.findByText(/1 thing in the file had to be mended/)).toBeTruthy();
  expect(screen.getByText('a tab too many', { exact: false })).toBeTruthy();
  expect(asked.find(({ name }) => name === 'readImport')?.body).toMatchObject({ format: 'indented' });
});

test('a file that is chosen is read under its name', async () => {
  const { user, asked } = dialog();
  const file = new File(['Boats'], 'boatyard.txt', { type: 'text/plain' });
  file.text = () => Promise.resolve('Boats');
  await user.upload(screen.getByLabelText('File of a vocabulary'), file);
  await waitFor(() =>
    expect(asked.find(({ name }) => name === 'readImport')?.body).toMatchObject({ name: 'boatyard.txt' }),
  );
});

test('doubtful ones are said to be the same, others left out, and what is missing deprecated', async () => {
  const { user, paste, changes, closed } = dialog();
  await paste();
  await choose(user, await screen.findByLabelText('Into which vocabulary'), 'Museum thesaurus');
  await user.click(await screen.findByRole('checkbox', { name: 'is the same' }));
  await user.click(screen.getAllByRole('checkbox', { name: 'leave out' })[0]!);
  await choose(user, screen.getByLabelText(/Terms that are not in the file/), 'are deprecated');
  expect(await screen.findByText('is deprecated')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Take in 2 terms' }));
  await waitFor(() => expect(closed()).toBe(1));
  expect(changes()).toEqual([
    { kind: 'importTerms', importId: IMPORT, vocabularyId: 1, gone: 'deprecate', same: ['b'], without: ['a'] },
  ]);
});

test('one kind of rows is shown alone, and all of them again', async () => {
  const { user, paste } = dialog();
  await paste();
  expect(await screen.findByText('Punt')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: /1 new/ }));
  await waitFor(() => expect(screen.queryByText('Punt')).toBeNull());
  await user.click(screen.getByRole('button', { name: /1 new/ }));
  expect(await screen.findByText('Punt')).toBeTruthy();
});

test('a text that can’t be read keeps what was pasted', async () => {
  const { paste } = dialog({ readImport: new Refused(422, 'importRefused', 'No term was found in it.') });
  await paste();
  await waitFor(() => expect(screen.getByRole<HTMLButtonElement>('button', { name: 'Read it' }).disabled).toBe(false));
  expect(screen.getByLabelText<HTMLTextAreaElement>('Or paste it here').value).toContain('Sloop');
});
