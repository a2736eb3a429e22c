// What each column of a table is for: its header and some values on the left, what becomes of them on the right.

import { DESCRIBED_FIELDS, shapeOf, type Target } from '@stellin/core/describing/targets';
import { EDIT_MODES, type EditMode } from '@stellin/core/describing/editing';
import { DATE_ORDERS, DATE_ORDER_IDS } from '@stellin/core/incomingTables/dates';
import { fieldUse, isFillable, type ColumnUse } from '@stellin/core/incomingTables/uses';
import type { IncomingTable } from '@stellin/contract/incomingTables';
import { MODE_LABELS } from '../describing/modes';
import { useOwnTargets } from '../describing/queries';
import { DataTable, type Column } from '../parts/DataTable';
import { languageText, USUAL_LANGUAGES } from '../parts/languageText';
import { Select } from '../parts/Select';
import { fieldOption, optionOf, PLAIN_OPTIONS, chosenUse } from './uses';

interface Row {
  at: number;
  header: string;
  samples: string[];
  use: ColumnUse;
}

interface Props {
  table: IncomingTable;
  onChange: (uses: ColumnUse[]) => void;
}

export function ColumnsTab({ table, onChange }: Props) {
  const own = useOwnTargets();
  const rows = table.columns.map(({ header, samples }, at): Row => {
    const use = table.settings.uses[at] ?? { to: 'nothing' };
    return { at, header, samples, use };
  });
  const set = (at: number, use: ColumnUse) => onChange(rows.map((row) => (row.at === at ? use : row.use)));
  const columns: readonly Column<Row>[] = [
    {
      id: 'header',
      title: 'Column',
      width: 'w-[38%]',
      headsRow: true,
      cell: ({ header, samples }) => (
        <span className="block min-w-0">
          <span className="block truncate font-semibold" title={header}>
            {header}
          </span>
          <span className="block truncate text-[12px] font-normal text-ink-2" title={samples.join('\n')}>
            {samples.join(' · ') || 'empty'}
          </span>
        </span>
      ),
    },
    {
      id: 'use',
      title: 'Is for',
      cell: ({ at, header, samples, use }) => (
        <span className="flex flex-wrap items-center gap-2">
          <Select
            label={`What “${header}” is for`}
            className="w-52"
            value={optionOf(use)}
            options={[...PLAIN_OPTIONS, ...fieldOptions(own)]}
            onChange={(option) => set(at, chosenUse(option, samples))}
          />
          <Further header={header} samples={samples} use={use} onChange={(next) => set(at, next)} />
        </span>
      ),
    },
  ];
  return <DataTable label="Columns" rows={rows} keyOf={({ at }) => at} columns={columns} />;
}

function fieldOptions(own: readonly Target[]) {
  return [
    ...own.map((target) => ({ value: fieldOption(target), label: shapeOf(target).label, group: 'Own fields' })),
    ...DESCRIBED_FIELDS.filter(({ id }) => isFillable(id as Target)).map(({ id, label }) => ({
      value: fieldOption(id as Target),
      label,
      group: 'Fields',
    })),
  ];
}

const FINDS = 'finds';
const MODES = EDIT_MODES.map((mode) => ({ value: mode, label: MODE_LABELS[mode] }));

interface FurtherProps {
  header: string;
  samples: readonly string[];
  use: ColumnUse;
  onChange: (use: ColumnUse) => void;
}

/** How values are put in, and how they are read. */
function Further({ header, samples, use, onChange }: FurtherProps) {
  if (use.to === 'terms')
    return (
      <Select
        label={`How terms of “${header}” are put in`}
        value={use.mode}
        options={MODES}
        onChange={(mode) => onChange({ ...use, mode })}
      />
    );
  if (use.to !== 'field' && use.to !== 'keyField') return null;
  const { target } = use;
  const { type } = shapeOf(target);
  return (
    <>
      <Select<EditMode | typeof FINDS>
        label={`How values of “${header}” are put in`}
        value={use.to === 'field' ? use.mode : FINDS}
        options={[...MODES, { value: FINDS, label: 'finds the photo' }]}
        onChange={(mode) => {
          if (mode === FINDS) onChange({ to: 'keyField', target });
          else if (use.to === 'field') onChange({ ...use, mode });
          else onChange({ ...fieldUse(target, samples), mode });
        }}
      />
      {use.to === 'field' && type === 'langAlt' && (
        <Select
          label={`Language of “${header}”`}
          value={use.language}
          options={[
            { value: '', label: 'default language' },
            ...USUAL_LANGUAGES.map((language) => ({ value: language, label: languageText(language) })),
          ]}
          onChange={(language) => onChange({ ...use, language })}
        />
      )}
      {use.to === 'field' && type === 'date' && (
        <Select
          label={`How dates of “${header}” are written`}
          value={use.dates}
          options={DATE_ORDER_IDS.map((order) => ({ value: order, label: DATE_ORDERS[order] }))}
          onChange={(dates) => onChange({ ...use, dates })}
        />
      )}
    </>
  );
}
