// Making a folder below the chosen one, and renaming it.

import { peopleRoutes } from '@stellin/contract/people';
import { useState } from 'react';
import { nameProblem } from '@stellin/core/filing/names';
import type { Folder } from '@stellin/contract/drives';
import { useChange } from '../foundation/changes';
import { Dialog } from '../parts/Dialog';
import { FormActions } from '../parts/FormActions';
import { useMayCall } from '../foundation/session';
import { Menu, MenuItem } from '../parts/Menu';
import { useLooking } from '../people/exceptions';
import { z } from 'zod';
import { changeSchema } from '@stellin/contract/ledger';
import { TextField } from '../parts/Field';
import { useFormOf } from '../parts/useFormOf';

interface Props {
  folder: Folder;
  /** With the drive, as people read it. */
  shown: string;
  /** Where the folder is after it was renamed. */
  onRenamed: (shown: string) => void;
}

export function FolderMenu({ folder, shown, onRenamed }: Props) {
  const [wanted, setWanted] = useState<'make' | 'rename' | null>(null);
  const looking = useLooking(folder.driveId, folder.path);
  const mayDecide = useMayCall(peopleRoutes.setException);
  return (
    <>
      <Menu label={`Change the folder ${shown}`} className="pr-2">
        <MenuItem label="New folder …" onSelect={() => setWanted('make')} />
        {folder.path !== '' && <MenuItem label="Rename …" onSelect={() => setWanted('rename')} />}
        {mayDecide && looking.known && (
          <MenuItem
            label={
              looking.on
                ? 'Look for no faces here'
                : looking.above
                  ? 'No faces: said of a folder above'
                  : 'Look for faces here again'
            }
            disabled={looking.above}
            onSelect={() => looking.set.mutate(!looking.on)}
          />
        )}
      </Menu>
      {wanted && (
        <NameDialog
          key={wanted}
          wanted={wanted}
          folder={folder}
          shown={shown}
          onRenamed={onRenamed}
          onClose={() => setWanted(null)}
        />
      )}
    </>
  );
}

function NameDialog({
  wanted,
  folder,
  shown,
  onRenamed,
  onClose,
}: Props & { wanted: 'make' | 'rename'; onClose: () => void }) {
  const { register, handleSubmit, formState } = useFormOf(FOLDER_NAME, {
    name: wanted === 'rename' ? folder.name : '',
  });
  const change = useChange();
  const submit = handleSubmit(({ name }) => {
    if (wanted === 'make')
      change.mutate({ kind: 'makeFolder', driveId: folder.driveId, parent: folder.path, name }, { onSuccess: onClose });
    else
      change.mutate(
        { kind: 'renameFolder', folderId: folder.id, name },
        {
          onSuccess: () => {
            onRenamed(shown.slice(0, shown.length - folder.name.length) + name);
            onClose();
          },
        },
      );
  });
  return (
    <Dialog open onOpenChange={onClose} title={wanted === 'make' ? `New folder in ${shown}` : `Rename ${shown}`}>
      <form className="space-y-3" onSubmit={submit}>
        <TextField
          label="Name"
          autoFocus
          help={wanted === 'rename' && 'The folder is renamed on its drive; its photos keep all that was said of them.'}
          error={formState.errors.name?.message}
          {...register('name')}
        />
        <FormActions
          onCancel={onClose}
          action={wanted === 'make' ? 'Make the folder' : 'Rename'}
          disabled={!formState.isDirty || change.isPending}
        />
      </form>
    </Dialog>
  );
}

/** What is no name of a folder is said while it is typed. */
const FOLDER_NAME = z.object({
  name: changeSchema('makeFolder').shape.name.superRefine((name, context) => {
    const why = name === '' ? 'it is empty' : nameProblem(name);
    if (why) context.addIssue({ code: 'custom', message: `That can’t be used: ${why}.` });
  }),
});
