/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import { answering, Refused, show } from '../testing/render';
import { SignInScreen } from './SignInScreen';

const ARCHIVE = { kind: 'archive', accounts: [] };
const DEMO = { kind: 'demo', accounts: [{ name: 'keeper', password: 'saltmarsh-keeper', role: 'keeper' }] };

test('name and password are needed; a wrong one is said, and both stay', async () => {
  const asked = answering({
    installation: ARCHIVE,
    signIn: new Refused(401, 'wrongPassword', 'This name and password do not belong together.'),
  });
  const { user } = show(<SignInScreen />);
  await user.click(screen.getByRole('button', { name: 'Sign in' }));
  expect(await screen.findAllByText('This is needed.')).toHaveLength(2);
  expect(asked.some(({ name }) => name === 'signIn')).toBe(false);
  await user.type(screen.getByLabelText('Name'), 'ida');
  await user.type(screen.getByLabelText('Password'), 'kites{Enter}');
  expect((await screen.findByRole('alert')).textContent).toContain('do not belong together');
  expect(screen.getByLabelText<HTMLInputElement>('Name').value).toBe('ida');
  expect(asked.find(({ name }) => name === 'signIn')?.body).toEqual({ name: 'ida', password: 'kites' });
});

test('who has a second factor is asked for its code, and name and password stay', async () => {
  const asked = answering({
    installation: ARCHIVE,
    signIn: ({ body }: { body: unknown }) =>
      (body as { code?: string }).code === undefined
        ? new Refused(401, 'secondFactorNeeded', 'Type the code that your app shows, or one of your recovery codes.')
        : new Refused(401, 'secondFactorWrong', 'This code is not good (any more). Look at your app again.'),
  });
  const { user } = show(<SignInScreen />);
  await user.type(screen.getByLabelText('Name'), 'ida');
  await user.type(screen.getByLabelText('Password'), 'kites{Enter}');
  await user.type(await screen.findByLabelText(/^Code of your app/), '123456{Enter}');
  expect((await screen.findByText(/This code is not good/)).textContent).toBeTruthy();
  expect(asked.filter(({ name }) => name === 'signIn').at(-1)?.body).toEqual({
    name: 'ida',
    password: 'kites',
    code: '123456',
  });
});

test('only the demo tells its passwords; an archive says what to do about a lost one', async () => {
  answering({ installation: DEMO });
  const demo = show(<SignInScreen />);
  expect(await screen.findByText('saltmarsh-keeper')).toBeTruthy();
  demo.unmount();
  answering({ installation: ARCHIVE });
  show(<SignInScreen />);
  await waitFor(() => expect(screen.getByText(/Password lost/)).toBeTruthy());
  expect(screen.queryByText('saltmarsh-keeper')).toBeNull();
});
