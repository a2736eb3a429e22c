// Arranging field sets: which fields a team fills in, in which order, required or not, with help and choices.

import { ArrowDown, ArrowUp, X } from 'lucide-react';
import { useState } from 'react';
import { Controller, useFieldArray, useWatch, type UseFormReturn } from 'react-hook-form';
import type { z } from 'zod';
import { OWN_FIELD_KINDS, OWN_FIELD_LABELS } from '@stellin/core/describing/ownFields';
import { customName, DESCRIBED_FIELDS, isTarget, shapeOf, type Target } from '@stellin/core/describing/targets';
import { fieldSetShape, type FieldSet, type FieldSetEntry } from '@stellin/contract/describing';
import { countText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { Button } from '../parts/Button';
import { Dialog } from '../parts/Dialog';
import { FormActions } from '../parts/FormActions';
import { TermPicker } from '../parts/terms/TermPicker';
import { usePrepared } from './queries';
import { Select } from '../parts/Select';
import { Checkbox } from '../parts/Checkbox';
import { TextField } from '../parts/Field';
import { useFormOf } from '../parts/useFormOf';

type Draft = Omit<FieldSet, 'id' | 'entries'> & { id: number | null; entries: FieldSetEntry[] };

/** `first`: the set to begin with, its editor open. */
export function FieldSetsDialog({ first, onClose }: { first?: FieldSet; onClose: () => void }) {
  const { data } = usePrepared();
  const [editing, setEditing] = useState<Draft | null>(first ?? null);
  const change = useChange();
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title="Field sets" wide>
      {editing ? (
        <Editor draft={editing} onClose={() => (first ? onClose() : setEditing(null))} />
      ) : (
        <>
          <p className="mb-2 text-ink-2">
            A field set is a form of the Fields tab: the fields a team fills in, in its order. Fields of the project are
            kept in the files in Stellin’s own namespace.
          </p>
          <ul className="divide-y divide-line rounded border border-line">
            {(data?.fieldSets ?? []).map((set) => (
              <li key={set.id} className="flex items-center gap-3 px-3 py-1.5">
                <b className="w-44 truncate">{set.name}</b>
                <span className="min-w-0 flex-1 truncate text-ink-2">
                  {set.entries.map(({ target }) => shapeOf(target).label).join(', ')}
                </span>
                <Button className="!h-7" onClick={() => setEditing({ ...set, entries: set.entries })}>
                  Change …
                </Button>
                <Button
                  look="quiet"
                  className="!h-7"
                  disabled={change.isPending}
                  onClick={() => change.mutate({ kind: 'removeFieldSet', fieldSetId: set.id })}
                >
                  Remove
                </Button>
              </li>
            ))}
            {data?.fieldSets.length === 0 && (
              <li className="px-3 py-1.5 text-ink-2">
                None of your own yet: the Fields tab offers Content, Place, Rights, Collection and all fields.
              </li>
            )}
          </ul>
          <div className="mt-3">
            <Button look="primary" onClick={() => setEditing({ id: null, name: '', entries: [] })}>
              New field set …
            </Button>
          </div>
        </>
      )}
    </Dialog>
  );
}

const BLANK = { required: false, help: '', initial: '', kind: 'text', choices: [], branch: null } as const;

function Editor({ draft, onClose }: { draft: Draft; onClose: () => void }) {
  const { register, control, handleSubmit, formState } = useFormOf(fieldSetShape, {
    name: draft.name,
    entries: draft.entries,
  });
  // Its own ids would take the place of the entries' targets.
  const { fields, append, move, remove } = useFieldArray({ control, name: 'entries', keyName: 'key' });
  const change = useChange();
  const add = (target: Target) => {
    if (!fields.some((entry) => entry.target === target)) append({ ...BLANK, choices: [], target });
  };
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={handleSubmit((set) =>
        change.mutate({ kind: 'saveFieldSet', fieldSetId: draft.id, ...set }, { onSuccess: onClose }),
      )}
    >
      <TextField label="Name" autoFocus className="w-64" error={formState.errors.name?.message} {...register('name')} />
      <ul className="divide-y divide-line rounded border border-line" aria-label="Fields of the set">
        {fields.map(({ key, target }, i) => (
          <Entry
            key={key}
            target={target}
            at={i}
            last={i === fields.length - 1}
            form={{ register, control }}
            onMove={(by) => move(i, i + by)}
            onRemove={() => remove(i)}
          />
        ))}
        {fields.length === 0 && <li className="px-3 py-1.5 text-ink-2">No fields yet.</li>}
      </ul>
      <AddField onAdd={add} />
      <FormActions
        onCancel={onClose}
        action={`Keep the set of ${countText(fields.length, 'field')}`}
        disabled={fields.length === 0 || change.isPending}
      />
    </form>
  );
}

type SetInput = z.input<typeof fieldSetShape>;

interface EntryProps {
  target: Target;
  at: number;
  last: boolean;
  form: Pick<UseFormReturn<SetInput, unknown, SetInput>, 'register' | 'control'>;
  onMove: (by: number) => void;
  onRemove: () => void;
}

/** A field of the set: what is asked of it, and its place among the others. */
function Entry({ target, at, last, form: { register, control }, onMove, onRemove }: EntryProps) {
  const { label } = shapeOf(target);
  const kind = useWatch({ control, name: `entries.${at}.kind` });
  const hasChoices = customName(target) === undefined || kind === 'choice' || kind === 'several';
  return (
    <li className="flex flex-wrap items-center gap-2 px-2 py-1.5">
      <span className="w-40 truncate font-semibold">{label}</span>
      {customName(target) !== undefined && (
        <Controller
          control={control}
          name={`entries.${at}.kind`}
          render={({ field }) => (
            <Select
              label={`Kind of ${label}`}
              className="h-7 w-40"
              value={field.value ?? 'text'}
              onChange={field.onChange}
              options={OWN_FIELD_KINDS.map((kind) => ({ value: kind, label: OWN_FIELD_LABELS[kind] }))}
            />
          )}
        />
      )}
      <Controller
        control={control}
        name={`entries.${at}.required`}
        render={({ field }) => (
          <Checkbox checked={field.value ?? false} onChange={field.onChange}>
            required
          </Checkbox>
        )}
      />
      <TextField
        label={`Help for ${label}`}
        hideLabel
        placeholder="Help"
        className="w-48"
        boxClass="h-7"
        {...register(`entries.${at}.help`)}
      />
      <TextField
        label={`What ${label} begins with`}
        hideLabel
        placeholder="Begins with"
        className="w-32"
        boxClass="h-7"
        {...register(`entries.${at}.initial`)}
      />
      {hasChoices && (
        <>
          <Controller
            control={control}
            name={`entries.${at}.choices`}
            render={({ field }) => (
              <TextField
                label={`Choices of ${label}`}
                hideLabel
                placeholder="Choices, with ; between"
                className="min-w-40 flex-1"
                boxClass="h-7"
                defaultValue={(field.value ?? []).join('; ')}
                onBlur={(event) =>
                  field.onChange(
                    event.target.value
                      .split(';')
                      .map((choice) => choice.trim())
                      .filter(Boolean),
                  )
                }
              />
            )}
          />
          <Controller
            control={control}
            name={`entries.${at}.branch`}
            render={({ field }) => (
              <TermPicker
                label={`Branch of choices for ${label}`}
                placeholder={field.value === null ? 'or a branch …' : 'another branch …'}
                className="w-36"
                onPick={({ id }) => field.onChange(id)}
              />
            )}
          />
        </>
      )}
      <span className="ml-auto flex shrink-0 items-center gap-2">
        <button
          type="button"
          aria-label={`${label} up`}
          disabled={at === 0}
          className="text-ink-3 hover:text-ink disabled:opacity-30"
          onClick={() => onMove(-1)}
        >
          <ArrowUp size={14} />
        </button>
        <button
          type="button"
          aria-label={`${label} down`}
          disabled={last}
          className="text-ink-3 hover:text-ink disabled:opacity-30"
          onClick={() => onMove(1)}
        >
          <ArrowDown size={14} />
        </button>
        <button type="button" aria-label={`Without ${label}`} className="text-ink-3 hover:text-red" onClick={onRemove}>
          <X size={14} />
        </button>
      </span>
    </li>
  );
}

/** One of the fields there are, or one of the project by its name. */
function AddField({ onAdd }: { onAdd: (target: Target) => void }) {
  const [own, setOwn] = useState('');
  const ownTarget = `custom:${own.trim()}`;
  return (
    <div className="flex items-center gap-2">
      <Select
        label="Add a field"
        className="w-52"
        value=""
        onChange={(value) => isTarget(value) && onAdd(value)}
        options={[
          { value: '', label: 'Add a field …' },
          ...DESCRIBED_FIELDS.map(({ id, label }) => ({ value: id, label })),
        ]}
      />
      <TextField
        label="Name of a field of the project"
        hideLabel
        placeholder="or one of the project: its name"
        className="w-60"
        value={own}
        onChange={(event) => setOwn(event.target.value)}
      />
      <Button
        disabled={!isTarget(ownTarget)}
        onClick={() => {
          if (isTarget(ownTarget)) onAdd(ownTarget);
          setOwn('');
        }}
      >
        Add it
      </Button>
    </div>
  );
}
