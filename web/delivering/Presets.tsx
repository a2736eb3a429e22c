// The presets to choose from, and what can be done with each.

import { useState } from 'react';
import type { Preset } from '@stellin/contract/delivering';
import { useChange } from '../foundation/changes';
import { Menu, MenuItem } from '../parts/Menu';
import { Queried } from '../parts/Queried';
import { PresetDialog } from './PresetDialog';
import { PresetVersions } from './PresetVersions';
import { usePresets } from './queries';
import type { Draft } from './draft';

interface Props {
  draft: Draft;
  onChoose: (preset: Preset) => void;
  onMade: (presetId: number) => void;
}

export function Presets({ draft, onChoose, onMade }: Props) {
  const presets = usePresets();
  const change = useChange();
  const [asking, setAsking] = useState<Preset | 'new' | null>(null);
  const [versionsOf, setVersionsOf] = useState<Preset | null>(null);
  return (
    <section aria-label="Presets">
      <h2 className="flex items-center px-3 pt-3 pb-1 text-[12px] font-semibold text-ink-2">
        Presets
        <button
          type="button"
          className="ml-auto font-normal text-slate hover:underline"
          onClick={() => setAsking('new')}
        >
          Keep these settings …
        </button>
      </h2>
      <Queried query={presets}>
        {(all) => (
          <ul>
            {all.map((preset) => {
              const isChosen = preset.id === draft.presetId;
              const differs = isChosen && JSON.stringify(preset.settings) !== JSON.stringify(draft.settings);
              return (
                <li
                  key={preset.id}
                  className={`group flex items-center gap-2 px-3 py-1 ${isChosen ? 'bg-spruce-pale' : 'hover:bg-ground'}`}
                >
                  <button
                    type="button"
                    aria-pressed={isChosen}
                    title={preset.note}
                    className="min-w-0 flex-1 truncate text-left"
                    onClick={() => onChoose(preset)}
                  >
                    {preset.name}
                    {!preset.shared && <span className="text-[12px] text-ink-2"> · yours</span>}
                    {differs && <span className="text-[12px] text-amber"> · changed</span>}
                  </button>
                  <Menu label={`More for ${preset.name}`}>
                    <MenuItem
                      label="Keep the present settings in it"
                      disabled={!differs}
                      onSelect={() =>
                        change.mutate({
                          kind: 'savePreset',
                          presetId: preset.id,
                          name: preset.name,
                          note: preset.note,
                          shared: preset.shared,
                          settings: draft.settings,
                        })
                      }
                    />
                    <MenuItem label="Name, note …" onSelect={() => setAsking(preset)} />
                    <MenuItem
                      label="How it was before …"
                      disabled={preset.version < 2}
                      onSelect={() => setVersionsOf(preset)}
                    />
                    <MenuItem
                      label="Remove"
                      onSelect={() => change.mutate({ kind: 'removePreset', presetId: preset.id })}
                    />
                  </Menu>
                </li>
              );
            })}
            {all.length === 0 && (
              <li className="px-3 py-1 text-ink-2">None yet. Set how copies are made on the right, and keep it.</li>
            )}
          </ul>
        )}
      </Queried>
      {asking && (
        <PresetDialog
          preset={asking === 'new' ? null : asking}
          settings={asking === 'new' ? draft.settings : asking.settings}
          onMade={onMade}
          onClose={() => setAsking(null)}
        />
      )}
      {versionsOf && (
        <PresetVersions
          preset={versionsOf}
          onChoose={(settings) => {
            onChoose({ ...versionsOf, settings });
            setVersionsOf(null);
          }}
          onClose={() => setVersionsOf(null)}
        />
      )}
    </section>
  );
}
