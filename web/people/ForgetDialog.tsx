// Deleting faces for good: of a person, or of everybody.

import { useMutation, useQueryClient } from '@tanstack/react-query';
import { peopleRoutes, type Person } from '@stellin/contract/people';
import { countText } from '@stellin/contract/wording';
import { call } from '../foundation/api';
import { showError } from '../foundation/changes';
import { Button } from '../parts/Button';
import { Dialog } from '../parts/Dialog';

interface Props {
  /** Null: of everybody. */
  person: Person | null;
  faces: number;
  onClose: () => void;
}

export function ForgetDialog({ person, faces, onClose }: Props) {
  const client = useQueryClient();
  const forget = useMutation({
    mutationFn: () => call(peopleRoutes.forgetFaces, { body: { personId: person?.id ?? null } }),
    onError: showError,
    onSuccess: () => {
      void client.invalidateQueries({ queryKey: ['people'] });
      onClose();
    },
  });
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={person ? `Delete the faces of ${person.name} for good?` : 'Delete all faces for good?'}
    >
      <p className="rounded bg-red-pale px-3 py-2 text-red">
        {countText(faces, 'face')} and what they look like are deleted. This can’t be undone.{' '}
        {person ? `${person.name} stays` : 'Persons stay'} named in the photos, without a face; the pictures themselves
        are not touched.
      </p>
      <div className="mt-3 flex gap-2">
        <Button disabled={forget.isPending} onClick={() => forget.mutate()}>
          Delete {countText(faces, 'face')}
        </Button>
        <Button look="quiet" onClick={onClose}>
          Not now
        </Button>
      </div>
    </Dialog>
  );
}
