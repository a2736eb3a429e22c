// Whether the text in the pictures of a drive is read in the background.

import { pictureTextRoutes } from '@stellin/contract/pictureText';
import { DriveWish } from './DriveWish';
import { useReadTextOf } from './queries';

export function ReadText({ driveId, on }: { driveId: string; on: boolean }) {
  return (
    <DriveWish on={on} route={pictureTextRoutes.readTextOf} change={useReadTextOf(driveId)}>
      read the text in its pictures
    </DriveWish>
  );
}
