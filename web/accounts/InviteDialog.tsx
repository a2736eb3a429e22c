// Adding an account: its names and role. Its password is chosen by the one it is for, with a link.

import { useState } from 'react';
import { Controller } from 'react-hook-form';
import { z } from 'zod';
import { PRESET_ROLES, PRESET_ROLE_IDS } from '@stellin/core/accounts/permissions';
import { newAccount } from '@stellin/contract/team';
import { Dialog } from '../parts/Dialog';
import { Field, TextField } from '../parts/Field';
import { FormActions } from '../parts/FormActions';
import { Select } from '../parts/Select';
import { useFormOf } from '../parts/useFormOf';
import { LinkDialog } from './LinkDialog';
import { useInvite } from './queries';

const NO_ROLE = 'none';
const schema = newAccount.extend({ role: z.enum(PRESET_ROLE_IDS).or(z.literal(NO_ROLE)) });

export function InviteDialog({ onClose }: { onClose: () => void }) {
  const invite = useInvite();
  const [invited, setInvited] = useState<{ name: string; link: { token: string; until: string } } | null>(null);
  const { register, control, handleSubmit, formState } = useFormOf<z.infer<typeof schema>>(schema, {
    name: '',
    displayName: '',
    role: 'cataloguer',
  });
  if (invited) return <LinkDialog {...invited} onClose={onClose} />;
  const submit = handleSubmit(({ role, ...names }) =>
    invite.mutate(
      { ...names, role: role === NO_ROLE ? null : role },
      { onSuccess: ({ token, until }) => setInvited({ name: names.displayName, link: { token, until } }) },
    ),
  );
  return (
    <Dialog open onOpenChange={onClose} title="Invite somebody">
      <form onSubmit={submit} className="space-y-3">
        <TextField
          label="Their name, as others see it"
          autoFocus
          error={formState.errors.displayName?.message}
          {...register('displayName')}
        />
        <TextField
          label="Sign-in name"
          help="Small letters, digits, dots and dashes."
          autoComplete="off"
          error={formState.errors.name?.message}
          {...register('name')}
        />
        <Controller
          control={control}
          name="role"
          render={({ field }) => (
            <Field label="Role in the whole catalogue" help="Roles in parts of it are given after.">
              {(tied) => (
                <Select
                  {...tied}
                  className="w-full"
                  value={field.value}
                  onChange={field.onChange}
                  options={[
                    ...PRESET_ROLE_IDS.map((id) => ({ value: id, label: PRESET_ROLES[id].label })),
                    { value: NO_ROLE, label: 'None' },
                  ]}
                />
              )}
            </Field>
          )}
        />
        <FormActions onCancel={onClose} action="Make the link" disabled={invite.isPending} />
      </form>
    </Dialog>
  );
}
