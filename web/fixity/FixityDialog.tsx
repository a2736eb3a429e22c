// The files of the archive by drive: what is known of them, when they are read again, and the damaged ones with their copies.

import { Link } from 'react-router';
import { Controller } from 'react-hook-form';
import { fixityRoutes, fixityPlan, type DriveFixity, type FixityPlan } from '@stellin/contract/fixity';
import { numberText } from '@stellin/contract/wording';
import { useMayCall } from '../foundation/session';
import { Button } from '../parts/Button';
import { Checkbox } from '../parts/Checkbox';
import { DataTable, type Column } from '../parts/DataTable';
import { dateTimeText } from '../parts/dateTimeText';
import { deskLink } from '../parts/deskLink';
import { Dialog } from '../parts/Dialog';
import { TextField } from '../parts/Field';
import { Queried } from '../parts/Queried';
import { useFormOf } from '../parts/useFormOf';
import { DamagedFiles } from './DamagedFiles';
import { useFixity, usePlanFixity, useReadDriveAgain } from './queries';

export function FixityDialog({ onClose }: { onClose: () => void }) {
  const fixity = useFixity();
  const isKeeper = useMayCall(fixityRoutes.planFixity);
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title="Files by drive" wide>
      <p className="mb-3 text-ink-2">
        Each file is known by its SHA-256 from when it was taken in or last written. Read again, it is compared with
        that, as the drive holds it.
      </p>
      <Queried query={fixity}>
        {({ plan, drives }) => (
          <>
            <Drives drives={drives} />
            {drives.some(({ damaged }) => damaged > 0) && <DamagedFiles />}
            <h3 className="mt-5 mb-2 font-title text-[15px] font-semibold">Reading by itself</h3>
            {isKeeper ? <Plan plan={plan} /> : <p className="text-ink-2">{planText(plan)}</p>}
          </>
        )}
      </Queried>
    </Dialog>
  );
}

const COUNTS = [
  { state: 'unchanged', title: 'Unchanged' },
  { state: 'ours', title: 'Changed by us' },
  { state: 'others', title: 'Changed by others' },
  { state: 'damaged', title: 'Damaged' },
  { state: 'missing', title: 'Missing' },
  { state: 'unread', title: 'Not read' },
] as const;

function Drives({ drives }: { drives: readonly DriveFixity[] }) {
  const read = useReadDriveAgain();
  const mayRead = useMayCall(fixityRoutes.readDriveAgain);
  const columns: Column<DriveFixity>[] = [
    {
      id: 'drive',
      title: 'Drive',
      headsRow: true,
      sortBy: ({ label }) => label,
      cell: ({ label, away }) => `${label}${away ? ' · away' : ''}`,
    },
    ...COUNTS.map(({ state, title }): Column<DriveFixity> => ({
      id: state,
      title,
      isNumber: true,
      sortBy: (drive) => drive[state],
      cell: (drive) =>
        drive[state] === 0 ? (
          <span className="text-ink-3">0</span>
        ) : (
          <Link
            to={deskLink(`drive:"${drive.label}" fixity:${state}`)}
            className={`underline decoration-line underline-offset-2 hover:decoration-ink-2 ${state === 'damaged' ? 'font-semibold text-red' : ''}`}
          >
            {numberText(drive[state])}
          </Link>
        ),
    })),
    {
      id: 'oldest',
      title: 'Oldest proof',
      sortBy: ({ oldest }) => oldest,
      className: 'whitespace-nowrap',
      cell: ({ oldest }) => (oldest === null ? '–' : dateTimeText(oldest)),
    },
    {
      id: 'read',
      title: '',
      cell: ({ id, away }) =>
        mayRead &&
        !away && (
          <Button className="!h-7 whitespace-nowrap" disabled={read.isPending} onClick={() => read.mutate(id)}>
            Read again
          </Button>
        ),
    },
  ];
  return (
    <DataTable
      label="Files by drive"
      rows={drives}
      keyOf={({ id }) => id}
      columns={columns}
      small
      empty={<p className="text-ink-2">No drive yet.</p>}
    />
  );
}

function planText({ byItself, hours, days, megabytes }: FixityPlan): string {
  if (!byItself) return 'Drives are read again only when somebody asks for it.';
  return `Between ${hours.from} and ${hours.to}, each file every ${numberText(days)} days, ${numberText(megabytes)} megabytes a second at most.`;
}

function Plan({ plan }: { plan: FixityPlan }) {
  const { register, control, handleSubmit, formState, watch, reset } = useFormOf(fixityPlan, plan);
  const settle = usePlanFixity();
  const { errors, isDirty } = formState;
  const disabled = !watch('byItself');
  return (
    <form
      onSubmit={handleSubmit((settled) => settle.mutate(settled, { onSuccess: () => reset(settled) }))}
      className="flex flex-col gap-3"
    >
      <Controller
        control={control}
        name="byItself"
        render={({ field }) => (
          <Checkbox checked={field.value} onChange={field.onChange}>
            Drives are read again by themselves; those that are away when they are back
          </Checkbox>
        )}
      />
      <div className="flex flex-wrap items-start gap-3">
        <TextField
          label="From"
          type="time"
          className="w-28"
          disabled={disabled}
          error={errors.hours?.from?.message}
          {...register('hours.from')}
        />
        <TextField
          label="To"
          type="time"
          className="w-28"
          disabled={disabled}
          error={errors.hours?.to?.message}
          {...register('hours.to')}
        />
        <TextField
          label="Each file once in so many days"
          type="number"
          min={1}
          className="w-52"
          disabled={disabled}
          error={errors.days?.message}
          {...register('days', { valueAsNumber: true })}
        />
        <TextField
          label="Megabytes a second at most"
          type="number"
          min={1}
          className="w-48"
          disabled={disabled}
          error={errors.megabytes?.message}
          {...register('megabytes', { valueAsNumber: true })}
        />
        <Button type="submit" className="mt-[19px]" disabled={settle.isPending || !isDirty}>
          Keep the plan
        </Button>
      </div>
    </form>
  );
}
