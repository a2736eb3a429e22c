// The marks of the team: which there are, and for a keeper changing them.

import { useState, type ChangeEvent } from 'react';
import { Controller } from 'react-hook-form';
import { freeLetter, MARK_COLOURS, MARK_LETTERS } from '@stellin/core/describing/marks';
import { changeSchema } from '@stellin/contract/ledger';
import type { Mark } from '@stellin/contract/marks';
import { countText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { useMayChange } from '../foundation/session';
import { Button } from '../parts/Button';
import { Dialog } from '../parts/Dialog';
import { Field, TextField } from '../parts/Field';
import { Kbd } from '../parts/Kbd';
import { MarkBadge } from './MarkBadge';
import { useMarks } from './queries';
import { Select } from '../parts/Select';
import { useFormOf } from '../parts/useFormOf';

export function MarksDialog({ onClose }: { onClose: () => void }) {
  const { data: marks = [] } = useMarks();
  const mayChange = useMayChange('defineMark');
  const change = useChange();
  const [changed, setChanged] = useState<Mark | null>(null);
  return (
    <Dialog open onOpenChange={onClose} title="Marks of the team">
      <ul className="mb-4 divide-y divide-line">
        {marks.map((mark) => (
          <li key={mark.id} className="flex items-center gap-2.5 py-1.5">
            <MarkBadge name={mark.name} mark={mark} />
            <span className="font-semibold">{mark.name}</span>
            <Kbd>{mark.letter.toUpperCase()}</Kbd>
            <span className="figures ml-auto text-[12px] text-ink-2">{countText(mark.photos, 'photo')}</span>
            {mayChange && (
              <>
                <Button look="quiet" className="!h-7" onClick={() => setChanged(mark)}>
                  Change
                </Button>
                <Button
                  look="quiet"
                  className="!h-7"
                  onClick={() => change.mutate({ kind: 'removeMark', markId: mark.id })}
                >
                  Remove
                </Button>
              </>
            )}
          </li>
        ))}
        {marks.length === 0 && <li className="py-1.5 text-ink-2">There are no marks yet.</li>}
      </ul>
      {mayChange && (
        <MarkForm key={changed?.id ?? 'new'} marks={marks} mark={changed} onDone={() => setChanged(null)} />
      )}
    </Dialog>
  );
}

const schema = changeSchema('defineMark').pick({ name: true, letter: true, colour: true });

/** Defines a mark, or changes one. */
function MarkForm({ marks, mark, onDone }: { marks: readonly Mark[]; mark: Mark | null; onDone: () => void }) {
  const change = useChange();
  const taken = new Set(marks.filter(({ id }) => id !== mark?.id).map((other) => other.letter));
  const { register, control, handleSubmit, reset, setValue, formState } = useFormOf(schema, {
    name: mark?.name ?? '',
    letter: mark?.letter ?? '',
    colour: mark?.colour ?? 'green',
  });
  /** The key follows the name until one is chosen. */
  const suggestLetter = (name: string) => {
    if (!mark && !formState.dirtyFields.letter) setValue('letter', freeLetter(name, taken) ?? '');
  };
  const submit = handleSubmit((given) =>
    change.mutate(
      { kind: 'defineMark', markId: mark?.id ?? null, ...given },
      {
        onSuccess: () => {
          reset();
          onDone();
        },
      },
    ),
  );
  return (
    <form className="flex flex-wrap items-end gap-2 border-t border-line pt-3" onSubmit={submit}>
      <TextField
        label={mark ? `Another name for “${mark.name}”` : 'A new mark'}
        className="min-w-0 flex-1"
        error={formState.errors.name?.message}
        {...register('name', { onChange: (event: ChangeEvent<HTMLInputElement>) => suggestLetter(event.target.value) })}
      />
      <Controller
        control={control}
        name="letter"
        render={({ field }) => (
          <Field label="Key" error={formState.errors.letter && 'Choose a key.'}>
            {(tied) => (
              <Select
                {...tied}
                value={field.value}
                onChange={(letter) => setValue('letter', letter, { shouldDirty: true, shouldValidate: true })}
                options={MARK_LETTERS.filter((one) => !taken.has(one)).map((one) => ({
                  value: one,
                  label: one.toUpperCase(),
                }))}
              />
            )}
          </Field>
        )}
      />
      <Controller
        control={control}
        name="colour"
        render={({ field }) => (
          <Field label="Colour">
            {(tied) => (
              <Select
                {...tied}
                value={field.value}
                onChange={field.onChange}
                options={MARK_COLOURS.map((one) => ({ value: one, label: one }))}
              />
            )}
          </Field>
        )}
      />
      <Button type="submit" look="primary" disabled={change.isPending}>
        {mark ? 'Keep' : 'Define'}
      </Button>
      {mark && (
        <Button look="quiet" onClick={onDone}>
          Cancel
        </Button>
      )}
    </form>
  );
}
