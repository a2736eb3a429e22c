/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import type { Person } from '@stellin/contract/people';
import { answering, changesIn, Refused, show } from '../testing/render';
import { PersonForm } from './PersonForm';

const IDA: Person = {
  id: 7,
  name: 'Ida Brandt',
  otherNames: ['I. Brandt'],
  note: '',
  born: '',
  died: '',
  private: false,
  detailed: true,
  termId: 5,
  termLabel: 'Founders',
  photos: 12,
  faces: 9,
  coverFace: null,
};
const entry = { id: 1, at: '', by: '', title: 'Done', photos: 1, state: 'done', objectId: 7 };

test('what is known of a person is changed in one step', async () => {
  const asked = answering({ apply: { entry, job: null } });
  const closed = jest.fn();
  const { user } = show(<PersonForm person={IDA} onClose={closed} />);
  await user.type(screen.getByLabelText('Other names, one a line'), '{Enter}  Ida of the kites {Enter}');
  await user.type(screen.getByLabelText('Born'), '1932~');
  await user.click(screen.getByRole('button', { name: 'None' }));
  await user.click(screen.getByRole('button', { name: 'Save' }));
  await waitFor(() => expect(closed).toHaveBeenCalled());
  expect(changesIn(asked)).toEqual([
    {
      kind: 'savePerson',
      personId: 7,
      name: 'Ida Brandt',
      otherNames: ['I. Brandt', 'Ida of the kites'],
      note: '',
      born: '1932~',
      died: '',
      private: false,
      detailed: true,
      termId: null,
    },
  ]);
});

test('whoever becomes private goes out of files, and their details with them; that is said before', async () => {
  const asked = answering({ apply: { entry, job: null } });
  const { user } = show(<PersonForm person={IDA} onClose={() => undefined} />);
  await user.click(screen.getByLabelText(/^Private/));
  expect(screen.getByText(/The name goes out of what 12 photos say/)).toBeTruthy();
  expect(screen.getByLabelText<HTMLButtonElement>(/^Files also say who this is/).disabled).toBe(true);
  await user.click(screen.getByRole('button', { name: 'Save' }));
  await waitFor(() => expect(changesIn(asked)).toMatchObject([{ private: true, detailed: false }]));
});

test('a name is needed; what the server refuses leaves the form as it was typed', async () => {
  const asked = answering({ apply: new Refused(409, 'personExists', 'There is a person “Tomas Rehak” already.') });
  const closed = jest.fn();
  const { user } = show(<PersonForm person={IDA} onClose={closed} />);
  const name = screen.getByLabelText<HTMLInputElement>('Name');
  await user.clear(name);
  await user.click(screen.getByRole('button', { name: 'Save' }));
  expect(await screen.findByText('This is needed.')).toBeTruthy();
  expect([changesIn(asked), document.activeElement === name]).toEqual([[], true]);
  await user.type(name, 'Tomas Rehak{Enter}');
  await waitFor(() => expect(changesIn(asked)).toHaveLength(1));
  expect([name.value, closed.mock.calls]).toEqual(['Tomas Rehak', []]);
});
