/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import { answering, Refused, show } from '../testing/render';
import { WelcomeScreen } from './WelcomeScreen';

const PERSON = {
  id: 3,
  name: 'tove',
  displayName: 'Tove Lind',
  role: 'Viewer',
  permissions: ['see'],
  everywhere: ['see'],
  rights: '1',
  seesAll: false,
};

beforeEach(() => {
  window.location.hash = '#secret';
});

test('the password is typed twice, and with it one is signed in', async () => {
  const asked = answering({
    showInvitation: { name: 'tove', displayName: 'Tove Lind' },
    acceptInvitation: { name: 'tove' },
    signIn: PERSON,
  });
  const { user } = show(<WelcomeScreen />);
  await user.type(await screen.findByLabelText('Password'), 'nine lines out');
  await user.type(screen.getByLabelText('Password again'), 'nine lines in{Enter}');
  expect(await screen.findByText('The two are not the same.')).toBeTruthy();
  await user.clear(screen.getByLabelText('Password again'));
  await user.type(screen.getByLabelText('Password again'), 'nine lines out{Enter}');
  await waitFor(() => expect(asked.some(({ name }) => name === 'signIn')).toBe(true));
  expect(asked.find(({ name }) => name === 'acceptInvitation')?.body).toEqual({
    token: 'secret',
    password: 'nine lines out',
  });
  expect(asked.find(({ name }) => name === 'signIn')?.body).toEqual({ name: 'tove', password: 'nine lines out' });
});

test('a password that is refused stays in its box, with the reason; a link that is used up says so', async () => {
  answering({
    showInvitation: { name: 'tove', displayName: 'Tove Lind' },
    acceptInvitation: new Refused(400, 'passwordRefused', 'This password can’t be used: many people use it.'),
  });
  const { user, unmount } = show(<WelcomeScreen />);
  await user.type(await screen.findByLabelText('Password'), 'password123');
  await user.type(screen.getByLabelText('Password again'), 'password123{Enter}');
  expect((await screen.findByRole('alert')).textContent).toContain('many people use it');
  expect(screen.getByLabelText<HTMLInputElement>('Password').value).toBe('password123');
  unmount();
  answering({ showInvitation: new Refused(410, 'linkUsedUp', 'This link is not good any more.') });
  show(<WelcomeScreen />);
  expect((await screen.findByRole('alert')).textContent).toContain('not good any more');
});
