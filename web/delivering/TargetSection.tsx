// Where copies go, for whom and why.

import { sizeText } from '@stellin/contract/sizeText';
import { useDrives } from '../drives/queries';
import { Field, TextArea, TextField } from '../parts/Field';
import { Select } from '../parts/Select';
import type { Draft } from './draft';
import { Section } from './Section';

interface Props {
  draft: Draft;
  onChange: (part: Partial<Draft>) => void;
}

export function TargetSection({ draft, onChange }: Props) {
  const { data } = useDrives();
  const drives = data?.drives.filter(({ id, readOnly }) => id !== null && !readOnly) ?? [];
  // Tables and sheets are downloaded.
  const mayChoose = draft.kind === 'copies';
  const chosen = mayChoose ? drives.find(({ id }) => id === draft.driveId) : undefined;
  return (
    <Section
      open
      title={mayChoose ? 'Where to' : 'For whom'}
      summary={chosen ? `${chosen.label} › ${draft.folder}` : mayChoose ? 'Download' : draft.recipient}
    >
      {mayChoose && (
        <Field label="Goes to">
          {(tied) => (
            <Select
              {...tied}
              className="w-full"
              value={chosen ? draft.driveId : ''}
              onChange={(driveId) => onChange({ driveId })}
              options={[
                { value: '', label: 'This computer: a ZIP to download' },
                ...drives.map(({ id, label, state, freeBytes }) => ({
                  value: id ?? '',
                  label: `${label} (${state === 'attached' ? `${freeBytes === null ? 'attached' : `${sizeText(freeBytes)} free`}` : 'away: it waits'})`,
                })),
              ]}
            />
          )}
        </Field>
      )}
      {chosen && (
        <TextField
          label="Into the folder"
          boxClass="h-8 font-mono text-[12px]"
          spellCheck={false}
          placeholder={`all of ${chosen.label}`}
          value={draft.folder}
          onChange={(event) => onChange({ folder: event.target.value })}
        />
      )}
      <TextField
        label="For whom"
        value={draft.recipient}
        onChange={(event) => onChange({ recipient: event.target.value })}
      />
      <TextArea
        label="Why"
        rows={2}
        value={draft.reason}
        onChange={(event) => onChange({ reason: event.target.value })}
      />
    </Section>
  );
}
