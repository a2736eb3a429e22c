// A role of the team's own: what it is called, and which permissions it stands for.

import { Controller } from 'react-hook-form';
import type { z } from 'zod';
import { PERMISSION_IDS } from '@stellin/core/accounts/permissions';
import { roleForm, type TeamRole } from '@stellin/contract/team';
import { Dialog } from '../parts/Dialog';
import { TextField } from '../parts/Field';
import { FormActions } from '../parts/FormActions';
import { useFormOf } from '../parts/useFormOf';
import { PermissionChoice } from './PermissionChoice';
import { useSaveRole } from './queries';

const schema = roleForm.omit({ id: true });

/** Null makes a new one. */
export function RoleDialog({ role, onClose }: { role: TeamRole | null; onClose: () => void }) {
  const save = useSaveRole();
  const { register, control, handleSubmit, formState } = useFormOf<z.infer<typeof schema>>(schema, {
    name: role?.name ?? '',
    permissions: role?.permissions ?? ['see'],
  });
  return (
    <Dialog open onOpenChange={onClose} title={role ? `The role ${role.name}` : 'A new role'}>
      <form
        onSubmit={handleSubmit((given) => save.mutate({ id: role?.id ?? null, ...given }, { onSuccess: onClose }))}
        className="space-y-3"
      >
        <TextField label="Name" autoFocus error={formState.errors.name?.message} {...register('name')} />
        <Controller
          control={control}
          name="permissions"
          render={({ field }) => (
            <PermissionChoice
              legend="What it may do"
              among={PERMISSION_IDS}
              chosen={field.value}
              onChange={field.onChange}
              explained
            />
          )}
        />
        <FormActions onCancel={onClose} action={role ? 'Keep' : 'Make the role'} disabled={save.isPending} />
      </form>
    </Dialog>
  );
}
