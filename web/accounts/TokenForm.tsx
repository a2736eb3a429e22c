// A new token: what it is for, what it allows of what one may oneself, and until when.

import { use } from 'react';
import { Controller } from 'react-hook-form';
import type { z } from 'zod';
import { tokenForm } from '@stellin/contract/tokens';
import { PersonContext } from '../foundation/session';
import { Dialog } from '../parts/Dialog';
import { Field, TextField } from '../parts/Field';
import { FormActions } from '../parts/FormActions';
import { Select } from '../parts/Select';
import { useFormOf } from '../parts/useFormOf';
import { PermissionChoice } from './PermissionChoice';
import { useMakeToken } from './queries';

const DURATIONS = [
  { value: 7, label: 'a week' },
  { value: 30, label: '30 days' },
  { value: 90, label: '90 days' },
  { value: 365, label: 'a year' },
];

export function TokenForm({ onClose, onMade }: { onClose: () => void; onMade: (token: string) => void }) {
  const person = use(PersonContext);
  const make = useMakeToken();
  const { register, control, handleSubmit, formState } = useFormOf<z.infer<typeof tokenForm>>(tokenForm, {
    name: '',
    permissions: ['see'],
    days: 90,
  });
  const submit = handleSubmit((given) => make.mutate(given, { onSuccess: ({ token }) => onMade(token) }));
  return (
    <Dialog open onOpenChange={onClose} title="A new token">
      <form onSubmit={submit} className="space-y-3">
        <TextField label="What it is for" autoFocus error={formState.errors.name?.message} {...register('name')} />
        <Controller
          control={control}
          name="permissions"
          render={({ field }) => (
            <PermissionChoice
              legend="It may"
              among={person?.permissions ?? []}
              chosen={field.value}
              onChange={field.onChange}
            />
          )}
        />
        <Controller
          control={control}
          name="days"
          render={({ field }) => (
            <Field label="It is good for">
              {(tied) => (
                <Select
                  {...tied}
                  className="w-full"
                  value={field.value}
                  onChange={field.onChange}
                  options={DURATIONS}
                />
              )}
            </Field>
          )}
        />
        <FormActions onCancel={onClose} action="Make the token" disabled={make.isPending} />
      </form>
    </Dialog>
  );
}
