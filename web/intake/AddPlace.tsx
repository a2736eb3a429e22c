// Naming a folder that is to be looked at as a drive: a network folder, or one of the machine Stellin runs on.

import { useState } from 'react';
import { driveRoutes } from '@stellin/contract/drives';
import { useMayCall } from '../foundation/session';
import { Button } from '../parts/Button';
import { TextField } from '../parts/Field';
import { useFormOf } from '../parts/useFormOf';
import { useAddPlace } from '../drives/queries';

export function AddPlace() {
  const [open, setOpen] = useState(false);
  if (!useMayCall(driveRoutes.addPlace)) return null;
  if (open) return <PlaceForm onClose={() => setOpen(false)} />;
  return (
    <button type="button" className="px-4 py-1.5 text-left text-slate hover:underline" onClick={() => setOpen(true)}>
      Another folder …
    </button>
  );
}

function PlaceForm({ onClose }: { onClose: () => void }) {
  const { register, handleSubmit, formState } = useFormOf(driveRoutes.addPlace.body, { path: '' });
  const add = useAddPlace();
  return (
    <form
      className="space-y-1.5 px-4 py-2"
      onSubmit={handleSubmit(({ path }) => add.mutate(path, { onSuccess: onClose }))}
    >
      <TextField
        label="Folder on the machine that runs Stellin"
        autoFocus
        placeholder="/srv/photos"
        boxClass="h-8 font-mono text-[12px]"
        error={formState.errors.path?.message}
        {...register('path')}
      />
      <div className="flex gap-2">
        <Button type="submit" disabled={add.isPending}>
          Look there
        </Button>
        <Button look="quiet" onClick={onClose}>
          Cancel
        </Button>
      </div>
    </form>
  );
}
