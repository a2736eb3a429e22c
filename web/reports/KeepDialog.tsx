// Keeping a report by a name, and letting it be sent every month.

import {
  reportPresetShape,
  type ReportPreset,
  type ReportPresetForm,
  type ReportSettings,
} from '@stellin/contract/reports';
import { Dialog } from '../parts/Dialog';
import { TextField } from '../parts/Field';
import { FormActions } from '../parts/FormActions';
import { useFormOf } from '../parts/useFormOf';
import { useKeepReport } from './queries';

interface Props {
  /** Null: a new one. */
  preset: ReportPreset | null;
  settings: ReportSettings;
  onClose: () => void;
}

export function KeepDialog({ preset, settings, onClose }: Props) {
  const keep = useKeepReport();
  const { register, handleSubmit, formState } = useFormOf<ReportPresetForm>(reportPresetShape, {
    ...{ name: preset?.name ?? '', monthlyTo: preset?.monthlyTo ?? '', settings },
  });
  const { errors } = formState;
  const submit = handleSubmit((form) => keep.mutate(form, { onSuccess: onClose }));
  return (
    <Dialog open onOpenChange={onClose} title="Keep the report">
      <form className="space-y-3" onSubmit={(event) => void submit(event)}>
        <TextField
          label="Name"
          autoFocus
          required
          help="A report of that name is replaced."
          error={errors.name?.message}
          {...register('name')}
        />
        <TextField
          label="Send it every month to"
          placeholder="nobody"
          help="On the first day, about the month before. It goes from Deliver › Outgoing mail."
          error={errors.monthlyTo?.message}
          {...register('monthlyTo')}
        />
        <FormActions onCancel={onClose} action="Keep" disabled={keep.isPending} />
      </form>
    </Dialog>
  );
}
