// How a table of photos is made.

import { ROW_MODES } from '@stellin/core/delivering/columns';
import { TABLE_FORMAT_IDS, TABLE_FORMATS, type TableFormat } from '@stellin/core/delivering/tableFormats';
import type { TableSettings } from '@stellin/contract/delivering';
import { ColumnsChoice } from '../parts/ColumnsChoice';
import { Choice } from './Labelled';
import { LanguageChoice } from './LanguageChoice';

const FORMAT_LABELS = Object.fromEntries(TABLE_FORMAT_IDS.map((id) => [id, TABLE_FORMATS[id].label])) as Record<
  TableFormat,
  string
>;

interface Props {
  settings: TableSettings;
  onChange: (settings: TableSettings) => void;
}

export function TablePanel({ settings, onChange }: Props) {
  const set = (part: Partial<TableSettings>) => onChange({ ...settings, ...part });
  return (
    <div className="space-y-3 p-4">
      <div className="grid grid-cols-2 gap-3">
        <Choice label="Made as" value={settings.format} labels={FORMAT_LABELS} onChange={(format) => set({ format })} />
        <Choice label="Rows" value={settings.rows} labels={ROW_MODES} onChange={(rows) => set({ rows })} />
      </div>
      <LanguageChoice
        value={settings.language}
        none="As it was written first"
        onChange={(language) => set({ language })}
      />
      <ColumnsChoice label="Columns" chosen={settings.columns} onChange={(columns) => set({ columns })} />
      <p className="text-[12px] text-ink-2">
        What a spreadsheet would take for a formula is led by an apostrophe. Private photos and persons are not in it.
      </p>
    </div>
  );
}
