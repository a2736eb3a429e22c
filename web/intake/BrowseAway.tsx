// Whether the photos of a drive can be looked at in full while it is away.

import { intakeRoutes } from '@stellin/contract/intake';
import { useMayCall } from '../foundation/session';
import { useBrowseAway } from './queries';
import { Checkbox } from '../parts/Checkbox';

export function BrowseAway({ driveId, on }: { driveId: string; on: boolean }) {
  const change = useBrowseAway(driveId);
  const mayChange = useMayCall(intakeRoutes.browseAway);
  if (!mayChange && !on) return null;
  return (
    <Checkbox
      checked={on}
      disabled={!mayChange || change.isPending}
      onChange={change.mutate}
      className="mt-2 text-ink-2"
    >
      browse while away: its large pictures are kept
    </Checkbox>
  );
}
