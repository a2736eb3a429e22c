// Rows by what is the matter with them.

import { useState } from 'react';
import type { IncomingRow, IncomingTable, RowState } from '@stellin/contract/incomingTables';
import { incomingRestPath } from '@stellin/contract/incomingTables';
import { countText, numberText } from '@stellin/contract/wording';
import { DataTable, type Column } from '../parts/DataTable';
import { FilterButton } from '../parts/FilterButton';
import { Pager } from '../parts/Pager';
import { Queried } from '../parts/Queried';
import { ROWS_SHOWN, useTableRows } from './queries';

const STATE_LABELS: Readonly<Record<RowState, string>> = {
  none: 'about no photo',
  several: 'about several',
  partly: 'not taken wholly',
  again: 'about a photo of a row before',
  found: 'about one photo',
};
const STATES = Object.keys(STATE_LABELS) as RowState[];
const MATTERS: Readonly<Record<RowState, (row: IncomingRow) => string>> = {
  none: () => 'No photo is meant',
  several: ({ photos }) => `${countText(photos, 'photo')} are meant`,
  partly: ({ problem }) => problem ?? '',
  again: () => 'A row before is about this photo as well',
  found: ({ problem }) => problem ?? '',
};

const COLUMNS_SHOWN = 4;

export function RowsTab({ table }: { table: IncomingTable }) {
  const { counts, columns, settings } = table;
  const [state, setState] = useState<RowState>(() => STATES.find((each) => counts[each] > 0) ?? 'none');
  const [offset, setOffset] = useState(0);
  const rows = useTableRows(table, state, offset);
  // What finds the photo comes first.
  const order = columns
    .map(({ header }, at) => ({ header, at, finds: settings.uses[at]?.to.startsWith('key') ?? false }))
    .sort((a, b) => Number(b.finds) - Number(a.finds) || a.at - b.at)
    .slice(0, COLUMNS_SHOWN);
  const shown: readonly Column<IncomingRow>[] = [
    {
      id: 'position',
      title: 'Row',
      isNumber: true,
      width: 'w-16',
      cell: ({ position }) => numberText(position),
    },
    ...order.map(({ header, at }) => ({
      id: String(at),
      title: header,
      className: 'truncate',
      cell: ({ cells }: IncomingRow) => <span title={cells[at]}>{cells[at]}</span>,
    })),
    {
      id: 'matter',
      title: 'What is the matter',
      width: 'w-64',
      className: 'break-words text-amber',
      cell: (row) => MATTERS[state](row),
    },
  ];
  const left = counts.none + counts.several + counts.partly;
  return (
    <>
      <p className="figures flex flex-wrap items-center gap-4 border-b border-line px-3 py-2 text-[12px]">
        {STATES.map((each) => (
          <FilterButton
            key={each}
            isOn={each === state}
            disabled={counts[each] === 0}
            onClick={() => {
              setState(each);
              setOffset(0);
            }}
          >
            {numberText(counts[each])} {STATE_LABELS[each]}
          </FilterButton>
        ))}
        {left > 0 && (
          <a className="ml-auto text-slate underline" href={incomingRestPath(table.id)} download>
            Save {countText(left, 'row')} as CSV
          </a>
        )}
      </p>
      <Queried query={rows}>
        {({ rows: page, total }) => (
          <>
            <DataTable
              label="Rows"
              rows={page}
              keyOf={({ position }) => position}
              columns={shown}
              empty={<p className="p-4 text-ink-2">None.</p>}
            />
            <Pager offset={offset} page={ROWS_SHOWN} total={total} onMove={setOffset} />
          </>
        )}
      </Queried>
    </>
  );
}
