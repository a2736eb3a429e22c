// Whether the pictures of a drive are looked at for faces.

import { useMay } from '../foundation/session';
import { useLooking } from './exceptions';

export function LookForFaces({ driveId }: { driveId: string }) {
  const { known, on, set } = useLooking(driveId, '');
  const mayChange = useMay('keeper');
  if (!known || (!mayChange && on)) return null;
  return (
    <label className="mt-1 flex items-center gap-2 text-ink-2">
      <input
        type="checkbox"
        className="accent-spruce"
        checked={on}
        disabled={!mayChange || set.isPending}
        onChange={(event) => set.mutate(event.target.checked)}
      />{' '}
      look for faces in its pictures
    </label>
  );
}
