// Giving a work list to somebody, with a note and a day.

import { Controller } from 'react-hook-form';
import { giving, type Giving } from '@stellin/contract/workLists';
import { Dialog } from '../parts/Dialog';
import { Field, TextArea, TextField } from '../parts/Field';
import { FormActions } from '../parts/FormActions';
import { Select } from '../parts/Select';
import { useFormOf } from '../parts/useFormOf';
import { useGive, useWorkers } from './queries';

interface Props {
  list: string;
  label: string;
  /** Within what. */
  query: string;
  onClose: () => void;
}

/** In a choice 0 is nobody yet. */
const NOBODY = 0;

export function GiveDialog({ list, label, query, onClose }: Props) {
  const { data: people = [] } = useWorkers();
  const give = useGive();
  const { register, control, handleSubmit, formState } = useFormOf<Giving>(giving, {
    ...{ list, query, accountId: NOBODY, note: '', due: '' },
  });
  const { errors } = formState;
  const submit = handleSubmit((form) => give.mutate(form, { onSuccess: onClose }));
  return (
    <Dialog open onOpenChange={onClose} title={`Give “${label}”`}>
      <form onSubmit={(event) => void submit(event)} className="space-y-3">
        {query !== '' && (
          <p className="text-ink-2">
            Only what is looked at here: <code className="font-mono text-[12px]">{query}</code>
          </p>
        )}
        <Controller
          control={control}
          name="accountId"
          render={({ field, fieldState }) => (
            <Field label="To whom" required error={fieldState.error && 'Choose somebody.'}>
              {(tied) => (
                <Select
                  {...tied}
                  autoFocus
                  className="w-full"
                  value={field.value}
                  onChange={field.onChange}
                  options={[
                    { value: NOBODY, label: 'Choose somebody', disabled: true },
                    ...people.map(({ id, name }) => ({ value: id, label: name })),
                  ]}
                />
              )}
            </Field>
          )}
        />
        <TextField label="Until when" type="date" error={errors.due?.message} {...register('due')} />
        <TextArea label="Note" rows={3} error={errors.note?.message} {...register('note')} />
        <FormActions onCancel={onClose} action="Give it" disabled={give.isPending} />
      </form>
    </Dialog>
  );
}
