// Signing in, and what to do when that is not possible.

import { useState, type FormEvent } from 'react';
import { useInstallation } from '../app/installation';
import { useSignIn } from '../app/session';
import { Button } from '../parts/Button';
import { Mark } from '../parts/Mark';

const INPUT = 'border-line bg-card mt-1 block h-9 w-full rounded border px-2.5 text-[14px]';

export function SignInScreen() {
  const [name, setName] = useState('');
  const [password, setPassword] = useState('');
  const signIn = useSignIn();
  const submit = (event: FormEvent) => {
    event.preventDefault();
    signIn.mutate({ name, password });
  };
  return (
    <main className="flex h-full items-center justify-center bg-ground">
      <form onSubmit={submit} className="w-90 rounded-lg border border-line bg-card p-7 shadow-sm">
        <h1 className="mb-1 flex items-center gap-2 font-title text-[22px] font-semibold">
          <Mark /> Stellin
        </h1>
        <p className="mb-5 text-ink-2">Sign in to your picture archive.</p>
        <label className="mb-3 block">
          Name
          <input
            className={INPUT}
            value={name}
            onChange={(event) => setName(event.target.value)}
            autoComplete="username"
            autoFocus
            required
          />
        </label>
        <label className="mb-4 block">
          Password
          <input
            className={INPUT}
            type="password"
            value={password}
            onChange={(event) => setPassword(event.target.value)}
            autoComplete="current-password"
            required
          />
        </label>
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
          Password lost? Whoever looks after the machine sets another one there:{' '}
          <code className="font-mono whitespace-nowrap text-ink">./stellin account password NAME</code>
        </p>
      )}
    </div>
  );
}
