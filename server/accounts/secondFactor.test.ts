import { Secret, TOTP } from 'otpauth';
import { openWorld, PASSWORDS, type World } from '../testing/world';

let world: World;
let secret: string;
let recovery: string[];
beforeEach(async () => {
  world = await openWorld({ working: false });
  const { secondFactor } = world.services;
  ({ secret } = await secondFactor.propose(world.keeperId));
  recovery = await secondFactor.confirm(world.keeperId, secret, codeAt(-1));
});
afterEach(() => world.close());

/** The code that an app shows `steps` steps of its clock from now. */
const codeAt = (steps: number) =>
  new TOTP({ secret: Secret.fromBase32(secret) }).generate({ timestamp: Date.now() + steps * 30_000 });
const signIn = (code?: string) =>
  world.services.accounts.signIn('keeper', PASSWORDS.keeper, code === undefined ? {} : { code });

test('the password alone is not enough any more; a code is good once, within its minute', async () => {
  await expect(signIn()).rejects.toThrow('Type the code that your app shows');
  await expect(signIn('000 000 0')).rejects.toThrow('not good');
  // That it was set up with.
  await expect(signIn(codeAt(-1))).rejects.toThrow('not good');
  const code = codeAt(0);
  await signIn(`${code.slice(0, 3)} ${code.slice(3)}`);
  await expect(signIn(code)).rejects.toThrow('not good');
  await expect(signIn(codeAt(9))).rejects.toThrow('not good');
  // Who does not know the password is not told that there is a second factor.
  await expect(world.services.accounts.signIn('keeper', 'another password', { code })).rejects.toThrow(
    'do not belong together',
  );
});

test('a recovery code signs in once in place of the app; they are kept as hashes', async () => {
  const [first = '', second = ''] = recovery;
  await signIn(first.toUpperCase());
  await expect(signIn(first)).rejects.toThrow('not good');
  expect(await world.services.secondFactor.state(world.keeperId)).toEqual({ on: true, recoveryCodes: 9 });
  const kept = await world.services.database.rows<{ hash: string }>('select code_hash as hash from recovery_code');
  expect(kept.some(({ hash }) => recovery.includes(hash))).toBe(false);
  await signIn(second);
});

test('it is set up with a code that is right, taken off with the password, or by a keeper', async () => {
  const { secondFactor, accounts } = world.services;
  await expect(secondFactor.confirm(world.keeperId, secret, codeAt(0))).rejects.toThrow('has a second factor already');
  await expect(secondFactor.remove(world.keeperId, 'another password')).rejects.toThrow('present password');
  await secondFactor.remove(world.keeperId, PASSWORDS.keeper);
  await signIn();
  const viewer = (await accounts.find('viewer'))?.id ?? 0;
  const { secret: other } = await secondFactor.propose(viewer);
  await expect(secondFactor.confirm(viewer, other, '123')).rejects.toThrow('not good');
  expect(await secondFactor.state(viewer)).toEqual({ on: false, recoveryCodes: 0 });
  await secondFactor.reset(viewer);
});

test('guessing at codes closes the account for a while', async () => {
  for (let n = 0; n < 20; n++) await expect(signIn('111111')).rejects.toThrow('not good');
  await expect(signIn(codeAt(0))).rejects.toThrow('Too many tries');
});
