// When backups are made, where they are kept, how many stay, and those there are.

import { Controller } from 'react-hook-form';
import { backupPlan, type Backup, type BackupPlan } from '@stellin/contract/backup';
import { sizeText } from '@stellin/contract/sizeText';
import { Button } from '../parts/Button';
import { Checkbox } from '../parts/Checkbox';
import { DataTable, type Column } from '../parts/DataTable';
import { dateTimeText } from '../parts/dateTimeText';
import { Dialog } from '../parts/Dialog';
import { TextField } from '../parts/Field';
import { FormActions } from '../parts/FormActions';
import { Queried } from '../parts/Queried';
import { useFormOf } from '../parts/useFormOf';
import { useBackups, useCheckBackup, usePlanBackups } from './queries';

export function BackupDialog({ onClose }: { onClose: () => void }) {
  const backups = useBackups();
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title="Backups of the catalogue" wide>
      <Queried query={backups}>
        {({ plan, ownFolder, backups: made }) => (
          <>
            <Plan plan={plan} ownFolder={ownFolder} onClose={onClose} />
            <h3 className="mt-5 mb-2 font-title text-[15px] font-semibold">Those there are</h3>
            <Made backups={made} />
          </>
        )}
      </Queried>
    </Dialog>
  );
}

function Plan({ plan, ownFolder, onClose }: { plan: BackupPlan; ownFolder: string; onClose: () => void }) {
  const { register, control, handleSubmit, formState, setError, watch } = useFormOf(backupPlan, plan);
  const settle = usePlanBackups();
  const { errors } = formState;
  return (
    <form
      onSubmit={handleSubmit((settled) =>
        settle.mutate(settled, {
          onSuccess: onClose,
          onError: (error) => setError('folder', { message: error instanceof Error ? error.message : String(error) }),
        }),
      )}
      className="flex flex-col gap-3"
    >
      <p className="text-ink-2">
        A backup holds all that was said here: the catalogue, its history, settings and the pictures of faces. The
        photos themselves stay on their drives.
      </p>
      <div className="flex flex-wrap items-end gap-x-4 gap-y-3">
        <Controller
          control={control}
          name="nightly"
          render={({ field }) => (
            <Checkbox checked={field.value} onChange={field.onChange} className="pb-1.5">
              Make one by itself, each day at
            </Checkbox>
          )}
        />
        <TextField
          label="Time of day"
          hideLabel
          type="time"
          className="w-28"
          disabled={!watch('nightly')}
          error={errors.time?.message}
          {...register('time')}
        />
      </div>
      <TextField
        label="Folder"
        placeholder={ownFolder}
        help="Better one on another disk: a backup that stands beside the catalogue is lost together with it."
        error={errors.folder?.message}
        {...register('folder')}
      />
      <fieldset>
        <legend className="mb-1 text-[12px] text-ink-2">
          Of those made by themselves the last one stays of so many
        </legend>
        <div className="flex gap-3">
          {(['days', 'weeks', 'months'] as const).map((unit) => (
            <TextField
              key={unit}
              label={unit}
              type="number"
              min={0}
              className="w-24"
              error={errors.keep?.[unit]?.message}
              {...register(`keep.${unit}`, { valueAsNumber: true })}
            />
          ))}
        </div>
      </fieldset>
      <Controller
        control={control}
        name="previews"
        render={({ field }) => (
          <Checkbox checked={field.value} onChange={field.onChange}>
            Previews go along (much larger; they can be made anew while drives are attached)
          </Checkbox>
        )}
      />
      <FormActions onCancel={onClose} action="Keep the plan" disabled={settle.isPending} />
    </form>
  );
}

function Made({ backups }: { backups: readonly Backup[] }) {
  const check = useCheckBackup();
  const columns: Column<Backup>[] = [
    {
      id: 'at',
      title: 'When',
      headsRow: true,
      sortBy: ({ at }) => at,
      cell: ({ at, nightly }) => `${dateTimeText(at)}${nightly ? '' : ' · asked for'}`,
    },
    {
      id: 'size',
      title: 'Size',
      isNumber: true,
      sortBy: ({ bytes }) => bytes,
      cell: ({ bytes, problem }) => (problem === null ? sizeText(bytes) : '–'),
    },
    { id: 'path', title: 'File', className: 'break-all', cell: fileOf },
    { id: 'checked', title: 'Tried out', cell: checkOf },
    {
      id: 'check',
      title: '',
      cell: ({ id, there }) =>
        there && (
          <Button className="!h-7" disabled={check.isPending} onClick={() => check.mutate(id)}>
            Try it out
          </Button>
        ),
    },
  ];
  return (
    <DataTable
      label="Backups"
      rows={backups}
      keyOf={({ id }) => id}
      columns={columns}
      small
      empty={<p className="text-ink-2">None yet.</p>}
    />
  );
}

function fileOf({ path, there, problem }: Backup) {
  if (problem !== null) return <span className="text-red">{problem}</span>;
  return there ? path : <span className="text-amber">{path} is not there now</span>;
}

function checkOf({ checkedAt, checkProblem }: Backup) {
  if (checkedAt === null) return '–';
  if (checkProblem !== null) return <span className="text-red">{checkProblem}</span>;
  return dateTimeText(checkedAt);
}
