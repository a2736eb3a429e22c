// Naming a folder that is to be looked at as a drive: a network folder, or one of the machine Stellin runs on.

import { useState } from 'react';
import { useMay } from '../foundation/session';
import { Button } from '../parts/Button';
import { useAddPlace } from '../drives/queries';

export function AddPlace() {
  const [path, setPath] = useState('');
  const [open, setOpen] = useState(false);
  const add = useAddPlace();
  if (!useMay('keeper')) return null;
  if (!open)
    return (
      <button type="button" className="px-4 py-1.5 text-left text-slate hover:underline" onClick={() => setOpen(true)}>
        Another folder …
      </button>
    );
  return (
    <form
      className="space-y-1.5 px-4 py-2"
      onSubmit={(event) => {
        event.preventDefault();
        add.mutate(path, {
          onSuccess: () => {
            setPath('');
            setOpen(false);
          },
        });
      }}
    >
      <label className="block text-[12px] text-ink-2">
        Folder on the machine that runs Stellin
        <input
          autoFocus
          className="mt-1 h-8 w-full rounded border border-line bg-card px-2 font-mono text-[12px] text-ink"
          placeholder="/srv/photos"
          value={path}
          onChange={(event) => setPath(event.target.value)}
        />
      </label>
      <div className="flex gap-2">
        <Button type="submit" disabled={path.trim() === '' || add.isPending}>
          Look there
        </Button>
        <Button look="quiet" onClick={() => setOpen(false)}>
          Cancel
        </Button>
      </div>
    </form>
  );
}
