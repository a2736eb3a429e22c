// Signing in, and what to do when that is not possible.

import { accountRoutes } from '@stellin/contract/accounts';
import { useState } from 'react';
import { ApiError } from '../foundation/api';
import { useInstallation } from '../foundation/installation';
import { useSignIn } from '../foundation/session';
import { Button } from '../parts/Button';
import { TextField } from '../parts/Field';
import { Mark } from '../parts/Mark';
import { useFormOf } from '../parts/useFormOf';

export function SignInScreen() {
  const signIn = useSignIn();
  const { register, handleSubmit, formState } = useFormOf(accountRoutes.signIn.body, { name: '', password: '' });
  // Asked for once name and password are right; then it stays.
  const code = signIn.error instanceof ApiError && signIn.error.code.startsWith('secondFactor');
  const [needsCode, setNeedsCode] = useState(false);
  if (code && !needsCode) setNeedsCode(true);
  return (
    <main className="flex h-full items-center justify-center bg-ground">
      <form
        onSubmit={handleSubmit((given) => signIn.mutate(given))}
        className="w-90 rounded-lg border border-line bg-card p-7 shadow-sm"
      >
        <h1 className="mb-1 flex items-center gap-2 font-title text-[22px] font-semibold">
          <Mark /> Stellin
        </h1>
        <p className="mb-5 text-ink-2">Sign in to your picture archive.</p>
        <TextField
          label="Name"
          className="mb-3"
          autoComplete="username"
          autoFocus
          error={formState.errors.name?.message}
          {...register('name')}
        />
        <TextField
          label="Password"
          className="mb-4"
          type="password"
          autoComplete="current-password"
          error={formState.errors.password?.message}
          {...register('password')}
        />
        {needsCode && (
          <TextField
            label="Code of your app, or a recovery code"
            className="mb-4"
            autoComplete="one-time-code"
            autoFocus
            {...register('code')}
          />
        )}
        {signIn.error && (
          <p role="alert" className="mb-4 rounded bg-red-pale px-3 py-2 text-red">
            {signIn.error.message}
          </p>
        )}
        <Button type="submit" look="primary" className="w-full justify-center" disabled={signIn.isPending}>
          Sign in
        </Button>
        <Help />
      </form>
    </main>
  );
}

/** In the demo who may sign in; elsewhere what to do about a lost password. */
function Help() {
  const { data } = useInstallation();
  if (!data) return null;
  return (
    <div className="mt-5 border-t border-line pt-4 text-[12px] text-ink-2">
      {data.kind === 'demo' ? (
        <>
          <p className="mb-1.5">This is the demo. Everybody may sign in as</p>
          <ul className="space-y-0.5 font-mono">
            {data.accounts.map(({ name, password }) => (
              <li key={name} className="flex justify-between">
                <b>{name}</b>
                {password}
              </li>
            ))}
          </ul>
        </>
      ) : (
        <p>
          Password lost? A keeper gives you a link with which you choose another one. Whoever looks after the machine
          sets one there: <code className="font-mono whitespace-nowrap text-ink">./stellin account password NAME</code>
        </p>
      )}
    </div>
  );
}
