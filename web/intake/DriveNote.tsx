// The label and note of a drive, which its keeper can change.

import { useState } from 'react';
import { driveRoutes, type Drive } from '@stellin/contract/drives';
import { useMayCall } from '../foundation/session';
import { Button } from '../parts/Button';
import { TextField } from '../parts/Field';
import { useFormOf } from '../parts/useFormOf';
import { useChangeDrive } from '../drives/queries';

export function DriveNote({ drive }: { drive: Drive }) {
  const mayChange = useMayCall(driveRoutes.changeDrive);
  const [open, setOpen] = useState(false);
  if (open) return <DriveForm drive={drive} onClose={() => setOpen(false)} />;
  return (
    <p className="mt-1 flex items-baseline gap-3">
      {drive.note && <span className="whitespace-pre-wrap">{drive.note}</span>}
      {mayChange && (
        <button type="button" className="text-[12px] text-slate hover:underline" onClick={() => setOpen(true)}>
          {drive.note ? 'Change label or note' : 'Rename, or add a note'}
        </button>
      )}
    </p>
  );
}

const schema = driveRoutes.changeDrive.body.required();

function DriveForm({ drive, onClose }: { drive: Drive; onClose: () => void }) {
  const { label, note } = drive;
  const { register, handleSubmit, formState } = useFormOf(schema, { label, note });
  const change = useChangeDrive();
  return (
    <form
      className="mt-2 flex flex-wrap items-end gap-3"
      onSubmit={handleSubmit((given) => change.mutate({ id: drive.id ?? '', ...given }, { onSuccess: onClose }))}
    >
      <TextField
        label="Label"
        autoFocus
        className="w-56"
        error={formState.errors.label?.message}
        {...register('label')}
      />
      <TextField
        label="Note: where it is kept, who may have it …"
        className="min-w-64 flex-1"
        error={formState.errors.note?.message}
        {...register('note')}
      />
      <Button type="submit" look="primary" disabled={change.isPending}>
        Keep
      </Button>
      <Button look="quiet" onClick={onClose}>
        Cancel
      </Button>
    </form>
  );
}
