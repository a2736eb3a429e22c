// How a web gallery is made.

import { LOOK_IDS, LOOKS, type Look } from '@stellin/core/delivering/gallery';
import type { GallerySettings } from '@stellin/contract/delivering';
import { Checkbox } from '../parts/Checkbox';
import { TextArea, TextField } from '../parts/Field';
import { ColumnsChoice } from '../parts/ColumnsChoice';
import { Choice, NumberField } from './Labelled';

const LOOK_LABELS = Object.fromEntries(LOOK_IDS.map((id) => [id, LOOKS[id].label])) as Record<Look, string>;

interface Props {
  settings: GallerySettings;
  onChange: (settings: GallerySettings) => void;
}

export function GalleryPanel({ settings, onChange }: Props) {
  const set = (part: Partial<GallerySettings>) => onChange({ ...settings, ...part });
  return (
    <div className="space-y-3 p-4">
      <TextField
        label="Title"
        required
        value={settings.title}
        onChange={({ target }) => set({ title: target.value })}
      />
      <TextArea
        label="Words below it"
        rows={2}
        value={settings.words}
        onChange={({ target }) => set({ words: target.value })}
      />
      <Choice label="Look" value={settings.look} labels={LOOK_LABELS} onChange={(look) => set({ look })} />
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label="Pictures a page"
          value={settings.perPage}
          least={12}
          most={500}
          onChange={(perPage) => set({ perPage: Math.round(perPage) })}
        />
        <NumberField
          label="Long edge in pixels"
          value={settings.longEdge}
          least={400}
          most={6000}
          onChange={(longEdge) => set({ longEdge: Math.round(longEdge) })}
        />
      </div>
      <TextField
        label="Watermark"
        placeholder="none"
        value={settings.watermark}
        onChange={({ target }) => set({ watermark: target.value })}
      />
      <Checkbox checked={settings.terms} onChange={(terms) => set({ terms })}>
        A page for each term
      </Checkbox>
      <Checkbox checked={settings.map} onChange={(map) => set({ map })}>
        A map of where they were taken: positions leave with it
      </Checkbox>
      <ColumnsChoice
        label="Below each picture, besides its caption"
        chosen={settings.fields}
        onChange={(fields) => set({ fields })}
      />
    </div>
  );
}
