// The parts of the form that makes a view link.

import { Controller, type UseFormReturn } from 'react-hook-form';
import { LOOK_IDS, LOOKS } from '@stellin/core/delivering/gallery';
import { SHOWN_COLUMNS } from '@stellin/core/sharing/links';
import { SORT_ORDERS, SORTS } from '@stellin/core/search/sorts';
import { Checkbox } from '../parts/Checkbox';
import { ColumnsChoice } from '../parts/ColumnsChoice';
import { Field, TextArea, TextField } from '../parts/Field';
import { Radio, RadioGroup } from '../parts/RadioGroup';
import { Select } from '../parts/Select';
import type { LinkValues } from './linkForm';

interface Props {
  form: UseFormReturn<LinkValues, unknown, LinkValues>;
}

const LOOK_OPTIONS = LOOK_IDS.map((value) => ({ value, label: LOOKS[value].label }));
const SORT_OPTIONS = SORTS.map((value) => ({ value, label: SORT_ORDERS[value].label }));
const SWITCHES = [
  ['people', 'Names of people (never those of private ones)'],
  ['terms', 'Terms'],
  ['downloads', 'Pictures may be downloaded'],
  ['map', 'Where they were taken, on a map'],
  ['answers', 'Who looks may answer: favourites, remarks, names, places'],
  ['iiif', 'Viewers of other houses may have them (IIIF)'],
] as const;

/** Title, words, and which pictures. */
export function WhatItShows({ form, canFollow }: Props & { canFollow: boolean }) {
  const { errors } = form.formState;
  return (
    <>
      <TextField label="Title" required autoFocus error={errors.title?.message} {...form.register('title')} />
      <TextField
        label="For whom"
        help="Only we see this."
        error={errors.forWhom?.message}
        {...form.register('forWhom')}
      />
      <TextArea label="Words below the title" rows={2} error={errors.words?.message} {...form.register('words')} />
      {canFollow && (
        <Controller
          control={form.control}
          name="source"
          render={({ field }) => (
            <RadioGroup label="Which pictures" value={field.value} onChange={field.onChange}>
              <Radio value="fixed">those that are found today</Radio>
              <Radio value="following">whatever is found when somebody looks</Radio>
            </RadioGroup>
          )}
        />
      )}
      {form.watch('source') === 'following' && (
        <TextField
          label="Tell when so many are new"
          inputMode="numeric"
          placeholder="nobody is told"
          help="Those to whom the link was sent by mail, at most once a day."
          error={errors.tellAfter?.message}
          {...form.register('tellAfter')}
        />
      )}
    </>
  );
}

/** Who may see it, and for how long. */
export function WhoMaySee({ form }: Props) {
  const { errors } = form.formState;
  return (
    <>
      <TextField
        label="Password"
        autoComplete="off"
        help="Empty: none is asked for."
        error={errors.password?.message}
        {...form.register('password')}
      />
      <div className="grid grid-cols-2 gap-3">
        <TextField label="Last day" type="date" error={errors.endsOn?.message} {...form.register('endsOn')} />
        <TextField
          label="Viewings at most"
          inputMode="numeric"
          placeholder="no limit"
          error={errors.mostViews?.message}
          {...form.register('mostViews')}
        />
      </div>
    </>
  );
}

const LISTS = [
  ['sort', 'Order', SORT_OPTIONS],
  ['look', 'Look', LOOK_OPTIONS],
] as const;

/** Order, look, and how large pictures are. */
export function HowItLooks({ form }: Props) {
  const { errors } = form.formState;
  return (
    <>
      {LISTS.map(([name, label, options]) => (
        <Controller
          key={name}
          control={form.control}
          name={name}
          render={({ field }) => (
            <Field label={label}>
              {(tied) => (
                <Select<string>
                  {...tied}
                  className="w-full"
                  value={field.value}
                  options={options}
                  onChange={field.onChange}
                />
              )}
            </Field>
          )}
        />
      ))}
      <div className="grid grid-cols-2 gap-3">
        <TextField
          label="Long edge in pixels"
          type="number"
          error={errors.longEdge?.message}
          {...form.register('longEdge', { valueAsNumber: true })}
        />
        <TextField
          label="Watermark"
          placeholder="none"
          error={errors.watermark?.message}
          {...form.register('watermark')}
        />
      </div>
    </>
  );
}

/** What is said besides captions, and what who looks may do. */
export function WhatItSays({ form }: Props) {
  return (
    <>
      <fieldset>
        <legend className="mb-1 text-[12px] text-ink-2">Shown as well</legend>
        {SWITCHES.map(([name, label]) => (
          <Controller
            key={name}
            control={form.control}
            name={name}
            render={({ field }) => (
              <Checkbox checked={field.value} onChange={field.onChange} className="py-0.5">
                {label}
              </Checkbox>
            )}
          />
        ))}
      </fieldset>
      <Controller
        control={form.control}
        name="columns"
        render={({ field }) => (
          <ColumnsChoice
            label="Below each picture, besides its caption"
            ids={SHOWN_COLUMNS}
            chosen={field.value}
            onChange={field.onChange}
          />
        )}
      />
    </>
  );
}

/** Pages of others that may show it. */
export function WhereItStands({ form }: Props) {
  return (
    <details>
      <summary className="cursor-pointer text-slate">In a page of somebody else</summary>
      <TextArea
        label="Pages that may show it in a frame"
        rows={2}
        className="mt-2"
        placeholder="https://museum.example"
        help="Their addresses, one a line. Such a link has no password and no limit of viewings: whoever sees the page sees the pictures."
        error={form.formState.errors.embedOn?.message}
        {...form.register('embedOn')}
      />
    </details>
  );
}
