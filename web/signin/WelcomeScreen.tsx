// Choosing a password with a link, which is used up by that: an invitation, or in place of a password that was lost.

import { useMutation, useQuery } from '@tanstack/react-query';
import { useNavigate } from 'react-router';
import { z } from 'zod';
import { accountRoutes, MIN_PASSWORD_LENGTH, newPassword } from '@stellin/contract/accounts';
import { text } from '@stellin/contract/route';
import { call } from '../foundation/api';
import { useSignIn } from '../foundation/session';
import { Button } from '../parts/Button';
import { TextField } from '../parts/Field';
import { Mark } from '../parts/Mark';
import { Queried } from '../parts/Queried';
import { useFormOf } from '../parts/useFormOf';

const schema = z
  .object({ password: newPassword, again: text })
  .refine(({ password, again }) => again === password, { path: ['again'], message: 'The two are not the same.' });

export function WelcomeScreen() {
  const token = window.location.hash.slice(1);
  const invited = useQuery({
    queryKey: ['invitation', token],
    queryFn: () => call(accountRoutes.showInvitation, { body: { token } }),
    staleTime: Infinity,
    retry: false,
  });
  return (
    <main className="flex h-full items-center justify-center bg-ground">
      <div className="w-100 rounded-lg border border-line bg-card p-7 shadow-sm">
        <h1 className="mb-1 flex items-center gap-2 font-title text-[22px] font-semibold">
          <Mark /> Stellin
        </h1>
        <Queried query={invited}>{(account) => <ChooseForm token={token} {...account} />}</Queried>
      </div>
    </main>
  );
}

function ChooseForm({ token, name, displayName }: { token: string; name: string; displayName: string }) {
  const navigate = useNavigate();
  const signIn = useSignIn();
  const { register, handleSubmit, formState } = useFormOf(schema, { password: '', again: '' });
  const choose = useMutation({
    mutationFn: async ({ password }: { password: string }) => {
      await call(accountRoutes.acceptInvitation, { body: { token, password } });
      await signIn.mutateAsync({ name, password });
    },
    // What stood in the address is used up, and is not to stand in the history.
    onSuccess: () => navigate('/desk', { replace: true }),
  });
  return (
    <form onSubmit={handleSubmit((given) => choose.mutate(given))} className="space-y-3">
      <p className="text-ink-2">
        Welcome, {displayName}. You sign in as <b>{name}</b>; choose your password.
      </p>
      <input type="text" name="username" autoComplete="username" value={name} readOnly hidden />
      <TextField
        label="Password"
        type="password"
        autoComplete="new-password"
        autoFocus
        help={`${MIN_PASSWORD_LENGTH} characters or more; a few words that belong to no saying are good.`}
        error={formState.errors.password?.message}
        {...register('password', { deps: ['again'] })}
      />
      <TextField
        label="Password again"
        type="password"
        autoComplete="new-password"
        error={formState.errors.again?.message}
        {...register('again')}
      />
      {choose.error && (
        <p role="alert" className="rounded bg-red-pale px-3 py-2 text-red">
          {choose.error.message}
        </p>
      )}
      <Button type="submit" look="primary" className="w-full justify-center" disabled={choose.isPending}>
        Choose it and sign in
      </Button>
    </form>
  );
}
