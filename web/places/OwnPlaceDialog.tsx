// An own place: adding one, changing what is said of it, merging it into another.

import { useState } from 'react';
import { Controller } from 'react-hook-form';
import { z } from 'zod';
import { criterion } from '@stellin/core/query/query';
import { queryText } from '@stellin/core/search/language';
import {
  PLACE_FIELDS,
  PLACE_KIND_LABELS,
  PLACE_KINDS,
  USUAL_METRES,
  type PlaceKind,
} from '@stellin/core/timeplace/ownPlaces';
import { foldText } from '@stellin/core/text/words';
import type { Point } from '@stellin/core/timeplace/areas';
import { ownPlaceShape, type OwnPlaceRow } from '@stellin/contract/places';
import { countText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { Button } from '../parts/Button';
import { Checkbox } from '../parts/Checkbox';
import { Combobox } from '../parts/Combobox';
import { Dialog } from '../parts/Dialog';
import { BOX, Field, TextArea, TextField } from '../parts/Field';
import { Select } from '../parts/Select';
import { useFormOf } from '../parts/useFormOf';
import { useCount } from '../photos/queries';
import { parsePoint, pointText } from './placeText';

export type OwnPlaceTask =
  | { kind: 'add'; parent: OwnPlaceRow | null; name?: string; placeKind?: PlaceKind }
  | { kind: 'change'; place: OwnPlaceRow }
  | { kind: 'merge'; place: OwnPlaceRow };

interface Props {
  task: OwnPlaceTask;
  places: readonly OwnPlaceRow[];
  /** What is picked on the map: where a new place is meant to be. */
  pin: Point | null;
  onClose: () => void;
}

export function OwnPlaceDialog({ task, places, pin, onClose }: Props) {
  const title =
    task.kind === 'add'
      ? task.parent
        ? `New place in ${task.parent.name}`
        : 'New place'
      : task.kind === 'merge'
        ? `Merge ${task.place.name} into another place`
        : `Place: ${task.place.name}`;
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={title}>
      {task.kind === 'merge' ? (
        <MergeForm place={task.place} places={places} onClose={onClose} />
      ) : (
        <PlaceForm task={task} places={places} pin={pin} onClose={onClose} />
      )}
    </Dialog>
  );
}

const shape = ownPlaceShape.shape;
const formSchema = z.object({
  kind: shape.kind,
  parentId: z.number().nullable(),
  name: shape.name,
  otherNames: z.string().max(5000),
  countryCode: shape.countryCode.unwrap(),
  note: shape.note.unwrap(),
  where: z.string().refine((typed) => typed.trim() === '' || parsePoint(typed) !== undefined, {
    message: 'Write a latitude and a longitude, as 54.12, 8.5.',
  }),
  metres: z.string().regex(/^\d{0,7}$/, 'a number of metres'),
});

function PlaceForm({ task, places, pin, onClose }: Props & { task: Exclude<OwnPlaceTask, { kind: 'merge' }> }) {
  const given = task.kind === 'change' ? task.place : undefined;
  const added = task.kind === 'add' ? task : undefined;
  const parent = added?.parent;
  const point = given ? given.point : pin;
  const { register, control, handleSubmit, formState, watch } = useFormOf(formSchema, {
    kind: given?.kind ?? added?.placeKind ?? kindWithin(parent?.kind),
    parentId: given ? given.parentId : (parent?.id ?? null),
    name: given?.name ?? added?.name ?? '',
    otherNames: (given?.otherNames ?? []).map(lineOf).join('\n'),
    countryCode: given?.countryCode ?? '',
    note: given?.note ?? '',
    where: point ? `${point.latitude}, ${point.longitude}` : '',
    metres: given?.metres ? String(given.metres) : '',
  });
  const { errors } = formState;
  const change = useChange();
  const [isRewritten, setRewritten] = useState(false);
  const [kind, name, parentId] = watch(['kind', 'name', 'parentId']);
  const isOther = given !== undefined && (name !== given.name || parentId !== given.parentId);
  const submit = handleSubmit(({ kind: placeKind, otherNames, where, metres, ...others }) =>
    change.mutate(
      {
        kind: 'saveOwnPlace',
        placeId: given?.id ?? null,
        placeKind,
        rewrite: isRewritten,
        ...others,
        otherNames: otherNames.split('\n').flatMap(otherNameOf),
        point: parsePoint(where) ?? null,
        metres: metres === '' ? null : Number(metres),
        corners: given?.corners ?? null,
      },
      { onSuccess: onClose },
    ),
  );
  const wider = places.filter((place) => place.id !== given?.id && place.kind !== 'spot');
  return (
    <form onSubmit={submit} className="flex flex-col gap-3">
      <div className="flex gap-3">
        <Controller
          control={control}
          name="kind"
          render={({ field }) => (
            <Field label="Kind" className="w-32">
              {(tied) => (
                <Select
                  {...tied}
                  value={field.value}
                  onChange={field.onChange}
                  options={PLACE_KINDS.map((each) => ({ value: each, label: PLACE_KIND_LABELS[each] }))}
                />
              )}
            </Field>
          )}
        />
        <TextField
          label="Name"
          className="min-w-0 flex-1"
          autoFocus
          error={errors.name?.message}
          {...register('name')}
        />
      </div>
      <Controller
        control={control}
        name="parentId"
        render={({ field }) => (
          <Field label="Lies in">
            {(tied) => (
              <Select
                {...tied}
                className="w-full"
                value={field.value ?? 0}
                onChange={(id) => field.onChange(id === 0 ? null : id)}
                options={[
                  { value: 0, label: 'nothing else' },
                  ...wider.map(({ id, name, path }) => ({ value: id, label: [...path, name].join(' › ') })),
                ]}
              />
            )}
          </Field>
        )}
      />
      <TextArea
        label="Other and former names"
        rows={2}
        help="One a line; years behind a former one: Saltmersc, 1200–1880"
        error={errors.otherNames?.message}
        {...register('otherNames')}
      />
      <div className="flex gap-3">
        <TextField
          label="Latitude, longitude"
          className="min-w-0 flex-1"
          help={pin && !given?.point ? `Picked on the map: ${pointText(pin)}` : undefined}
          error={errors.where?.message}
          {...register('where')}
        />
        <TextField
          label="Reaches (m)"
          className="w-28"
          placeholder={USUAL_METRES[kind] > 0 ? String(USUAL_METRES[kind]) : ''}
          error={errors.metres?.message}
          {...register('metres')}
        />
        {kind === 'country' && (
          <TextField label="Code" className="w-20" error={errors.countryCode?.message} {...register('countryCode')} />
        )}
      </div>
      <TextArea label="Note" rows={2} error={errors.note?.message} {...register('note')} />
      {isOther && <Rewriting place={given} checked={isRewritten} onChange={setRewritten} />}
      <div className="flex gap-2">
        <Button type="submit" look="primary" disabled={change.isPending}>
          {given ? 'Keep the changes' : 'Add the place'}
        </Button>
        <Button onClick={onClose}>Not now</Button>
      </div>
    </form>
  );
}

function MergeForm({
  place,
  places,
  onClose,
}: {
  place: OwnPlaceRow;
  places: readonly OwnPlaceRow[];
  onClose: () => void;
}) {
  const [text, setText] = useState('');
  const [into, setInto] = useState<OwnPlaceRow | null>(null);
  const [isRewritten, setRewritten] = useState(false);
  const change = useChange();
  const wanted = foldText(text.trim());
  const options = places.filter(({ id, name }) => id !== place.id && foldText(name).includes(wanted)).slice(0, 12);
  return (
    <form
      className="flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (into)
          change.mutate(
            { kind: 'mergeOwnPlaces', placeId: place.id, intoId: into.id, rewrite: isRewritten },
            { onSuccess: onClose },
          );
      }}
    >
      <Field label="Into">
        {(tied) => (
          <Combobox
            {...tied}
            text={text}
            onText={(next) => {
              setText(next);
              setInto(null);
            }}
            listLabel="Own places"
            opensEmpty
            firstInFocus
            nothing="There is none that is called so."
            className={`${BOX} h-8`}
            options={options.map((each) => ({
              key: String(each.id),
              content: [...each.path, each.name].join(' › '),
              onPick: () => {
                setText(each.name);
                setInto(each);
              },
            }))}
          />
        )}
      </Field>
      <p className="text-ink-2">Its names become other names of that place, and what lies in it lies there.</p>
      <Rewriting place={place} checked={isRewritten} onChange={setRewritten} />
      <div className="flex gap-2">
        <Button type="submit" look="primary" disabled={!into || change.isPending}>
          Merge them
        </Button>
        <Button onClick={onClose}>Not now</Button>
      </div>
    </form>
  );
}

interface RewritingProps {
  place: OwnPlaceRow;
  checked: boolean;
  onChange: (checked: boolean) => void;
}

/** Whether photos follow: how many say the name. */
function Rewriting({ place: { kind, name }, checked, onChange }: RewritingProps) {
  const { data } = useCount(queryText(criterion(PLACE_FIELDS[kind], name)));
  const photos = data?.count ?? 0;
  return (
    <Checkbox checked={checked} onChange={onChange} disabled={photos === 0}>
      {photos === 0
        ? `No photo says “${name}”`
        : `Rewrite it in photos too: ${countText(photos, 'photo')} ${photos === 1 ? 'says' : 'say'} “${name}”`}
    </Checkbox>
  );
}

/** What is most likely meant in a place of a kind. */
function kindWithin(parent: PlaceKind | undefined): PlaceKind {
  return parent === 'country' ? 'town' : parent === 'region' ? 'town' : 'spot';
}

function lineOf({ name, from, until }: OwnPlaceRow['otherNames'][number]): string {
  return from === '' && until === '' ? name : `${name}, ${from}–${until}`;
}

/** A line as another name, with its years if they stand behind it. */
function otherNameOf(line: string): OwnPlaceRow['otherNames'] {
  const [, name = '', from = '', until = ''] =
    /^(.*?)(?:,\s*(\d{0,4})\s*[–-]\s*(\d{0,4}))?\s*$/.exec(line.trim()) ?? [];
  return name === '' ? [] : [{ name, from, until }];
}
