// The card of a term as a form. What somebody else changed meanwhile is not written over: the server refuses, and says what.

import { Plus, X } from 'lucide-react';
import { useState } from 'react';
import { Controller, useFieldArray, useWatch, type UseFormReturn } from 'react-hook-form';
import { z } from 'zod';
import { LABEL_KINDS, TERM_COLOURS, WRITTEN_OTHERS, type WrittenOthers } from '@stellin/core/vocabulary/term';
import { IIM_KEYWORD_BYTES, utf8Length } from '@stellin/core/vocabulary/utf8';
import { text } from '@stellin/contract/route';
import { otherLabel, termFacts } from '@stellin/contract/termChanges';
import type { TermCard } from '@stellin/contract/vocabulary';
import { useChange } from '../foundation/changes';
import { Button } from '../parts/Button';
import { COLOUR_DOTS } from '../parts/terms/TermColumns';
import { Select } from '../parts/Select';
import { Checkbox } from '../parts/Checkbox';
import { TextArea, TextField } from '../parts/Field';
import { useFormOf } from '../parts/useFormOf';

const KIND_NAMES = { preferred: 'preferred, other language', alternative: 'also called', hidden: 'only found' };
const OTHERS_NAMES: Record<WrittenOthers, string> = {
  none: 'no other labels',
  language: 'other labels of its language',
  all: 'all its labels',
};

/** The parts of a card that the form changes. */
const schema = termFacts.omit({ examplePhoto: true, byHand: true }).extend({
  otherLabels: z.array(otherLabel.extend({ label: text.max(200) })).max(500),
});
type Facts = z.infer<typeof schema>;

/** An address that came with a file may be none; as long as nobody changes it, that is not held against anything else. */
const schemaFor = (uri: string) => schema.extend({ uri: z.union([z.literal(uri), schema.shape.uri]) });

function factsOf(card: TermCard): Facts {
  const { label, otherLabels, scopeNote, definition, notation, uri, colour } = card;
  const { writeSelf, writeBroader, writeOthers, writeLanguage } = card;
  return {
    ...{ label, otherLabels, scopeNote, definition, notation, uri, colour },
    ...{ writeSelf, writeBroader, writeOthers, writeLanguage },
  };
}

export function CardForm({ card, onClose }: { card: TermCard; onClose: () => void }) {
  // What is compared with is what was there when the form was opened, whatever comes in meanwhile.
  const [seen] = useState<Facts>(() => factsOf(card));
  const form = useFormOf(schemaFor(seen.uri), seen);
  const { register, control, handleSubmit, formState } = form;
  const { errors } = formState;
  const change = useChange();
  const save = handleSubmit((given) => {
    const facts = { ...given, otherLabels: given.otherLabels.filter(({ label }) => label.trim() !== '') };
    const changed = schema.keyof().options.filter((part) => JSON.stringify(facts[part]) !== JSON.stringify(seen[part]));
    if (changed.length === 0) return onClose();
    const pick = (from: Facts) => Object.fromEntries(changed.map((part) => [part, from[part]]));
    change.mutate({ kind: 'editTerm', termId: card.id, facts: pick(facts), seen: pick(seen) }, { onSuccess: onClose });
  });
  const bytes = utf8Length(useWatch({ control, name: 'label' }));
  return (
    <form
      aria-label={`Edit ${card.label}`}
      className="space-y-3"
      onSubmit={save}
      onKeyDown={(event) => {
        if (event.key === 'Escape') onClose();
        if (event.key === 'Enter' && (event.ctrlKey || event.metaKey)) void save();
      }}
    >
      <TextField label="Label" autoFocus error={errors.label?.message} {...register('label')} />
      {bytes > IIM_KEYWORD_BYTES && (
        <p className="text-[12px] text-amber">
          {bytes} bytes: IIM keeps {IIM_KEYWORD_BYTES} of a keyword, the rest stands in XMP only.
        </p>
      )}
      <OtherLabels form={form} />
      <TextArea label="Scope note" rows={3} error={errors.scopeNote?.message} {...register('scopeNote')} />
      <TextArea label="Definition" rows={2} error={errors.definition?.message} {...register('definition')} />
      <TextField label="Notation" error={errors.notation?.message} {...register('notation')} />
      <Controller
        control={control}
        name="colour"
        render={({ field }) => <ColourChoice colour={field.value} onChoose={field.onChange} />}
      />
      <Written form={form} language={card.vocabulary.language} />
      <TextField
        label="Identifier"
        boxClass="h-8 font-mono text-[11px]"
        error={errors.uri?.message}
        {...register('uri')}
      />
      <div className="flex gap-2">
        <Button type="submit" look="primary" disabled={change.isPending}>
          Save
        </Button>
        <Button look="quiet" onClick={onClose}>
          Cancel
        </Button>
      </div>
    </form>
  );
}

type CardFormOf = UseFormReturn<Facts, unknown, Facts>;

/** The other labels: how many there are, each with its language and kind. One left empty is none. */
function OtherLabels({ form: { control, register, formState } }: { form: CardFormOf }) {
  const { fields, append, remove } = useFieldArray({ control, name: 'otherLabels' });
  return (
    <fieldset>
      <legend className="mb-1 text-[12px] text-ink-2">Other labels</legend>
      <ul className="space-y-1">
        {fields.map(({ id }, i) => {
          const wrong = formState.errors.otherLabels?.[i];
          return (
            <li key={id} className="flex gap-1">
              <TextField
                label={`Other label ${i + 1}`}
                hideLabel
                className="min-w-0 flex-1"
                boxClass="h-7 !px-1.5"
                error={wrong?.label?.message}
                {...register(`otherLabels.${i}.label`)}
              />
              <TextField
                label={`Language of label ${i + 1}`}
                hideLabel
                placeholder="lang."
                className="w-12"
                boxClass="h-7 !px-1.5 text-[12px]"
                error={wrong?.language?.message}
                {...register(`otherLabels.${i}.language`, TRIMMED)}
              />
              <Controller
                control={control}
                name={`otherLabels.${i}.kind`}
                render={({ field }) => (
                  <Select
                    label={`Kind of label ${i + 1}`}
                    className="h-7 w-27 text-[12px]"
                    value={field.value}
                    onChange={field.onChange}
                    options={LABEL_KINDS.map((kind) => ({ value: kind, label: KIND_NAMES[kind] }))}
                  />
                )}
              />
              <button
                type="button"
                aria-label={`Remove label ${i + 1}`}
                className="h-7 px-1 text-ink-3 hover:text-red"
                onClick={() => remove(i)}
              >
                <X size={13} />
              </button>
            </li>
          );
        })}
      </ul>
      <button
        type="button"
        className="mt-1 inline-flex items-center gap-1 text-[12px] text-slate hover:underline"
        onClick={() => append({ kind: 'alternative', language: '', label: '' })}
      >
        <Plus size={12} /> Add a label
      </button>
    </fieldset>
  );
}

/** Language tags are pasted with blanks around them. */
const TRIMMED = { setValueAs: (typed: string) => typed.trim() };

function ColourChoice({ colour, onChoose }: { colour: Facts['colour']; onChoose: (colour: Facts['colour']) => void }) {
  return (
    <fieldset>
      <legend className="mb-1 text-[12px] text-ink-2">Colour</legend>
      <div className="flex gap-1.5">
        {(['', ...TERM_COLOURS] as const).map((each) => (
          <button
            key={each}
            type="button"
            aria-label={each || 'no colour'}
            aria-pressed={colour === each}
            className={`flex size-6 items-center justify-center rounded-full border-2 ${colour === each ? 'border-ink' : 'border-transparent'}`}
            onClick={() => onChoose(each)}
          >
            <span className="size-3.5 rounded-full border border-line" style={{ background: COLOUR_DOTS[each] }} />
          </button>
        ))}
      </div>
    </fieldset>
  );
}

/** What of the term is written into files. */
function Written({ form: { control, register, formState }, language }: { form: CardFormOf; language: string }) {
  return (
    <fieldset className="space-y-1">
      <legend className="mb-1 text-[12px] text-ink-2">Written into files</legend>
      <Controller
        control={control}
        name="writeSelf"
        render={({ field }) => (
          <Checkbox checked={field.value} onChange={field.onChange}>
            the term itself
          </Checkbox>
        )}
      />
      <Controller
        control={control}
        name="writeBroader"
        render={({ field }) => (
          <Checkbox checked={field.value} onChange={field.onChange}>
            its broader terms along with it
          </Checkbox>
        )}
      />
      <div className="flex items-center gap-2 text-[12px] text-ink-2">
        <Controller
          control={control}
          name="writeOthers"
          render={({ field }) => (
            <Select
              label="Other labels written"
              className="h-7 text-[12px]"
              value={field.value}
              onChange={field.onChange}
              options={WRITTEN_OTHERS.map((one) => ({ value: one, label: OTHERS_NAMES[one] }))}
            />
          )}
        />
        in
        <TextField
          label="Language written"
          hideLabel
          placeholder={language}
          className="w-16"
          boxClass="h-7 !px-1.5"
          error={formState.errors.writeLanguage?.message}
          {...register('writeLanguage', TRIMMED)}
        />
      </div>
    </fieldset>
  );
}
