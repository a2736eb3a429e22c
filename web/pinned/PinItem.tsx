// The entry of a menu that pins a place for oneself, or takes it off again.

import type { PinnedPlace } from '@stellin/contract/stepping';
import { MenuItem } from '../parts/Menu';
import { usePinned, useSetPinned } from './queries';

export function PinItem({ kind, id }: PinnedPlace) {
  const { data: pinned = [] } = usePinned();
  const set = useSetPinned();
  const others = pinned.filter((place) => place.kind !== kind || place.id !== id);
  const isPinned = others.length < pinned.length;
  return (
    <MenuItem
      label={isPinned ? 'Take it off the top' : 'Keep it on top'}
      onSelect={() => set.mutate(isPinned ? others : [...pinned, { kind, id }])}
    />
  );
}
