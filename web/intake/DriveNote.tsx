// The label and note of a drive, which its keeper can change.

import { useState } from 'react';
import type { Drive } from '@stellin/contract/drives';
import { useMay } from '../foundation/session';
import { Button } from '../parts/Button';
import { useChangeDrive } from '../drives/queries';

export function DriveNote({ drive }: { drive: Drive }) {
  const mayChange = useMay('keeper');
  const [open, setOpen] = useState(false);
  const [label, setLabel] = useState(drive.label);
  const [note, setNote] = useState(drive.note);
  const change = useChangeDrive();
  if (!open)
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
  return (
    <form
      className="mt-2 flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        change.mutate({ id: drive.id ?? '', label, note }, { onSuccess: () => setOpen(false) });
      }}
    >
      <label className="text-[12px] text-ink-2">
        Label
        <input
          autoFocus
          required
          maxLength={100}
          className="mt-1 block h-8 w-56 rounded border border-line bg-card px-2 text-base text-ink"
          value={label}
          onChange={(event) => setLabel(event.target.value)}
        />
      </label>
      <label className="min-w-64 flex-1 text-[12px] text-ink-2">
        Note: where it is kept, who may have it …
        <input
          maxLength={2000}
          className="mt-1 block h-8 w-full rounded border border-line bg-card px-2 text-base text-ink"
          value={note}
          onChange={(event) => setNote(event.target.value)}
        />
      </label>
      <Button type="submit" look="primary" disabled={change.isPending || label.trim() === ''}>
        Keep
      </Button>
      <Button look="quiet" onClick={() => setOpen(false)}>
        Cancel
      </Button>
    </form>
  );
}
