// The colour and note of a folder.

import { Controller } from 'react-hook-form';
import type { Folder } from '@stellin/contract/drives';
import { changeSchema } from '@stellin/contract/ledger';
import { ColourChoice } from '../dossiers/ColourChoice';
import { useChange } from '../foundation/changes';
import { Dialog } from '../parts/Dialog';
import { TextArea } from '../parts/Field';
import { FormActions } from '../parts/FormActions';
import { useFormOf } from '../parts/useFormOf';

const SAID = changeSchema('describeFolder').pick({ colour: true, note: true });

export function FolderNoteDialog({ folder, shown, onClose }: { folder: Folder; shown: string; onClose: () => void }) {
  const change = useChange();
  const { register, control, handleSubmit, formState } = useFormOf(SAID, {
    colour: SAID.shape.colour.catch('').parse(folder.colour),
    note: folder.note,
  });
  const submit = handleSubmit((said) =>
    change.mutate({ kind: 'describeFolder', folderId: folder.id, ...said }, { onSuccess: onClose }),
  );
  return (
    <Dialog open onOpenChange={onClose} title={`Colour and note of ${shown}`}>
      <form className="space-y-3" onSubmit={(event) => void submit(event)}>
        <Controller
          control={control}
          name="colour"
          render={({ field }) => <ColourChoice colour={field.value} onChoose={field.onChange} />}
        />
        <TextArea label="Note" rows={4} autoFocus error={formState.errors.note?.message} {...register('note')} />
        <FormActions onCancel={onClose} action="Keep" disabled={!formState.isDirty || change.isPending} />
      </form>
    </Dialog>
  );
}
