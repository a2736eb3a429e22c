// Noting that the clock of a camera was wrong, and for how long.

import { Controller } from 'react-hook-form';
import { z } from 'zod';
import { cameraClockShape, type CameraClockRow } from '@stellin/contract/tracks';
import { useChange } from '../foundation/changes';
import { Combobox } from '../parts/Combobox';
import { Dialog } from '../parts/Dialog';
import { BOX, Field, TextField } from '../parts/Field';
import { FormActions } from '../parts/FormActions';
import { Select } from '../parts/Select';
import { useFormOf } from '../parts/useFormOf';
import { useFacets } from '../search/queries';

const UNITS = { days: 86_400, hours: 3600, minutes: 60, seconds: 1 };
type Unit = keyof typeof UNITS;
const AMOUNT = /^\d{1,3}$/;

const { camera, from, until } = cameraClockShape.shape;
const amount = z.string().regex(AMOUNT, 'a number');
const formSchema = z
  .object({
    ...{ camera, from, until, days: amount, hours: amount, minutes: amount, seconds: amount },
    way: z.enum(['ahead', 'behind']),
  })
  .refine((said) => said.from <= said.until, { path: ['until'], message: 'lies before the first day' })
  .refine((said) => secondsOf(said) > 0, { path: ['hours'], message: 'how far it was off' });

export function ClockDialog({ clock, onClose }: { clock: CameraClockRow | null; onClose: () => void }) {
  const { register, control, handleSubmit, formState } = useFormOf(formSchema, {
    ...{ camera: clock?.camera ?? '', from: clock?.from ?? '', until: clock?.until ?? '' },
    ...partsOf(Math.abs(clock?.aheadSeconds ?? UNITS.hours)),
    way: (clock?.aheadSeconds ?? 1) > 0 ? 'ahead' : 'behind',
  });
  const { errors } = formState;
  const change = useChange();
  const submit = handleSubmit((said) =>
    change.mutate(
      {
        ...{ kind: 'saveCameraClock', clockId: clock?.id ?? null },
        ...{ camera: said.camera, from: said.from, until: said.until, note: clock?.note ?? '' },
        aheadSeconds: secondsOf(said) * (said.way === 'ahead' ? 1 : -1),
      },
      { onSuccess: onClose },
    ),
  );
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={clock ? 'A wrong clock' : 'Note a wrong clock'}>
      <form onSubmit={submit} className="flex flex-col gap-3">
        <Controller
          control={control}
          name="camera"
          render={({ field }) => (
            <CameraField text={field.value} onText={field.onChange} error={errors.camera?.message} />
          )}
        />
        <div className="flex gap-3">
          <TextField
            label="First day"
            type="date"
            help="As its clock had it."
            error={errors.from?.message}
            {...register('from')}
          />
          <TextField label="Last day" type="date" error={errors.until?.message} {...register('until')} />
        </div>
        <div className="flex items-end gap-2">
          {(Object.keys(UNITS) as Unit[]).map((unit) => (
            <TextField
              key={unit}
              label={unit.charAt(0).toUpperCase() + unit.slice(1)}
              className="w-16"
              boxClass="figures h-8"
              inputMode="numeric"
              error={errors[unit]?.message}
              {...register(unit)}
            />
          ))}
          <Controller
            control={control}
            name="way"
            render={({ field }) => (
              <Select
                label="Ahead or behind"
                className="h-8"
                value={field.value}
                onChange={field.onChange}
                options={[
                  { value: 'ahead', label: 'ahead' },
                  { value: 'behind', label: 'behind' },
                ]}
              />
            )}
          />
        </div>
        <p className="text-[12px] text-ink-2">
          Photos of this camera from these days that still say what its clock said can then be put right in one step,
          those of later cards too.
        </p>
        <FormActions action={clock ? 'Change' : 'Note'} disabled={change.isPending} onCancel={onClose} />
      </form>
    </Dialog>
  );
}

interface CameraProps {
  text: string;
  onText: (text: string) => void;
  error: string | undefined;
}

/** A camera as photos say it, of those that took most. */
function CameraField({ text, onText, error }: CameraProps) {
  const { data: facets } = useFacets('', { facets: ['camera'], limit: 50 });
  const cameras = facets?.[0]?.values.map(({ label }) => label) ?? [];
  return (
    <Field label="Camera" error={error}>
      {(tied) => (
        <Combobox
          {...tied}
          text={text}
          onText={onText}
          listLabel="Cameras"
          placeholder="Maker and model"
          className={`${BOX} h-8`}
          options={cameras
            .filter((each) => each !== text && each.toLowerCase().includes(text.toLowerCase()))
            .map((each) => ({ key: each, content: each, onPick: () => onText(each) }))}
        />
      )}
    </Field>
  );
}

function secondsOf(said: Record<Unit, string>): number {
  return (Object.keys(UNITS) as Unit[]).reduce((sum, unit) => sum + Number(said[unit]) * UNITS[unit], 0);
}

function partsOf(seconds: number): Record<Unit, string> {
  let left = seconds;
  const parts = (Object.keys(UNITS) as Unit[]).map((unit) => {
    const count = Math.floor(left / UNITS[unit]);
    left -= count * UNITS[unit];
    return [unit, String(count)];
  });
  return Object.fromEntries(parts) as Record<Unit, string>;
}
