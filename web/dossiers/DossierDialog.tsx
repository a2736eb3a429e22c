// Making a dossier, or changing its name, colour and note.

import { Controller } from 'react-hook-form';
import { dossierShape, type Dossier } from '@stellin/contract/dossiers';
import type { Selection } from '@stellin/contract/photos';
import { useChange } from '../foundation/changes';
import { Button } from '../parts/Button';
import { Dialog } from '../parts/Dialog';
import { TextArea, TextField } from '../parts/Field';
import { useFormOf } from '../parts/useFormOf';
import { ColourChoice } from './ColourChoice';

export type DossierTask =
  | { kind: 'make'; parent: Dossier | null; selection: Selection | null; from: string }
  | { kind: 'change'; dossier: Dossier }
  | { kind: 'copy'; dossier: Dossier };

const TITLES = { make: 'New dossier', change: 'Dossier', copy: 'Copy the dossier' };

export function DossierDialog({ task, onClose }: { task: DossierTask; onClose: () => void }) {
  const given = task.kind === 'make' ? undefined : task.dossier;
  const { register, control, handleSubmit, formState } = useFormOf(dossierShape, {
    name: task.kind === 'copy' ? `${task.dossier.name} (copy)` : (given?.name ?? ''),
    note: given?.note ?? '',
    colour: dossierShape.shape.colour.catch('').parse(given?.colour),
  });
  const change = useChange();
  const submit = handleSubmit(({ name, note, colour }) => {
    const done = { onSuccess: onClose };
    if (task.kind === 'make') {
      const { parent, selection } = task;
      change.mutate(
        { kind: 'makeDossier', name, note, colour, parentId: parent?.id ?? null, ...(selection ? { selection } : {}) },
        done,
      );
    } else if (task.kind === 'copy') change.mutate({ kind: 'copyDossier', dossierId: task.dossier.id, name }, done);
    else change.mutate({ kind: 'changeDossier', dossierId: task.dossier.id, name, note, colour }, done);
  });
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={TITLES[task.kind]}>
      <form onSubmit={submit} className="flex flex-col gap-3">
        {task.kind === 'make' && (
          <p className="text-ink-2">
            {[task.parent && `In “${task.parent.name}”.`, task.from].filter(Boolean).join(' ') ||
              'It holds nothing yet.'}
          </p>
        )}
        <TextField label="Name" autoFocus error={formState.errors.name?.message} {...register('name')} />
        {task.kind !== 'copy' && (
          <>
            <Controller
              control={control}
              name="colour"
              render={({ field }) => <ColourChoice colour={field.value} onChoose={field.onChange} />}
            />
            <TextArea label="Note" rows={3} error={formState.errors.note?.message} {...register('note')} />
          </>
        )}
        <div className="flex gap-2">
          <Button type="submit" look="primary" disabled={change.isPending}>
            {task.kind === 'make' ? 'Make the dossier' : task.kind === 'copy' ? 'Copy it' : 'Keep the changes'}
          </Button>
          <Button onClick={onClose}>Not now</Button>
        </div>
      </form>
    </Dialog>
  );
}
