// How a preset was before: any of it can be taken up again.

import type { CopySettings, Preset } from '@stellin/contract/delivering';
import { Button } from '../parts/Button';
import { dateTimeText } from '../parts/dateTimeText';
import { Dialog } from '../parts/Dialog';
import { Queried } from '../parts/Queried';
import { usePresetVersions } from './queries';
import { settingsText } from './settingsText';

interface Props {
  preset: Preset;
  onChoose: (settings: CopySettings) => void;
  onClose: () => void;
}

export function PresetVersions({ preset, onChoose, onClose }: Props) {
  const versions = usePresetVersions(preset.id);
  return (
    <Dialog open onOpenChange={onClose} title={`“${preset.name}” as it was`}>
      <p className="mb-3 text-ink-2">Now: {settingsText(preset.settings)}</p>
      <Queried query={versions}>
        {(all) => (
          <ul className="divide-y divide-line">
            {all.map(({ at, by, preset: before }) => (
              <li key={at} className="flex items-center gap-3 py-2">
                <span className="min-w-0 flex-1">
                  <span className="block text-[12px] text-ink-2">
                    until {dateTimeText(at)}, when {by} changed it
                  </span>
                  {settingsText(before.settings)}
                </span>
                <Button onClick={() => onChoose(before.settings)}>Use these settings</Button>
              </li>
            ))}
          </ul>
        )}
      </Queried>
    </Dialog>
  );
}
