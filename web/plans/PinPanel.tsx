// The pin that is chosen: what is said of it, and the photos that it holds.

import { useState } from 'react';
import { Controller } from 'react-hook-form';
import { z } from 'zod';
import { MARK_COLOURS } from '@stellin/core/describing/marks';
import { PIN_KIND_LABELS, PIN_SHAPE_LABELS, PIN_SHAPES } from '@stellin/core/plans/pins';
import { changeSchema } from '@stellin/contract/ledger';
import type { PlanPin } from '@stellin/contract/plans';
import { Button } from '../parts/Button';
import { Dial } from '../parts/Dial';
import { Field, TextArea, TextField } from '../parts/Field';
import { Select } from '../parts/Select';
import { useFormOf } from '../parts/useFormOf';
import { layersOf } from './pinForm';
import { PinLinks } from './PinLinks';
import { PinPhotos } from './PinPhotos';
import { PinSign } from './PinSign';
import type { PlanWork } from './usePlanWork';

const shape = changeSchema('savePins').shape.pins.element.shape.pin.shape;
const formSchema = z.object({
  number: z.string().regex(/^[1-9]\d{0,5}$/, 'A number from 1 on.'),
  label: shape.label.unwrap(),
  note: shape.note.unwrap(),
  layer: shape.layer.unwrap(),
  colour: shape.colour.unwrap(),
  shape: shape.shape.unwrap(),
  direction: z.number().nullable(),
  term: z.object({ id: z.number(), label: z.string() }).nullable(),
  place: z.object({ id: z.number(), label: z.string() }).nullable(),
});
type PinWords = z.infer<typeof formSchema>;

export function PinPanel({ work, pin }: { work: PlanWork; pin: PlanPin }) {
  const { mayPin } = work;
  return (
    <section
      aria-labelledby="pin"
      className="flex w-72 shrink-0 flex-col overflow-y-auto border-l border-line bg-card p-3"
    >
      <h2 id="pin" className="flex items-center gap-2 font-title text-[16px] font-semibold">
        <PinSign pin={pin} plain />
        <span className="min-w-0 truncate">{pin.label || `Pin ${pin.number}`}</span>
        <span className="ml-auto text-[12px] font-normal text-ink-2">{PIN_KIND_LABELS[pin.kind]}</span>
      </h2>
      {!mayPin && <Said pin={pin} />}
      <PinPhotos work={work} pin={pin} />
      {mayPin && <PinForm work={work} pin={pin} />}
    </section>
  );
}

function Said({ pin: { note, layer, termLabel, placeName } }: { pin: PlanPin }) {
  return (
    <div className="mt-2 text-[12px]">
      <p className="whitespace-pre-line">{note}</p>
      <p className="text-ink-2">{[layer, termLabel, placeName].filter(Boolean).join(' · ')}</p>
    </div>
  );
}

function PinForm({ work, pin }: { work: PlanWork; pin: PlanPin }) {
  const [kept, setKept] = useState(pin);
  const { register, control, handleSubmit, formState, watch, setValue, reset } = useFormOf(formSchema, wordsOf(pin));
  // What others have changed meanwhile stands there, unless somebody is typing.
  if (kept !== pin) {
    setKept(pin);
    if (!formState.isDirty) reset(wordsOf(pin));
  }
  const { errors } = formState;
  const [colour, look, direction] = watch(['colour', 'shape', 'direction']);
  const submit = handleSubmit(({ number, term, place, ...said }) =>
    work.save(
      [
        {
          pinId: pin.id,
          pin: {
            ...{ kind: pin.kind, x: pin.x, y: pin.y, corners: pin.corners },
            ...said,
            number: Number(number),
            termId: term?.id ?? null,
            placeId: place?.id ?? null,
          },
        },
      ],
      () => reset({ number, term, place, ...said }),
    ),
  );
  return (
    <form className="mt-3 flex flex-col gap-2 border-t border-line pt-2" onSubmit={(event) => void submit(event)}>
      <div className="flex gap-2">
        <TextField
          label="Number"
          className="w-20"
          inputMode="numeric"
          error={errors.number?.message}
          {...register('number')}
        />
        <TextField
          autoFocus={pin.id === work.freshId}
          label="Label"
          className="min-w-0 flex-1"
          error={errors.label?.message}
          {...register('label')}
        />
      </div>
      <TextArea label="Note" rows={2} error={errors.note?.message} {...register('note')} />
      <div className="grid grid-cols-2 gap-2">
        <Controller
          control={control}
          name="colour"
          render={({ field }) => (
            <Field label="Colour">
              {(tied) => (
                <Select
                  {...tied}
                  className="w-full"
                  value={field.value}
                  onChange={field.onChange}
                  options={MARK_COLOURS.map((each) => ({
                    value: each,
                    label: `${each[0]?.toUpperCase()}${each.slice(1)}`,
                  }))}
                />
              )}
            </Field>
          )}
        />
        <Controller
          control={control}
          name="shape"
          render={({ field }) => (
            <Field label="Shape">
              {(tied) => (
                <Select
                  {...tied}
                  className="w-full"
                  value={field.value}
                  onChange={field.onChange}
                  options={PIN_SHAPES.map((each) => ({ value: each, label: PIN_SHAPE_LABELS[each] }))}
                />
              )}
            </Field>
          )}
        />
      </div>
      <div className="flex items-end gap-2">
        <TextField
          label="Layer"
          className="min-w-0 flex-1"
          list="plan-layers"
          error={errors.layer?.message}
          {...register('layer')}
        />
        <datalist id="plan-layers">
          {layersOf(work.pins)
            .filter((layer) => layer !== '')
            .map((layer) => (
              <option key={layer} value={layer} />
            ))}
        </datalist>
        <PinSign pin={{ number: pin.number, colour, shape: look, direction }} />
      </div>
      {direction !== null && (
        <Field label={`Looks ${direction}° from the upper edge, clockwise`}>
          {() => (
            <Dial
              label="Where the view looks"
              degrees={direction}
              onTurn={(degrees) => setValue('direction', degrees, { shouldDirty: true })}
            />
          )}
        </Field>
      )}
      <Controller
        control={control}
        name="term"
        render={({ field: term }) => (
          <Controller
            control={control}
            name="place"
            render={({ field: place }) => (
              <PinLinks term={term.value} place={place.value} onTerm={term.onChange} onPlace={place.onChange} />
            )}
          />
        )}
      />
      <div className="flex justify-end gap-2">
        {formState.isDirty && (
          <Button look="quiet" onClick={() => reset(wordsOf(pin))}>
            As it was
          </Button>
        )}
        <Button type="submit" look="primary" disabled={!formState.isDirty || work.change.isPending}>
          Keep it so
        </Button>
      </div>
    </form>
  );
}

function wordsOf(pin: PlanPin): PinWords {
  const { number, label, note, layer, colour, shape: look, direction, termId, termLabel, placeId, placeName } = pin;
  return {
    ...{ label, note, layer, colour, shape: look, direction, number: String(number) },
    term: termId === null ? null : { id: termId, label: termLabel ?? '' },
    place: placeId === null ? null : { id: placeId, label: placeName ?? '' },
  };
}
