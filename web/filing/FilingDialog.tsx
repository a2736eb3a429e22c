// Moving, copying, renaming, trashing, restoring and taking out: what it would do, and doing it.

import { useEffect, useRef, useState, type ReactNode } from 'react';
import type { FilingAction } from '@stellin/contract/filing';
import type { ChangeInput } from '@stellin/contract/ledger';
import type { Selection } from '@stellin/contract/photos';
import { countText } from '@stellin/contract/wording';
import { useChange } from '../foundation/changes';
import { useDrives } from '../drives/queries';
import { Dialog } from '../parts/Dialog';
import { FormActions } from '../parts/FormActions';
import { FolderPicker, type Place } from './FolderPicker';
import { useFilingPlan } from './queries';
import { NEW_NAMES, RenamingForm, renamingOf, usePatterns, type RenamingDraft } from './RenamingForm';
import { planText, WORDINGS } from './wording';

interface Props {
  action: FilingAction;
  selection: Selection;
  /** Where to, if it is said already. */
  place?: Place;
  /** What else is to be known before it is done. */
  children?: ReactNode;
  onClose: () => void;
  onDone: () => void;
}

interface Details {
  place: Place | undefined;
  renaming: RenamingDraft;
}

/** The change an action is; undefined while something it needs is not said. */
const CHANGES: Record<FilingAction, (selection: Selection, details: Details) => ChangeInput | undefined> = {
  move: (selection, { place }) => place && { kind: 'moveFiles', selection, ...place },
  copy: (selection, { place }) => place && { kind: 'copyFiles', selection, ...place },
  rename: (selection, { renaming }) =>
    renaming.pattern.trim() === '' ? undefined : { kind: 'renameFiles', selection, ...renamingOf(renaming) },
  trash: (selection) => ({ kind: 'trashFiles', selection }),
  restore: (selection) => ({ kind: 'restoreFiles', selection }),
  remove: (selection) => ({ kind: 'removePhotos', selection }),
  return: (selection) => ({ kind: 'returnPhotos', selection }),
};

const NEEDS_DETAILS: ReadonlySet<FilingAction> = new Set<FilingAction>(['move', 'copy', 'rename']);

export function FilingDialog({ action, selection, place: given, children, onClose, onDone }: Props) {
  const [details, setDetails] = useState<Details>({ place: given, renaming: NEW_NAMES });
  const change = useChange();
  const [, remember] = usePatterns();
  const { place, renaming } = details;
  const wanted = CHANGES[action](selection, details);
  const { data: plan } = useFilingPlan(
    { action, selection, ...place, renaming: renamingOf(renaming) },
    wanted !== undefined,
  );
  const { title, verb, explains } = WORDINGS[action];
  const set = (part: Partial<Details>) => setDetails((before) => ({ ...before, ...part }));
  const known = wanted ? plan : undefined;
  const button = useRef<HTMLButtonElement>(null);
  const isReady = known !== undefined;
  useEffect(() => {
    // Where nothing is to be said first, Enter confirms as soon as it is known what would happen.
    if (isReady && (given || !NEEDS_DETAILS.has(action))) button.current?.focus();
  }, [isReady, action, given]);
  return (
    <Dialog open onOpenChange={onClose} title={title} wide={action === 'rename'}>
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (!wanted) return;
          if (action === 'rename') remember(renaming.pattern);
          change.mutate(wanted, { onSuccess: onDone });
        }}
      >
        {(action === 'move' || action === 'copy') && !given && (
          <FolderPicker onChoose={(chosen) => set({ place: chosen })} />
        )}
        {given && <Destination {...given} />}
        {action === 'rename' && (
          <RenamingForm draft={renaming} onChange={(changed) => set({ renaming: changed })} plan={known} />
        )}
        <p className="text-ink-2">{explains}</p>
        {children}
        {known?.problem ? (
          <p role="alert" className="rounded bg-red-pale px-2.5 py-1.5 text-red">
            {known.problem}
          </p>
        ) : (
          known && (
            <ul aria-live="polite" className="figures space-y-0.5">
              {planText(known).map((text) => (
                <li key={text}>{text}</li>
              ))}
            </ul>
          )
        )}
        <FormActions
          ref={button}
          onCancel={onClose}
          action={`${verb} ${known && known.photos > 0 ? countText(known.photos, 'photo') : ''}`}
          disabled={!known || known.photos === 0 || known.problem !== null || change.isPending}
        />
      </form>
    </Dialog>
  );
}

function Destination({ driveId, folder }: Place) {
  const { data } = useDrives();
  const drive = data?.drives.find(({ id }) => id === driveId);
  return (
    <p>
      To <b>{[drive?.label, ...folder.split('/')].filter(Boolean).join(' › ')}</b>
    </p>
  );
}
