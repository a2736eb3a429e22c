// What others see as somebody's name.

import { z } from 'zod';
import { displayName } from '@stellin/contract/accounts';
import type { TeamAccount } from '@stellin/contract/team';
import { Dialog } from '../parts/Dialog';
import { TextField } from '../parts/Field';
import { FormActions } from '../parts/FormActions';
import { useFormOf } from '../parts/useFormOf';
import { useChangeAccount } from './queries';

const schema = z.object({ displayName });

export function RenameDialog({ account, onClose }: { account: TeamAccount; onClose: () => void }) {
  const change = useChangeAccount();
  const { register, handleSubmit, formState } = useFormOf(schema, { displayName: account.displayName });
  return (
    <Dialog open onOpenChange={onClose} title={`The name of ${account.name}`}>
      <form onSubmit={handleSubmit((given) => change.mutate({ id: account.id, ...given }, { onSuccess: onClose }))}>
        <TextField
          label="As others see it"
          autoFocus
          error={formState.errors.displayName?.message}
          {...register('displayName')}
        />
        <FormActions onCancel={onClose} action="Keep" disabled={change.isPending} />
      </form>
    </Dialog>
  );
}
