// Whether the pictures of a drive are looked at for faces.

import { peopleRoutes } from '@stellin/contract/people';
import { useMayCall } from '../foundation/session';
import { useLooking } from './exceptions';
import { Checkbox } from '../parts/Checkbox';

export function LookForFaces({ driveId }: { driveId: string }) {
  const { known, on, set } = useLooking(driveId, '');
  const mayChange = useMayCall(peopleRoutes.setException);
  if (!mayChange && (on || !known)) return null;
  return (
    <Checkbox
      checked={on}
      disabled={!mayChange || !known || set.isPending}
      onChange={set.mutate}
      className="mt-1 text-ink-2"
    >
      look for faces in its pictures
    </Checkbox>
  );
}
