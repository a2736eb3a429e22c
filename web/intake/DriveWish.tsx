// Something that is done to the photos of a drive in the background, while it is wished.

import { useMayCall } from '../foundation/session';
import { Checkbox } from '../parts/Checkbox';

interface DriveWishProps {
  on: boolean;
  /** The route that changes it: who may not call it only sees what is on. */
  route: Parameters<typeof useMayCall>[0];
  change: { isPending: boolean; mutate: (on: boolean) => void };
  children: string;
}

export function DriveWish({ on, route, change, children }: DriveWishProps) {
  const mayChange = useMayCall(route);
  if (!mayChange && !on) return null;
  return (
    <Checkbox
      checked={on}
      disabled={!mayChange || change.isPending}
      onChange={change.mutate}
      className="mt-2 text-ink-2"
    >
      {children}
    </Checkbox>
  );
}
