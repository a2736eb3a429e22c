// The name and note of a plan.

import { z } from 'zod';
import { changeSchema } from '@stellin/contract/ledger';
import type { Plan } from '@stellin/contract/plans';
import { useChange } from '../foundation/changes';
import { Dialog } from '../parts/Dialog';
import { TextArea, TextField } from '../parts/Field';
import { FormActions } from '../parts/FormActions';
import { useFormOf } from '../parts/useFormOf';

const { name, note } = changeSchema('makePlan').shape;
export const planWords = z.object({ name, note: note.unwrap() });

export function PlanForm({ plan, onClose }: { plan: Plan; onClose: () => void }) {
  const change = useChange();
  const { register, handleSubmit, formState } = useFormOf(planWords, { name: plan.name, note: plan.note });
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={`Site plan: ${plan.name}`}>
      <form
        className="flex flex-col gap-3"
        onSubmit={handleSubmit((said) =>
          change.mutate({ kind: 'changePlan', planId: plan.id, ...said }, { onSuccess: onClose }),
        )}
      >
        <TextField label="Name" autoFocus error={formState.errors.name?.message} {...register('name')} />
        <TextArea label="Note" rows={3} error={formState.errors.note?.message} {...register('note')} />
        <FormActions action="Keep the changes" disabled={change.isPending} onCancel={onClose} />
      </form>
    </Dialog>
  );
}
