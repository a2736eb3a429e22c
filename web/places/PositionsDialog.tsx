// Setting photos by the names of places they say: the first are shown with the place that is meant, or how many are called so,
// before anything is done.

import type { Selection } from '@stellin/contract/photos';
import { namesTold } from '@stellin/core/describing/placing';
import { countText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { Button } from '../parts/Button';
import { DataTable } from '../parts/DataTable';
import { Dialog } from '../parts/Dialog';
import { Queried } from '../parts/Queried';
import { pointText } from './placeText';
import { PHOTO_COLUMNS } from './photoColumns';
import { usePositionsPreview } from './queries';

export function PositionsDialog({ selection, onClose }: { selection: Selection; onClose: () => void }) {
  const preview = usePositionsPreview(selection);
  const change = useChange();
  const { photos = 0, rows: shown = [] } = preview.data ?? {};
  const isAny = shown.some(({ point }) => point !== null) || photos > shown.length;
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title="Positions from names" wide>
      <Queried query={preview} pending={<p className="text-ink-2">Looking where these places are …</p>}>
        {({ rows }) => (
          <div tabIndex={0} role="group" aria-label="Photos" className="h-80 overflow-auto border border-line">
            <DataTable
              small
              label="Photos and where they would be set"
              rows={rows}
              keyOf={({ photoId }) => photoId}
              empty={<p className="p-3 text-ink-2">None of these photos says a name and lacks a position.</p>}
              columns={[
                ...PHOTO_COLUMNS,
                { id: 'names', title: 'Says', cell: ({ names }) => namesTold(names).join(', ') },
                {
                  id: 'place',
                  title: 'Place',
                  cell: ({ point, place, several }) =>
                    point ? (
                      <>
                        {place} <span className="text-ink-2">{pointText(point)}</span>
                      </>
                    ) : (
                      <span className="text-ink-2">
                        {several > 0
                          ? `${several} places are called so`
                          : place
                            ? `${place}: nowhere yet`
                            : 'not known'}
                      </span>
                    ),
                },
              ]}
            />
          </div>
        )}
      </Queried>
      <p className="mt-2 text-ink-2">
        {photos > shown.length && `The first ${shown.length} of ${countText(photos, 'photo')} are shown. `}
        Where several places are called so, nothing is guessed: those stay as they are.
      </p>
      <div className="mt-3 flex gap-2">
        <Button
          look="primary"
          disabled={!isAny || change.isPending}
          onClick={() => change.mutate({ kind: 'placeByNames', selection }, { onSuccess: onClose })}
        >
          Place those that are certain
        </Button>
        <Button onClick={onClose}>Not now</Button>
      </div>
    </Dialog>
  );
}
