// What can be done with a folder: keeping it on top, its path, colour and note, making one in it, renaming, moving, trashing, deleting.

import { peopleRoutes } from '@stellin/contract/people';
import { useState } from 'react';
import { toast } from 'sonner';
import { criterion } from '@stellin/core/query/query';
import { queryText } from '@stellin/core/search/language';
import { countText } from '@stellin/contract/wording';
import { nameProblem } from '@stellin/core/filing/names';
import type { Folder } from '@stellin/contract/drives';
import { useChange } from '../foundation/changes';
import { Dialog } from '../parts/Dialog';
import { FormActions } from '../parts/FormActions';
import { useMayCall, useMayChange } from '../foundation/session';
import { Menu, MenuItem } from '../parts/Menu';
import { PinItem } from '../pinned/PinItem';
import { FilingDialog } from './FilingDialog';
import { FolderMoveDialog } from './FolderMoveDialog';
import { FolderNoteDialog } from './FolderNoteDialog';
import { useFolderContents } from './queries';
import { useLooking } from '../people/exceptions';
import { z } from 'zod';
import { changeSchema } from '@stellin/contract/ledger';
import { TextField } from '../parts/Field';
import { useFormOf } from '../parts/useFormOf';

interface Props {
  folder: Folder;
  /** With the drive, as people read it. */
  shown: string;
  /** Where the folder is in the system; null while its drive is away. */
  mountPoint: string | null;
  /** Files can be changed there. */
  mayChange: boolean;
  /** Where the folder is after it was renamed. */
  onRenamed: (shown: string) => void;
}

type Wanted = 'make' | 'rename' | 'move' | 'trash' | 'note';

export function FolderMenu({ folder, shown, mountPoint, mayChange, onRenamed }: Props) {
  const [wanted, setWanted] = useState<Wanted | null>(null);
  const close = () => setWanted(null);
  const change = useChange();
  const isDrive = folder.path === '';
  const mayNote = useMayChange('describeFolder');
  const looking = useLooking(folder.driveId, folder.path);
  const mayDecide = useMayCall(peopleRoutes.setException);
  return (
    <>
      <Menu label={`Change the folder ${shown}`} className="pr-2">
        <PinItem kind="folder" id={folder.id} />
        <MenuItem label="Copy the path" onSelect={() => void copyPath(folder, shown, mountPoint)} />
        {mayNote && <MenuItem label="Colour and note …" onSelect={() => setWanted('note')} />}
        {mayChange && (
          <>
            <MenuItem label="New folder …" onSelect={() => setWanted('make')} />
            {!isDrive && (
              <>
                <MenuItem label="Rename …" onSelect={() => setWanted('rename')} />
                <MenuItem label="Move, copy or make one with another …" onSelect={() => setWanted('move')} />
                {folder.photosWithin > 0 ? (
                  <MenuItem label="Trash all that is in it …" onSelect={() => setWanted('trash')} />
                ) : (
                  <MenuItem
                    label="Delete the empty folder"
                    onSelect={() => change.mutate({ kind: 'removeFolder', folderId: folder.id })}
                  />
                )}
              </>
            )}
          </>
        )}
        {mayChange && mayDecide && looking.known && (
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
      {(wanted === 'make' || wanted === 'rename') && (
        <NameDialog key={wanted} {...{ wanted, folder, shown, onRenamed }} onClose={close} />
      )}
      {wanted === 'move' && <FolderMoveDialog folder={folder} onto={null} onClose={close} />}
      {wanted === 'note' && <FolderNoteDialog folder={folder} shown={shown} onClose={close} />}
      {wanted === 'trash' && (
        <FilingDialog
          action="trash"
          selection={{ query: queryText(criterion('within', shown)), minus: [], plus: [] }}
          onClose={close}
          onDone={close}
        >
          <Beside folderId={folder.id} />
        </FilingDialog>
      )}
    </>
  );
}

/** What else is in a folder whose photos are trashed. */
function Beside({ folderId }: { folderId: number }) {
  const { data } = useFolderContents(folderId);
  if (!data) return null;
  return (
    <p>
      {data.folders > 0 && `${countText(data.folders, 'folder')} below it. `}
      {data.others === null
        ? 'What else is in it is not known.'
        : data.others === 0
          ? 'Nothing else is in it.'
          : `${countText(data.others, 'file')} that the catalogue does not know stay where they are, and the folder with them.`}
    </p>
  );
}

/** Says where a folder is, for other programs: in the system where its drive is there, else by drive and path. */
async function copyPath(folder: Folder, shown: string, mountPoint: string | null): Promise<void> {
  const path = mountPoint === null ? shown : [mountPoint, folder.path].filter(Boolean).join('/');
  try {
    await navigator.clipboard.writeText(path);
    toast.success(`Copied: ${path}`);
  } catch {
    // The browser does not let it: it can be read at least.
    toast(path);
  }
}

function NameDialog({
  wanted,
  folder,
  shown,
  onRenamed,
  onClose,
}: Pick<Props, 'folder' | 'shown' | 'onRenamed'> & { wanted: 'make' | 'rename'; onClose: () => void }) {
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
