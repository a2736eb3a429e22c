// Filling in the names of places from positions: the first photos are shown with the names they would get, before anything is done.

import { useState } from 'react';
import { namesTold } from '@stellin/core/describing/placing';
import type { Whereabouts } from '@stellin/contract/places';
import type { Selection } from '@stellin/contract/photos';
import { countText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { Button } from '../parts/Button';
import { DataTable } from '../parts/DataTable';
import { Dialog } from '../parts/Dialog';
import { Queried } from '../parts/Queried';
import { Radio, RadioGroup } from '../parts/RadioGroup';
import { NAMING_TEXTS } from './namingText';
import { distanceText, pointText } from './placeText';
import { PHOTO_COLUMNS } from './photoColumns';
import { useNamesPreview } from './queries';

export function NamesDialog({ selection, onClose }: { selection: Selection; onClose: () => void }) {
  const [way, setWay] = useState<'fill' | 'replace'>('fill');
  const preview = useNamesPreview(selection);
  const change = useChange();
  const photos = preview.data?.photos ?? 0;
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title="Names from positions" wide>
      <Queried query={preview} pending={<p className="text-ink-2">Looking where they lie …</p>}>
        {({ rows }) => (
          <div tabIndex={0} role="group" aria-label="Photos" className="h-80 overflow-auto border border-line">
            <DataTable
              small
              label="Photos and the names they would get"
              rows={rows}
              keyOf={({ photoId }) => photoId}
              empty={<p className="p-3 text-ink-2">None of these photos has a position.</p>}
              columns={[
                ...PHOTO_COLUMNS,
                { id: 'point', title: 'Position', cell: ({ point }) => pointText(point) },
                { id: 'names', title: 'Names', cell: ({ place }) => namesText(place) },
              ]}
            />
          </div>
        )}
      </Queried>
      {photos > (preview.data?.rows.length ?? 0) && (
        <p className="mt-1 text-ink-2">The first {preview.data?.rows.length} are shown.</p>
      )}
      <RadioGroup label="What becomes of the names" value={way} onChange={setWay} className="mt-3 flex gap-4">
        <Radio value="fill">{NAMING_TEXTS.fill}</Radio>
        <Radio value="replace">{NAMING_TEXTS.replace}</Radio>
      </RadioGroup>
      <div className="mt-3 flex gap-2">
        <Button
          look="primary"
          disabled={photos === 0 || change.isPending}
          onClick={() =>
            change.mutate({ kind: 'namePlaces', selection, naming: { way, shown: false } }, { onSuccess: onClose })
          }
        >
          {photos > 0 ? `Fill in the names of ${countText(photos, 'photo')}` : 'Nothing to fill in'}
        </Button>
        <Button onClick={onClose}>Not now</Button>
      </div>
    </Dialog>
  );
}

/** The names, the narrowest first, and how far the town is that the gazetteer says. */
function namesText({ names, ownId, metres }: Whereabouts): string {
  const said = namesTold(names);
  if (said.length === 0) return 'no place is known here';
  return said.join(', ') + (ownId === null && metres > 0 ? ` (${distanceText(metres)})` : '');
}
