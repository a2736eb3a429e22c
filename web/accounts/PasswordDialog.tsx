// Changing one's own password. All sessions of the account end with it, so one signs in anew.

import { toast } from 'sonner';
import { accountRoutes, MIN_PASSWORD_LENGTH } from '@stellin/contract/accounts';
import { text } from '@stellin/contract/route';
import { useChangePassword } from '../foundation/session';
import { Dialog } from '../parts/Dialog';
import { TextField } from '../parts/Field';
import { FormActions } from '../parts/FormActions';
import { useFormOf } from '../parts/useFormOf';

const schema = accountRoutes.changePassword.body
  .extend({ again: text })
  .refine(({ password, again }) => again === password, { path: ['again'], message: 'The two are not the same.' });

export function PasswordDialog({ onClose }: { onClose: () => void }) {
  const change = useChangePassword();
  const { register, handleSubmit, formState } = useFormOf(schema, { present: '', password: '', again: '' });
  const { errors } = formState;
  const submit = handleSubmit(({ present, password }) =>
    change.mutate({ present, password }, { onSuccess: () => void toast('Your password is changed. Sign in with it.') }),
  );
  return (
    <Dialog open onOpenChange={onClose} title="Change your password">
      <form onSubmit={submit} className="space-y-3">
        <TextField
          label="Present password"
          type="password"
          autoComplete="current-password"
          error={errors.present?.message}
          {...register('present')}
        />
        <TextField
          label="New password"
          type="password"
          autoComplete="new-password"
          help={`${MIN_PASSWORD_LENGTH} characters or more; a few words that belong to no saying are good.`}
          error={errors.password?.message}
          {...register('password', { deps: ['again'] })}
        />
        <TextField
          label="New password again"
          type="password"
          autoComplete="new-password"
          error={errors.again?.message}
          {...register('again')}
        />
        {change.error && (
          <p role="alert" className="rounded bg-red-pale px-3 py-2 text-red">
            {change.error.message}
          </p>
        )}
        <p className="text-ink-2">You are signed out everywhere, here too, and sign in with the new one.</p>
        <FormActions onCancel={onClose} action="Change the password" disabled={change.isPending} />
      </form>
    </Dialog>
  );
}
