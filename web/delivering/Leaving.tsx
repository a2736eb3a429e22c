// What is to leave, photo by photo: its new name, its size, and what it lacks.

import type { UseQueryResult } from '@tanstack/react-query';
import type { DeliveryKind, DeliveryPlan, PlannedCopy } from '@stellin/contract/delivering';
import { sizeText } from '@stellin/contract/sizeText';
import { countText, numberText } from '@stellin/contract/wording';
import { partLabel } from '../describing/partLabel';
import { DataTable, type Column } from '../parts/DataTable';
import { Queried } from '../parts/Queried';
import { pathColumn, PICTURE_COLUMN } from './FileCells';
import { Pager } from '../parts/Pager';

export const COPIES_SHOWN = 100;

const LACKS_COLUMN: Column<PlannedCopy> = {
  id: 'lacks',
  title: 'Lacks',
  width: 'w-36 xl:w-48',
  cell: ({ problem, lacks, away }) => (
    <span className={problem ? 'text-red' : 'text-amber'}>
      {problem ?? [...(away ? ['its drive is away'] : []), ...lacks.map(partLabel)].join(', ')}
    </span>
  ),
};

const COPY_COLUMNS: readonly Column<PlannedCopy>[] = [
  PICTURE_COLUMN,
  pathColumn('Leaves as'),
  {
    id: 'size',
    title: 'Size, about',
    isNumber: true,
    width: 'w-30',
    className: 'whitespace-nowrap',
    cell: ({ width, height, bytes }) => (
      <>
        <span className="block">{width && height ? `${width} × ${height}` : ''}</span>
        <span className="block text-[12px] text-ink-2">{bytes === null ? '' : sizeText(bytes)}</span>
      </>
    ),
  },
  LACKS_COLUMN,
];

/** Tables and sheets have no files of their own. */
const PHOTO_COLUMNS: readonly Column<PlannedCopy>[] = [
  PICTURE_COLUMN,
  {
    id: 'photo',
    title: 'Photo',
    cell: ({ original }) => (
      <span className="block truncate font-mono text-[12px]" title={original}>
        {original}
      </span>
    ),
  },
  LACKS_COLUMN,
];

interface Props {
  kind: DeliveryKind;
  plan: UseQueryResult<DeliveryPlan>;
  offset: number;
  onMove: (offset: number) => void;
}

export function Leaving({ kind, plan, offset, onMove }: Props) {
  return (
    <Queried query={plan} pending={<p className="p-4 text-ink-2">Names and sizes are being worked out …</p>}>
      {(planned) => (
        <>
          <PlanSummary kind={kind} plan={planned} />
          <DataTable
            label="Photos that leave"
            rows={planned.copies}
            keyOf={({ path, photoId }) => `${photoId} ${path}`}
            columns={kind === 'copies' ? COPY_COLUMNS : PHOTO_COLUMNS}
            empty=""
          />
          <Pager offset={offset} page={COPIES_SHOWN} total={planned.photos} onMove={onMove} />
        </>
      )}
    </Queried>
  );
}

function PlanSummary({ kind, plan }: { kind: DeliveryKind; plan: DeliveryPlan }) {
  const notes = [
    plan.private > 0 && `${countText(plan.private, 'photo')} marked private ${plan.private === 1 ? 'stays' : 'stay'}`,
    // Tables and sheets need no files.
    kind === 'copies' &&
      plan.away > 0 &&
      `${numberText(plan.away)} on drives that are away: they wait, or are left out of a download`,
    plan.problems > 0 && `${numberText(plan.problems)} can’t leave`,
    kind === 'copies' && plan.renamed > 0 && `${numberText(plan.renamed)} get a number, their name is another’s`,
  ].filter((note) => note !== false);
  if (plan.problem)
    return (
      <p role="alert" className="m-3 rounded bg-red-pale px-2.5 py-1.5 text-red">
        {plan.problem}
      </p>
    );
  return notes.length > 0 ? (
    <p className="border-b border-line bg-amber-pale px-4 py-1.5 text-amber">{notes.join(' · ')}.</p>
  ) : null;
}
