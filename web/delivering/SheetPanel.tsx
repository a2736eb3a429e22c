// How a contact sheet, a caption sheet or a sheet of labels is made.

import { PAPER_IDS, PAPERS, SHEET_LAYOUTS, type Paper } from '@stellin/core/delivering/sheetLayout';
import type { SheetSettings } from '@stellin/contract/delivering';
import { Checkbox } from '../parts/Checkbox';
import { TextField } from '../parts/Field';
import { ColumnsChoice } from '../parts/ColumnsChoice';
import { Choice, NumberField } from './Labelled';
import { LanguageChoice } from './LanguageChoice';

const PAPER_LABELS = Object.fromEntries(PAPER_IDS.map((id) => [id, PAPERS[id].label])) as Record<Paper, string>;
const HEADING_LABELS: Record<SheetSettings['headings'], string> = {
  none: 'None',
  day: 'By day',
  folder: 'By folder',
};
const MEASURES: readonly [keyof SheetSettings['label'], string][] = [
  ['width', 'Width (mm)'],
  ['height', 'Height (mm)'],
  ['gap', 'Between (mm)'],
  ['left', 'From the left (mm)'],
  ['top', 'From the top (mm)'],
];

interface Props {
  settings: SheetSettings;
  onChange: (settings: SheetSettings) => void;
}

export function SheetPanel({ settings, onChange }: Props) {
  const set = (part: Partial<SheetSettings>) => onChange({ ...settings, ...part });
  const { layout, label } = settings;
  return (
    <div className="space-y-3 p-4">
      <Choice label="Made as" value={layout} labels={SHEET_LAYOUTS} onChange={(value) => set({ layout: value })} />
      <TextField label="Title" value={settings.title} onChange={(event) => set({ title: event.target.value })} />
      <div className="grid grid-cols-2 gap-3">
        <Choice label="Paper" value={settings.paper} labels={PAPER_LABELS} onChange={(paper) => set({ paper })} />
        {layout !== 'labels' && (
          <NumberField
            label="Rows"
            value={settings.rows}
            least={1}
            most={20}
            onChange={(rows) => set({ rows: Math.round(rows) })}
          />
        )}
        {layout === 'grid' && (
          <NumberField
            label="Columns"
            value={settings.columns}
            least={1}
            most={12}
            onChange={(columns) => set({ columns: Math.round(columns) })}
          />
        )}
        {layout === 'labels' &&
          MEASURES.map(([measure, name]) => (
            <NumberField
              key={measure}
              label={name}
              value={label[measure]}
              least={measure === 'width' || measure === 'height' ? 10 : 0}
              most={400}
              step={0.1}
              onChange={(value) => set({ label: { ...label, [measure]: value } })}
            />
          ))}
        <Choice
          label="Headings"
          value={settings.headings}
          labels={HEADING_LABELS}
          onChange={(headings) => set({ headings })}
        />
      </div>
      <Checkbox checked={settings.landscape} onChange={(landscape) => set({ landscape })}>
        Landscape
      </Checkbox>
      <LanguageChoice
        value={settings.language}
        none="As it was written first"
        onChange={(language) => set({ language })}
      />
      <ColumnsChoice label="With each picture" chosen={settings.fields} onChange={(fields) => set({ fields })} />
    </div>
  );
}
