// Whether the photos of a drive can be looked at in full while it is away.

import { intakeRoutes } from '@stellin/contract/intake';
import { DriveWish } from './DriveWish';
import { useBrowseAway } from './queries';

export function BrowseAway({ driveId, on }: { driveId: string; on: boolean }) {
  return (
    <DriveWish on={on} route={intakeRoutes.browseAway} change={useBrowseAway(driveId)}>
      browse while away: its large pictures are kept
    </DriveWish>
  );
}
