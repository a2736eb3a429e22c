/** @jest-environment ./web/testing/browser.cjs */
import { screen, waitFor } from '@testing-library/react';
import { answering, choose, Refused, show } from '../testing/render';
import { AccountScreen } from './AccountScreen';
import { deviceText } from './deviceText';

const FIREFOX = 'Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0';
const session = (n: number, device: string, isThis = false) => ({
  id: `0b9f4c2e-5d3a-4f6b-8c1d-2e3f4a5b6c7${n}`,
  device,
  since: '2030-01-01T10:00:00Z',
  lastUsed: '2030-01-01T11:00:00Z',
  isThis,
});

test('one’s own name is changed, and a session on another machine ended', async () => {
  const asked = answering({
    listSessions: { sessions: [session(1, FIREFOX, true), session(2, 'Loom/3')] },
    listTokens: { tokens: [] },
    showSecondFactor: { on: false, recoveryCodes: 0 },
    changeOwnName: { done: true },
    endSession: { done: true },
  });
  const { user } = show(<AccountScreen />);
  expect(await screen.findByRole('row', { name: /Firefox on Linux \(this one\)/ })).toBeTruthy();
  expect(screen.getAllByRole('button', { name: /^End the session/ })).toHaveLength(1);
  await user.click(screen.getByRole('button', { name: 'End the session on Loom/3' }));
  await waitFor(() =>
    expect(asked.find(({ name }) => name === 'endSession')?.params).toEqual({ id: session(2, '').id }),
  );
  const name = screen.getByLabelText('Your name, as others see it');
  await user.clear(name);
  await user.type(name, 'Mara Olt{Enter}');
  await waitFor(() =>
    expect(asked.find((request) => request.name === 'changeOwnName')?.body).toEqual({ displayName: 'Mara Olt' }),
  );
});

test('the language one reads in is chosen by its name, and none again', async () => {
  const asked = answering({
    listSessions: { sessions: [] },
    listTokens: { tokens: [] },
    showSecondFactor: { on: false, recoveryCodes: 0 },
    changeLanguage: { done: true },
  });
  const { user } = show(<AccountScreen />, { language: 'gsw-CH' });
  const choice = screen.getByLabelText('Texts and terms in');
  expect(choice.textContent).toBe('Swiss German (Switzerland)');
  await choose(user, choice, 'German');
  await choose(user, choice, 'the language they are kept in');
  await waitFor(() =>
    expect(asked.flatMap(({ name, body }) => (name === 'changeLanguage' ? [body] : []))).toEqual([
      { language: 'de' },
      { language: null },
    ]),
  );
});

test('a token is made for some of what one may, shown once, and revoked', async () => {
  const TOKEN = {
    id: 4,
    name: 'Weekly list',
    permissions: ['see', 'describe'],
    createdAt: '2030-01-01T10:00:00Z',
    expiresAt: '2031-01-01T10:00:00Z',
    lastUsedAt: null,
  };
  const asked = answering({
    listSessions: { sessions: [] },
    listTokens: { tokens: [TOKEN] },
    showSecondFactor: { on: false, recoveryCodes: 0 },
    makeToken: { id: 5, token: 'stellin_abc' },
    revokeToken: { done: true },
  });
  const { user } = show(<AccountScreen />, { role: 'cataloguer' });
  expect(await screen.findByRole('row', { name: /^Weekly list See, Describe/ })).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'New token …' }));
  await user.type(screen.getByLabelText('What it is for'), 'Ratings');
  // Nobody gives what they have not.
  expect(screen.queryByRole('checkbox', { name: 'Administer' })).toBeNull();
  await user.click(screen.getByRole('checkbox', { name: 'Describe' }));
  await choose(user, screen.getByLabelText('It is good for'), 'a week');
  await user.click(screen.getByRole('button', { name: 'Make the token' }));
  expect((await screen.findByRole<HTMLInputElement>('textbox', { name: 'Token' })).value).toBe('stellin_abc');
  expect(asked.find(({ name }) => name === 'makeToken')?.body).toEqual({
    name: 'Ratings',
    permissions: ['see', 'describe'],
    days: 7,
  });
  await user.click(screen.getByRole('button', { name: 'Done' }));
  await user.click(screen.getByRole('button', { name: 'Revoke Weekly list' }));
  await waitFor(() => expect(asked.find(({ name }) => name === 'revokeToken')?.params).toEqual({ id: 4 }));
});

test('a second factor is set up with a code of the app, and taken off with the password', async () => {
  let on = false;
  let refuses = true;
  const asked = answering({
    listSessions: { sessions: [] },
    listTokens: { tokens: [] },
    showSecondFactor: () => ({ on, recoveryCodes: on ? 2 : 0 }),
    proposeSecondFactor: { secret: 'JBSWY3DPEHPK3PXP', uri: 'otpauth://totp/Stellin:mara?secret=JBSWY3DPEHPK3PXP' },
    confirmSecondFactor: () => {
      if (refuses) return new Refused(401, 'secondFactorWrong', 'This code is not good (any more).');
      on = true;
      return { recoveryCodes: ['abcdefghjkmn', 'pqrstuvwxyz2'] };
    },
    removeSecondFactor: () => {
      on = false;
      return { done: true };
    },
  });
  const { user } = show(<AccountScreen />);
  await user.click(await screen.findByRole('button', { name: 'Set it up …' }));
  expect((await screen.findByLabelText<HTMLInputElement>('Or type this into the app')).value).toBe('JBSWY3DPEHPK3PXP');
  await user.type(screen.getByLabelText('Code of the app'), '000000{Enter}');
  expect((await screen.findByRole('alert')).textContent).toContain('not good');
  refuses = false;
  await user.clear(screen.getByLabelText('Code of the app'));
  await user.type(screen.getByLabelText('Code of the app'), '123456{Enter}');
  expect(await screen.findByText('pqrstuvwxyz2')).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'I have noted them' }));
  expect(await screen.findByText(/2 recovery codes left/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Take it off …' }));
  await user.type(screen.getByLabelText('Your password'), 'kites{Enter}');
  await waitFor(() =>
    expect(asked.find(({ name }) => name === 'removeSecondFactor')?.body).toEqual({ password: 'kites' }),
  );
  expect(await screen.findByRole('button', { name: 'Set it up …' })).toBeTruthy();
});

test.each([
  [FIREFOX, 'Firefox on Linux'],
  [
    'Mozilla/5.0 (Windows NT 10.0) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/140.0 Safari/537.36 Edg/140.0',
    'Edge on Windows',
  ],
  ['Mozilla/5.0 (iPhone; CPU iPhone OS 19_0 like Mac OS X) AppleWebKit/605 Version/19.0 Safari/604.1', 'Safari on iOS'],
  [
    'Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 HeadlessChrome/140.0 Safari/537.36',
    'Chrome or Chromium on Linux',
  ],
  ['', 'a program that does not say its name'],
])('%s is %s', (userAgent, text) => {
  expect(deviceText(userAgent)).toBe(text);
});
