// An own place: adding one, changing what is said of it, merging it into another.

import type { Point } from '@stellin/core/timeplace/areas';
import type { OwnPlaceRow } from '@stellin/contract/places';
import { Dialog } from '../parts/Dialog';
import { MergePlaces } from './MergePlaces';
import { OwnPlaceForm, type PlaceFormTask } from './OwnPlaceForm';

export type OwnPlaceTask = PlaceFormTask | { kind: 'merge'; place: OwnPlaceRow };

interface Props {
  task: OwnPlaceTask;
  places: readonly OwnPlaceRow[];
  /** What is picked on the map: where a new place is meant to be. */
  pin: Point | null;
  onClose: () => void;
}

export function OwnPlaceDialog({ task, places, pin, onClose }: Props) {
  const title =
    task.kind === 'add'
      ? task.parent
        ? `New place in ${task.parent.name}`
        : 'New place'
      : task.kind === 'merge'
        ? `Merge ${task.place.name} into another place`
        : `Place: ${task.place.name}`;
  return (
    <Dialog open onOpenChange={(open) => !open && onClose()} title={title}>
      {task.kind === 'merge' ? (
        <MergePlaces place={task.place} places={places} onClose={onClose} />
      ) : (
        <OwnPlaceForm task={task} places={places} pin={pin} onClose={onClose} />
      )}
    </Dialog>
  );
}
