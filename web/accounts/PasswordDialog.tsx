// Changing one's own password. All sessions of the account end with it, so one signs in anew.

import { useState, type FormEvent } from 'react';
import { toast } from 'sonner';
import { MIN_PASSWORD_LENGTH } from '@stellin/contract/accounts';
import { useChangePassword } from '../app/session';
import { Dialog } from '../parts/Dialog';
import { FormActions } from '../parts/FormActions';

const INPUT = 'mt-1 block h-8 w-full rounded border border-line bg-card px-2.5';

export function PasswordDialog({ onClose }: { onClose: () => void }) {
  const [present, setPresent] = useState('');
  const [password, setPassword] = useState('');
  const [again, setAgain] = useState('');
  const change = useChangePassword();
  const tooShort = password !== '' && password.length < MIN_PASSWORD_LENGTH;
  const differs = again !== '' && !password.startsWith(again) && again !== password;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    change.mutate({ present, password }, { onSuccess: () => void toast('Your password is changed. Sign in with it.') });
  };
  return (
    <Dialog open onOpenChange={onClose} title="Change your password">
      <form onSubmit={submit} className="space-y-3">
        <label className="block">
          Present password
          <input
            className={INPUT}
            type="password"
            autoComplete="current-password"
            value={present}
            onChange={(event) => setPresent(event.target.value)}
            required
          />
        </label>
        <label className="block">
          New password
          <input
            className={INPUT}
            type="password"
            autoComplete="new-password"
            aria-describedby="password-rule"
            aria-invalid={tooShort}
            value={password}
            onChange={(event) => setPassword(event.target.value)}
            required
          />
        </label>
        <p id="password-rule" className={`!mt-1 text-[12px] ${tooShort ? 'text-red' : 'text-ink-2'}`}>
          {MIN_PASSWORD_LENGTH} characters or more; a few words that belong to no saying are good.
        </p>
        <label className="block">
          New password again
          <input
            className={INPUT}
            type="password"
            autoComplete="new-password"
            aria-invalid={differs}
            value={again}
            onChange={(event) => setAgain(event.target.value)}
            required
          />
        </label>
        {differs && <p className="!mt-1 text-[12px] text-red">The two are not the same.</p>}
        {change.error && (
          <p role="alert" className="rounded bg-red-pale px-3 py-2 text-red">
            {change.error.message}
          </p>
        )}
        <p className="text-ink-2">You are signed out everywhere, here too, and sign in with the new one.</p>
        <FormActions
          onCancel={onClose}
          action="Change the password"
          disabled={change.isPending || present === '' || password.length < MIN_PASSWORD_LENGTH || again !== password}
        />
      </form>
    </Dialog>
  );
}
