// Whether the photos of a drive can be looked at in full while it is away.

import { useMay } from '../foundation/session';
import { useBrowseAway } from './queries';

export function BrowseAway({ driveId, on }: { driveId: string; on: boolean }) {
  const change = useBrowseAway(driveId);
  const mayChange = useMay('keeper');
  if (!mayChange && !on) return null;
  return (
    <label className="mt-2 flex items-center gap-2 text-ink-2">
      <input
        type="checkbox"
        className="accent-spruce"
        checked={on}
        disabled={!mayChange || change.isPending}
        onChange={(event) => change.mutate(event.target.checked)}
      />{' '}
      browse while away: its large pictures are kept
    </label>
  );
}
