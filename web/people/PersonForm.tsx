// What is known of a person.

import { useState } from 'react';
import { Controller } from 'react-hook-form';
import { z } from 'zod';
import { edtf, personShape, type Person } from '@stellin/contract/people';
import { text } from '@stellin/contract/route';
import { useChange } from '../foundation/changes';
import { Button } from '../parts/Button';
import { Checkbox } from '../parts/Checkbox';
import { TextArea, TextField } from '../parts/Field';
import { FormActions } from '../parts/FormActions';
import { useFormOf } from '../parts/useFormOf';
import { TermPicker } from '../parts/terms/TermPicker';

const schema = z.object({
  ...personShape.pick({ name: true }).shape,
  otherNames: text.max(20_000),
  note: text.max(5000),
  born: edtf,
  died: edtf,
  private: z.boolean(),
  detailed: z.boolean(),
});

export function PersonForm({ person, onClose }: { person: Person; onClose: () => void }) {
  const change = useChange();
  const { register, control, watch, setValue, handleSubmit, formState } = useFormOf(schema, {
    name: person.name,
    otherNames: person.otherNames.join('\n'),
    note: person.note,
    born: person.born,
    died: person.died,
    private: person.private,
    detailed: person.detailed,
  });
  const { errors } = formState;
  const [term, setTerm] = useState(
    person.termId === null ? null : { id: person.termId, label: person.termLabel ?? '' },
  );
  const draft = watch();
  const save = handleSubmit(({ otherNames, ...said }) =>
    change.mutate(
      {
        kind: 'savePerson',
        personId: person.id,
        ...said,
        otherNames: otherNames
          .split('\n')
          .map((line) => line.trim())
          .filter(Boolean),
        termId: term?.id ?? null,
      },
      { onSuccess: onClose },
    ),
  );
  const renamed = draft.name.trim() !== person.name && draft.name.trim() !== '';
  return (
    <form
      aria-label={`Edit ${person.name}`}
      className="mt-3 grid max-w-190 grid-cols-2 gap-x-4 gap-y-2 rounded-md border border-line bg-card p-3"
      onSubmit={save}
    >
      <TextField label="Name" autoFocus error={errors.name?.message} {...register('name')} />
      <TextArea
        label="Other names, one a line"
        className="row-span-2"
        rows={4}
        error={errors.otherNames?.message}
        {...register('otherNames')}
      />
      <div className="grid grid-cols-2 gap-3">
        <TextField label="Born" placeholder="1932~" error={errors.born?.message} {...register('born')} />
        <TextField label="Died" error={errors.died?.message} {...register('died')} />
      </div>
      <div className="col-span-2 flex items-center gap-2">
        <span>Term that stands for this person:</span>
        {term ? (
          <>
            <b>{term.label}</b>
            <Button look="quiet" className="!h-7" onClick={() => setTerm(null)}>
              None
            </Button>
          </>
        ) : (
          <TermPicker
            label="Term that stands for this person"
            placeholder="none; find one …"
            className="w-56"
            onPick={({ id, label }) => setTerm({ id, label })}
          />
        )}
      </div>
      <TextArea label="Note" className="col-span-2" rows={2} error={errors.note?.message} {...register('note')} />
      <Controller
        control={control}
        name="private"
        render={({ field }) => (
          <Checkbox
            className="col-span-2"
            checked={field.value}
            onChange={(on) => {
              field.onChange(on);
              if (on) setValue('detailed', false);
            }}
          >
            Private: the name is never written into files
          </Checkbox>
        )}
      />
      <Controller
        control={control}
        name="detailed"
        render={({ field }) => (
          <Checkbox
            className="col-span-2"
            disabled={draft.private}
            checked={field.value && !draft.private}
            onChange={field.onChange}
          >
            Files also say who this is: the note and the term go along with the name
          </Checkbox>
        )}
      />
      {(renamed || draft.private !== person.private) && person.photos > 0 && (
        <p className="col-span-2 rounded bg-amber-pale px-2.5 py-1 text-amber">
          {renamed
            ? `What ${person.photos} photos say of the people in them changes to “${draft.name.trim()}”, and so do saved searches.`
            : draft.private
              ? `The name goes out of what ${person.photos} photos say, and out of their files with the next write.`
              : `The name comes back into what ${person.photos} photos say.`}
        </p>
      )}
      <div className="col-span-2">
        <FormActions action="Save" disabled={change.isPending} onCancel={onClose} />
      </div>
    </form>
  );
}
