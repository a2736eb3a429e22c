// Keeping settings as a preset, or calling one otherwise.

import { changeSchema } from '@stellin/contract/ledger';
import type { CopySettings, Preset } from '@stellin/contract/delivering';
import { Controller } from 'react-hook-form';
import type { z } from 'zod';
import { useChange } from '../foundation/changes';
import { Checkbox } from '../parts/Checkbox';
import { Dialog } from '../parts/Dialog';
import { TextArea, TextField } from '../parts/Field';
import { FormActions } from '../parts/FormActions';
import { useFormOf } from '../parts/useFormOf';
import { settingsText } from './settingsText';

interface Props {
  /** Null: a new one. */
  preset: Preset | null;
  settings: CopySettings;
  onMade: (presetId: number) => void;
  onClose: () => void;
}

const { name, note } = changeSchema('savePreset').shape;
const schema = changeSchema('savePreset')
  .pick({})
  .extend({ name, note: note.unwrap(), shared: changeSchema('savePreset').shape.shared.unwrap() });
type Values = z.infer<typeof schema>;

export function PresetDialog({ preset, settings, onMade, onClose }: Props) {
  const change = useChange();
  const form = useFormOf<Values>(schema, {
    name: preset?.name ?? '',
    note: preset?.note ?? '',
    shared: preset?.shared ?? true,
  });
  const save = form.handleSubmit((values) =>
    change.mutate(
      { kind: 'savePreset', presetId: preset?.id ?? null, settings, ...values },
      {
        onSuccess: ({ entry }) => {
          if (!preset && entry?.objectId) onMade(entry.objectId);
          onClose();
        },
      },
    ),
  );
  const { errors } = form.formState;
  return (
    <Dialog open onOpenChange={onClose} title={preset ? `Preset “${preset.name}”` : 'Keep these settings'}>
      <form className="space-y-3" onSubmit={(event) => void save(event)}>
        <p className="text-ink-2">{settingsText(settings)}</p>
        <TextField label="Name" required autoFocus error={errors.name?.message} {...form.register('name')} />
        <TextArea label="Note" rows={2} error={errors.note?.message} {...form.register('note')} />
        <Controller
          control={form.control}
          name="shared"
          render={({ field }) => (
            <Checkbox checked={field.value} onChange={field.onChange}>
              For everybody
            </Checkbox>
          )}
        />
        <FormActions onCancel={onClose} action="Keep" disabled={change.isPending} />
      </form>
    </Dialog>
  );
}
