// How what leaves is made: its kind with the settings of that, where it goes, and the button that begins it.

import { Tabs } from 'radix-ui';
import type { DeliveryTarget } from '@stellin/contract/delivering';
import { countText } from '@stellin/contract/wording';
import { Button } from '../parts/Button';
import { Tab } from '../parts/Tab';
import { KIND_LABELS, KINDS, targetOf, type Draft, type SetSettings } from './draft';
import { GalleryPanel } from './GalleryPanel';
import { NamesSection } from './NamesSection';
import { DrawnSection, FormatSection, SizeSection } from './PictureSections';
import { SaysSection } from './SaysSection';
import { SheetPanel } from './SheetPanel';
import { TablePanel } from './TablePanel';
import { TargetSection } from './TargetSection';

const TARGET_VERBS: Record<DeliveryTarget['kind'], string> = {
  download: 'Download',
  drive: 'Deliver',
  server: 'Deliver',
  handover: 'Hand over',
};

interface Props {
  draft: Draft;
  onChange: (part: Partial<Draft>) => void;
  /** How many can leave. */
  photos: number;
  busy: boolean;
  onBegin: () => void;
}

export function Making({ draft, onChange, photos, busy, onBegin }: Props) {
  const { kind, settings } = draft;
  const set: SetSettings = (part) => onChange({ settings: { ...settings, ...part } });
  return (
    <aside aria-label="How copies are made" className="flex min-h-0 flex-col border-l border-line bg-card">
      <div className="min-h-0 flex-1 overflow-y-auto">
        <Tabs.Root
          value={kind}
          onValueChange={(value) => onChange({ kind: KINDS.find((each) => each === value) ?? 'copies' })}
        >
          <Tabs.List aria-label="What is made" className="flex gap-1 border-b border-line bg-sheet px-3 pt-2">
            {KINDS.map((each) => (
              <Tab key={each} value={each}>
                {KIND_LABELS[each]}
              </Tab>
            ))}
          </Tabs.List>
          <Tabs.Content value="copies">
            <FormatSection settings={settings} set={set} />
            {settings.format !== 'original' && <SizeSection settings={settings} set={set} />}
            {settings.format !== 'original' && <DrawnSection settings={settings} set={set} />}
            <NamesSection settings={settings} set={set} />
            <SaysSection settings={settings} set={set} />
          </Tabs.Content>
          <Tabs.Content value="table">
            <TablePanel settings={draft.table} onChange={(table) => onChange({ table })} />
          </Tabs.Content>
          <Tabs.Content value="sheet">
            <SheetPanel settings={draft.sheet} onChange={(sheet) => onChange({ sheet })} />
          </Tabs.Content>
          <Tabs.Content value="gallery">
            <GalleryPanel settings={draft.gallery} onChange={(gallery) => onChange({ gallery })} />
          </Tabs.Content>
        </Tabs.Root>
        <TargetSection draft={draft} onChange={onChange} />
      </div>
      <div className="border-t border-line p-3">
        <Button look="primary" className="w-full justify-center" disabled={photos === 0 || busy} onClick={onBegin}>
          {TARGET_VERBS[targetOf(draft).kind]} {photos > 0 ? countText(photos, 'photo') : ''}
        </Button>
      </div>
    </aside>
  );
}
