// What copies are called, and what lies beside them.

import { CONFLICTS, FOLDER_MODES } from '@stellin/core/delivering/names';
import { COPY_PLACEHOLDERS } from '@stellin/core/delivering/placeholders';
import type { CopySettings } from '@stellin/contract/delivering';
import { Checkbox } from '../parts/Checkbox';
import { TextField } from '../parts/Field';
import type { SetSettings } from './draft';
import { Choice, NumberField } from './Labelled';
import { Section } from './Section';

const BUNDLE_LABELS: Record<CopySettings['bundles'], string> = {
  lead: 'The lead',
  all: 'All files',
  raw: 'Raw files',
  derived: 'All but raw',
};

export function NamesSection({ settings, set }: { settings: CopySettings; set: SetSettings }) {
  const { name, start, folders, folderPattern, conflict, bundles, bag } = settings;
  return (
    <Section title="Names" summary={name}>
      <TextField
        label="Name, without extension"
        boxClass="h-8 font-mono text-[12px]"
        spellCheck={false}
        value={name}
        onChange={(event) => set({ name: event.target.value })}
      />
      <div className="flex flex-wrap gap-1">
        {Object.entries(COPY_PLACEHOLDERS).map(([placeholder, { help }]) => (
          <button
            key={placeholder}
            type="button"
            title={help}
            className="rounded border border-line bg-sheet px-1.5 py-0.5 font-mono text-[11px] text-ink-2 hover:border-ink-3 hover:text-ink"
            onClick={() => set({ name: `${name}{${placeholder === 'number' ? 'number:3' : placeholder}}` })}
          >
            {`{${placeholder}}`}
          </button>
        ))}
      </div>
      <div className="grid grid-cols-2 gap-3">
        {name.includes('{number') && (
          <NumberField
            label="First number"
            value={start}
            least={0}
            most={9_999_999}
            onChange={(value) => set({ start: Math.round(value) })}
          />
        )}
        <Choice label="Folders" value={folders} labels={FOLDER_MODES} onChange={(value) => set({ folders: value })} />
        {folders === 'pattern' && (
          <TextField
            label="Folder"
            boxClass="h-8 font-mono text-[12px]"
            spellCheck={false}
            value={folderPattern}
            onChange={(event) => set({ folderPattern: event.target.value })}
          />
        )}
        <Choice
          label="If the name is there"
          value={conflict}
          labels={CONFLICTS}
          onChange={(value) => set({ conflict: value })}
        />
        <Choice
          label="Of bundles"
          value={bundles}
          labels={BUNDLE_LABELS}
          onChange={(value) => set({ bundles: value })}
        />
      </div>
      <Checkbox checked={bag} onChange={(on) => set({ bag: on })}>
        With manifests of checksums (BagIt)
      </Checkbox>
    </Section>
  );
}
