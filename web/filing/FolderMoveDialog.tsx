// What becomes of a folder that is dropped on another one, or sent there by its menu: it goes into it, becomes one with it, or is copied.

import { useState } from 'react';
import { queryText } from '@stellin/core/search/language';
import { folderQuery } from '@stellin/core/stepping/stepping';
import type { Folder } from '@stellin/contract/drives';
import type { FilingAction } from '@stellin/contract/filing';
import type { ChangeInput } from '@stellin/contract/ledger';
import { useDrives, useFolders } from '../drives/queries';
import { useChange } from '../foundation/changes';
import { Dialog } from '../parts/Dialog';
import { FormActions } from '../parts/FormActions';
import { Radio, RadioGroup } from '../parts/RadioGroup';
import { FolderPicker, type Place } from './FolderPicker';
import { useFilingPlan } from './queries';
import { planText } from './wording';

type Way = 'into' | 'merge' | 'copy';

interface Props {
  folder: Folder;
  /** Where it was dropped; null: that is to be chosen. */
  onto: Place | null;
  onClose: () => void;
}

export function FolderMoveDialog({ folder, onto, onClose }: Props) {
  const [chosen, setChosen] = useState<Place | undefined>(onto ?? undefined);
  const [way, setWay] = useState<Way>('into');
  const drives = useDrives().data?.drives ?? [];
  const folders = useFolders().data ?? [];
  const change = useChange();
  const label = (driveId: string) => drives.find(({ id }) => id === driveId)?.label ?? '';
  const shown = ({ driveId, folder: path }: Place) => [label(driveId), path].filter(Boolean).join('/');
  const selection = {
    query: queryText(folderQuery(label(folder.driveId), folder.path)),
    minus: [],
    plus: [],
  };
  /** Where its photos go, and whether the folder itself goes there as it is. */
  const target = chosen && {
    driveId: chosen.driveId,
    folder: way === 'merge' ? chosen.folder : [chosen.folder, folder.name].filter(Boolean).join('/'),
    keepBelow: folder.path,
  };
  const isThere = folders.some(({ driveId, path }) => driveId === chosen?.driveId && path === chosen.folder);
  const asItIs = way === 'into' && chosen?.driveId === folder.driveId && isThere;
  const action: FilingAction = way === 'copy' ? 'copy' : 'move';
  const { data: plan } = useFilingPlan({ action, selection, ...target }, target !== undefined && !asItIs);
  const isItself =
    chosen?.driveId === folder.driveId && `${chosen.folder}/`.startsWith(`${folder.path}/`) && way !== 'copy';
  const wanted: ChangeInput | undefined = !target
    ? undefined
    : asItIs
      ? { kind: 'moveFolder', folderId: folder.id, parent: chosen.folder }
      : { kind: way === 'copy' ? 'copyFiles' : 'moveFiles', selection, ...target };
  const known = asItIs ? undefined : plan;
  const isNothing = known?.photos === 0;
  return (
    <Dialog open onOpenChange={onClose} title={`The folder “${folder.name}”`}>
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (wanted) change.mutate(wanted, { onSuccess: onClose });
        }}
      >
        {!onto && <FolderPicker onChoose={setChosen} />}
        <RadioGroup label="What becomes of it" value={way} onChange={setWay}>
          {WAYS.map(({ value, says }) => (
            <Radio key={value} value={value}>
              {says} <b>{chosen ? shown(chosen) : '…'}</b>
            </Radio>
          ))}
        </RadioGroup>
        {isItself ? (
          <p role="alert" className="rounded bg-red-pale px-2.5 py-1.5 text-red">
            A folder can’t be put into itself.
          </p>
        ) : (
          <ul aria-live="polite" className="figures space-y-0.5 text-ink-2">
            {asItIs && <li>All that is in it goes along, also what the catalogue does not know.</li>}
            {known && planText(known).map((text) => <li key={text}>{text}</li>)}
            {known && way !== 'copy' && (
              <li>Only what the catalogue knows goes. The folder stays: it can be deleted once it is empty.</li>
            )}
          </ul>
        )}
        <FormActions
          onCancel={onClose}
          action={way === 'copy' ? 'Copy' : way === 'merge' ? 'Make them one' : 'Move'}
          disabled={!wanted || isItself || change.isPending || (!asItIs && (known === undefined || isNothing))}
        />
      </form>
    </Dialog>
  );
}

const WAYS: readonly { value: Way; says: string }[] = [
  { value: 'into', says: 'Move it into' },
  { value: 'merge', says: 'Make it one with' },
  { value: 'copy', says: 'Copy it into' },
];
