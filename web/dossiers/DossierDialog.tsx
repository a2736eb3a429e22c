// Making a dossier, or changing its name, colour and note.

import { useState, type FormEvent } from 'react';
import { MARK_COLOURS } from '@stellin/core/describing/marks';
import type { Dossier } from '@stellin/contract/dossiers';
import type { Selection } from '@stellin/contract/photos';
import { useChange } from '../app/changes';
import { Button } from '../parts/Button';
import { Dialog } from '../parts/Dialog';
import { ColourDot } from './ColourDot';

type Colour = '' | (typeof MARK_COLOURS)[number];

export type DossierTask =
  | { kind: 'make'; parent: Dossier | null; selection: Selection | null; from: string }
  | { kind: 'change'; dossier: Dossier }
  | { kind: 'copy'; dossier: Dossier };

const TITLES = { make: 'New dossier', change: 'Dossier', copy: 'Copy the dossier' };

export function DossierDialog({ task, onClose }: { task: DossierTask; onClose: () => void }) {
  const given = task.kind === 'make' ? undefined : task.dossier;
  const [name, setName] = useState(task.kind === 'copy' ? `${task.dossier.name} (copy)` : (given?.name ?? ''));
  const [note, setNote] = useState(given?.note ?? '');
  const [colour, setColour] = useState<Colour>((given?.colour ?? '') as Colour);
  const change = useChange();
  const submit = (event: FormEvent) => {
    event.preventDefault();
    const done = { onSuccess: onClose };
    if (task.kind === 'make') {
      const { parent, selection } = task;
      change.mutate(
        { kind: 'makeDossier', name, note, colour, parentId: parent?.id ?? null, ...(selection ? { selection } : {}) },
        done,
      );
    } else if (task.kind === 'copy') change.mutate({ kind: 'copyDossier', dossierId: task.dossier.id, name }, done);
    else change.mutate({ kind: 'changeDossier', dossierId: task.dossier.id, name, note, colour }, done);
  };
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={TITLES[task.kind]}>
      <form onSubmit={submit} className="flex flex-col gap-3">
        {task.kind === 'make' && (
          <p className="text-ink-2">
            {[task.parent && `In “${task.parent.name}”.`, task.from].filter(Boolean).join(' ') ||
              'It holds nothing yet.'}
          </p>
        )}
        <label className="block">
          Name
          <input
            autoFocus
            required
            maxLength={200}
            value={name}
            onChange={(event) => setName(event.target.value)}
            className="mt-1 block h-8 w-full rounded border border-line bg-card px-2.5"
          />
        </label>
        {name.includes('/') && <p className="text-red">A name has no “/”.</p>}
        {task.kind !== 'copy' && (
          <>
            <fieldset>
              <legend>Colour</legend>
              <div className="mt-1 flex gap-1">
                {(['', ...MARK_COLOURS] as const).map((each) => (
                  <label
                    key={each}
                    className={`flex size-7 cursor-pointer items-center justify-center rounded border ${each === colour ? 'border-ink' : 'border-line'}`}
                  >
                    <input
                      type="radio"
                      name="colour"
                      aria-label={each || 'no colour'}
                      className="sr-only"
                      checked={each === colour}
                      onChange={() => setColour(each)}
                    />
                    <ColourDot colour={each} />
                  </label>
                ))}
              </div>
            </fieldset>
            <label className="block">
              Note
              <textarea
                rows={3}
                maxLength={5000}
                value={note}
                onChange={(event) => setNote(event.target.value)}
                className="mt-1 block w-full rounded border border-line bg-card px-2.5 py-1"
              />
            </label>
          </>
        )}
        <div className="flex gap-2">
          <Button type="submit" look="primary" disabled={change.isPending || name.trim() === '' || name.includes('/')}>
            {task.kind === 'make' ? 'Make the dossier' : task.kind === 'copy' ? 'Copy it' : 'Keep the changes'}
          </Button>
          <Button onClick={onClose}>Not now</Button>
        </div>
      </form>
    </Dialog>
  );
}
