// The trash of a drive: what is in it, and emptying it.

import { filingRoutes } from '@stellin/contract/filing';
import { useState } from 'react';
import { Link } from 'react-router';
import { countText } from '@stellin/contract/wording';
import { useMayCall } from '../foundation/session';
import { Button } from '../parts/Button';
import { deskLink } from '../parts/deskLink';
import { Dialog } from '../parts/Dialog';
import { FormActions } from '../parts/FormActions';
import { sizeText } from '@stellin/contract/sizeText';
import { useEmptyTrash, useTrash } from './queries';

export function DriveTrash({ driveId }: { driveId: string }) {
  const { data } = useTrash();
  const [asks, setAsks] = useState(false);
  const empty = useEmptyTrash();
  const mayEmpty = useMayCall(filingRoutes.emptyTrash);
  const trash = data?.drives.find(({ id }) => id === driveId);
  if (!trash) return null;
  const what = `${countText(trash.photos, 'photo')}, ${sizeText(trash.bytes)}`;
  return (
    <p className="mt-3 flex items-center gap-3 text-ink-2">
      <Link className="underline" to={deskLink(`is:trashed drive:"${trash.label}"`)}>
        In its trash: {what}
      </Link>
      {mayEmpty && !trash.away && <Button onClick={() => setAsks(true)}>Empty the trash …</Button>}
      <Dialog open={asks} onOpenChange={setAsks} title={`Empty the trash of ${trash.label}`}>
        <p>
          {what}: the files are deleted for good, with all that was said of them. <b>This can’t be undone.</b>
        </p>
        <FormActions
          onCancel={() => setAsks(false)}
          action={`Delete ${countText(trash.photos, 'photo')}`}
          disabled={empty.isPending}
          onAction={() => empty.mutate(driveId, { onSuccess: () => setAsks(false) })}
        />
      </Dialog>
    </p>
  );
}
