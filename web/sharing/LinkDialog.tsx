// Making a view link for what is meant: what it says, how long it holds, and then its address.

import { Controller } from 'react-hook-form';
import { z } from 'zod';
import { LOOK_IDS, LOOKS } from '@stellin/core/delivering/gallery';
import { SHOWN_COLUMNS } from '@stellin/core/sharing/links';
import { originOf } from '@stellin/core/sharing/embedding';
import { SORT_ORDERS, SORTS, type Sort } from '@stellin/core/search/sorts';
import type { Selection } from '@stellin/contract/photos';
import { day, text } from '@stellin/contract/route';
import { linkRequest, linkSettings } from '@stellin/contract/sharing';
import { Checkbox } from '../parts/Checkbox';
import { ColumnsChoice } from '../parts/ColumnsChoice';
import { Dialog } from '../parts/Dialog';
import { Field, TextArea, TextField } from '../parts/Field';
import { FormActions } from '../parts/FormActions';
import { Radio, RadioGroup } from '../parts/RadioGroup';
import { Select } from '../parts/Select';
import { useFormOf } from '../parts/useFormOf';
import { NewAddress } from './NewAddress';
import { useMakeLink } from './queries';

interface Props {
  meant: { selection: Selection; sort: Sort };
  onClose: () => void;
}

const { title, words, watermark } = linkSettings.shape;
const WHOLE_NUMBER_OR_NOTHING = /^([1-9]\d{0,5})?$/;
const NUMBER_TO_THOUSANDS_OR_NOTHING = /^([1-9]\d{0,2})?$/;
/** What is typed: an empty text is no limit. */
const schema = z.object({
  title: title.unwrap(),
  words: words.unwrap(),
  forWhom: linkRequest.shape.forWhom.unwrap(),
  source: z.enum(['fixed', 'following']),
  password: text.max(200),
  endsOn: z.union([z.literal(''), day]),
  mostViews: text.regex(WHOLE_NUMBER_OR_NOTHING, 'A number from 1, or nothing.'),
  tellAfter: text.regex(NUMBER_TO_THOUSANDS_OR_NOTHING, 'A number from 1 to 999, or nothing.'),
  look: z.enum(LOOK_IDS),
  sort: z.enum(SORTS),
  longEdge: z.number().int().min(400, 'From 400 to 2048.').max(2048, 'From 400 to 2048.'),
  watermark: watermark.unwrap(),
  people: z.boolean(),
  terms: z.boolean(),
  downloads: z.boolean(),
  answers: z.boolean(),
  map: z.boolean(),
  iiif: z.boolean(),
  embedOn: text.refine(
    (typed) => originsIn(typed).every((each) => originOf(each) !== undefined),
    'Addresses like https://museum.example, and nothing behind them.',
  ),
  columns: linkSettings.shape.columns.unwrap(),
});
type Values = z.infer<typeof schema>;

const originsIn = (typed: string): string[] => typed.split(/[\s,]+/).filter(Boolean);

const NEW: Values = {
  ...{
    title: 'Pictures',
    words: '',
    forWhom: '',
    source: 'fixed',
    password: '',
    endsOn: '',
    mostViews: '',
    tellAfter: '',
    look: 'paper',
  },
  ...{ longEdge: 1600, watermark: '', people: false, terms: false, downloads: false, answers: false, columns: [] },
  ...{ map: false, iiif: false, embedOn: '', sort: 'taken' },
};
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

export function LinkDialog({ meant, onClose }: Props) {
  const make = useMakeLink();
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={make.data ? 'The link is made' : 'View link'} wide>
      {make.data ? (
        <NewAddress link={make.data} title={make.variables.settings?.title ?? ''} onClose={onClose} />
      ) : (
        <Form meant={meant} make={make} onClose={onClose} />
      )}
    </Dialog>
  );
}

function Form({ meant: { selection, sort }, make, onClose }: Props & { make: ReturnType<typeof useMakeLink> }) {
  const form = useFormOf<Values>(schema, { ...NEW, sort });
  const { errors } = form.formState;
  const canFollow = selection.query !== null && selection.plus.length === 0 && selection.minus.length === 0;
  const send = form.handleSubmit(
    ({ forWhom, source, sort: order, password, endsOn, mostViews, tellAfter, embedOn, ...settings }) =>
      make.mutate({
        source:
          source === 'following'
            ? { kind: source, query: selection.query ?? '', sort: order }
            : { kind: source, selection, sort: order },
        settings: {
          ...settings,
          embedOn: originsIn(embedOn),
          tellAfter: source === 'following' && tellAfter !== '' ? Number(tellAfter) : null,
        },
        forWhom,
        password: password === '' ? null : password,
        endsOn: endsOn === '' ? null : endsOn,
        mostViews: mostViews === '' ? null : Number(mostViews),
      }),
  );
  return (
    <form className="space-y-3" onSubmit={(event) => void send(event)}>
      <p className="text-ink-2">
        Whoever has its address sees these pictures in a browser, without an account. Private photos and people never
        appear.
      </p>
      <div className="grid grid-cols-2 gap-x-6 gap-y-3">
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
        <Controller
          control={form.control}
          name="sort"
          render={({ field }) => (
            <Field label="Order">
              {(tied) => (
                <Select
                  {...tied}
                  className="w-full"
                  value={field.value}
                  options={SORT_OPTIONS}
                  onChange={field.onChange}
                />
              )}
            </Field>
          )}
        />
        <Controller
          control={form.control}
          name="look"
          render={({ field }) => (
            <Field label="Look">
              {(tied) => (
                <Select
                  {...tied}
                  className="w-full"
                  value={field.value}
                  options={LOOK_OPTIONS}
                  onChange={field.onChange}
                />
              )}
            </Field>
          )}
        />
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
      </div>
      <details>
        <summary className="cursor-pointer text-slate">In a page of somebody else</summary>
        <TextArea
          label="Pages that may show it in a frame"
          rows={2}
          className="mt-2"
          placeholder="https://museum.example"
          help="Their addresses, one a line. Such a link has no password and no limit of viewings: whoever sees the page sees the pictures."
          error={errors.embedOn?.message}
          {...form.register('embedOn')}
        />
      </details>
      {make.error && (
        <p role="alert" className="text-red">
          {make.error.message}
        </p>
      )}
      <FormActions onCancel={onClose} action="Make the link" disabled={make.isPending} />
    </form>
  );
}
