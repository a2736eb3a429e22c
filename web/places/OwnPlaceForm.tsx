// What is said of an own place.

import { useState } from 'react';
import { Controller, type UseFormReturn } from 'react-hook-form';
import { z } from 'zod';
import { PLACE_KIND_LABELS, PLACE_KINDS, USUAL_METRES, type PlaceKind } from '@stellin/core/timeplace/ownPlaces';
import type { Point } from '@stellin/core/timeplace/areas';
import { ownPlaceShape, type OwnPlaceRow } from '@stellin/contract/places';
import { useChange } from '../foundation/changes';
import { Field, TextArea, TextField } from '../parts/Field';
import { FormActions } from '../parts/FormActions';
import { Select } from '../parts/Select';
import { useFormOf } from '../parts/useFormOf';
import { PlaceLinks, type Links } from './PlaceLinks';
import { parsePoint, pointText } from './placeText';
import { RewritePhotos } from './RewritePhotos';

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

/** A new place, in another one or with what is known of it already; or one that is there. */
export type PlaceFormTask =
  | { kind: 'add'; parent: OwnPlaceRow | null; name?: string; placeKind?: PlaceKind }
  | { kind: 'change'; place: OwnPlaceRow };

interface Props {
  task: PlaceFormTask;
  places: readonly OwnPlaceRow[];
  /** What is picked on the map: where a new place is meant to be. */
  pin: Point | null;
  onClose: () => void;
}

export function OwnPlaceForm({ task, places, pin, onClose }: Props) {
  const given = task.kind === 'change' ? task.place : undefined;
  const added = task.kind === 'add' ? task : undefined;
  const parent = added?.parent;
  const point = given ? given.point : pin;
  const form = useFormOf(formSchema, {
    kind: given?.kind ?? added?.placeKind ?? kindWithin(parent?.kind),
    parentId: given ? given.parentId : (parent?.id ?? null),
    name: given?.name ?? added?.name ?? '',
    otherNames: (given?.otherNames ?? []).map(lineOf).join('\n'),
    countryCode: given?.countryCode ?? '',
    note: given?.note ?? '',
    where: point ? `${point.latitude}, ${point.longitude}` : '',
    metres: given?.metres ? String(given.metres) : '',
  });
  const { register, handleSubmit, watch, setValue } = form;
  const { errors } = form.formState;
  const change = useChange();
  const [isRewritten, setRewritten] = useState(false);
  const [links, setLinks] = useState<Links>(() => linksOf(given));
  const [name, parentId, where] = watch(['name', 'parentId', 'where']);
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
        geonamesId: links.geonamesId,
        termId: links.term?.id ?? null,
      },
      { onSuccess: onClose },
    ),
  );
  const wider = places.filter((place) => place.id !== given?.id && place.kind !== 'spot');
  return (
    <form onSubmit={submit} className="flex flex-col gap-3">
      <Within form={form} wider={wider} />
      <TextArea
        label="Other and former names"
        rows={2}
        help="One a line; years behind a former one: Saltmersc, 1200–1880"
        error={errors.otherNames?.message}
        {...register('otherNames')}
      />
      <Extent form={form} picked={given?.point ? null : pin} />
      <PlaceLinks
        links={links}
        onLinks={setLinks}
        onPoint={({ latitude, longitude }) => {
          if (where.trim() === '') setValue('where', `${latitude}, ${longitude}`);
        }}
      />
      <TextArea label="Note" rows={2} error={errors.note?.message} {...register('note')} />
      {isOther && <RewritePhotos place={given} checked={isRewritten} onChange={setRewritten} />}
      <FormActions
        action={given ? 'Keep the changes' : 'Add the place'}
        disabled={change.isPending}
        onCancel={onClose}
      />
    </form>
  );
}

type PlaceForm = UseFormReturn<z.infer<typeof formSchema>, unknown, z.infer<typeof formSchema>>;

/** What it is, and what it lies in. */
function Within({ form, wider }: { form: PlaceForm; wider: readonly OwnPlaceRow[] }) {
  const { register, control, formState } = form;
  return (
    <>
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
          error={formState.errors.name?.message}
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
    </>
  );
}

/** Where it is and how far it reaches. `picked`: the point on the map that stands there already. */
function Extent({ form, picked }: { form: PlaceForm; picked: Point | null }) {
  const { register, watch, formState } = form;
  const { errors } = formState;
  const kind = watch('kind');
  return (
    <div className="flex gap-3">
      <TextField
        label="Latitude, longitude"
        className="min-w-0 flex-1"
        help={picked ? `Picked on the map: ${pointText(picked)}` : undefined}
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
  );
}

/** What is most likely meant in a place of a kind. */
function kindWithin(parent: PlaceKind | undefined): PlaceKind {
  return parent === 'country' || parent === 'region' ? 'town' : 'spot';
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

function linksOf(place: OwnPlaceRow | undefined): Links {
  const { geonamesId = null, termId = null, termLabel = null } = place ?? {};
  return { geonamesId, geonamesName: '', term: termId === null ? null : { id: termId, label: termLabel ?? '' } };
}
