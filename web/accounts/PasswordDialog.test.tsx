/** @jest-environment ./web/testing/browser.cjs */
import { screen } from '@testing-library/react';
import { answering, Refused, show, type Asked } from '../testing/render';
import { PasswordDialog } from './PasswordDialog';

const box = (label: string) => screen.getByLabelText<HTMLInputElement>(label);
const action = () => screen.getByRole<HTMLButtonElement>('button', { name: 'Change the password' });

test('what is wrong is said beside its box, once it has been typed', async () => {
  const asked = answering({});
  const { user } = show(<PasswordDialog onClose={() => undefined} />);
  await user.type(box('New password'), 'short');
  expect(screen.queryByText('It needs 10 characters at least.')).toBeNull();
  await user.tab();
  expect(await screen.findByText('It needs 10 characters at least.')).toBeTruthy();
  expect(box('New password').getAttribute('aria-invalid')).toBe('true');
  await user.type(box('New password'), ' and then longer');
  await user.type(box('New password again'), 'another');
  await user.tab();
  expect(await screen.findByText('The two are not the same.')).toBeTruthy();
  await user.click(action());
  expect(asked).toEqual([]);
});

test('nothing that was typed is lost when the present password is another one', async () => {
  const asked = answering({
    changePassword: new Refused(409, 'presentPasswordWrong', 'Your present password is another one.'),
  });
  const { user } = show(<PasswordDialog onClose={() => undefined} />);
  await user.type(box('Present password'), 'not this one');
  await user.type(box('New password'), 'kites over the sands');
  await user.type(box('New password again'), 'kites over the sands');
  await user.click(action());
  expect((await screen.findByRole('alert')).textContent).toBe('Your present password is another one.');
  expect(box('New password').value).toBe('kites over the sands');
  expect(asked.map(({ name, body }: Asked) => [name, body])).toEqual([
    ['changePassword', { present: 'not this one', password: 'kites over the sands' }],
  ]);
});
