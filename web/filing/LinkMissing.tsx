// Giving a missing photo the file that it is now, chosen by hand, or letting it go.

import { intakeRoutes } from '@stellin/contract/intake';
import { useState } from 'react';
import type { PhotoDetails } from '@stellin/contract/photos';
import { ApiError } from '../foundation/api';
import { useChange } from '../foundation/changes';
import { useMayCall, useMayChange } from '../foundation/session';
import { FolderPicker, type Place } from './FolderPicker';
import { Dialog } from '../parts/Dialog';
import { FormActions } from '../parts/FormActions';
import { sizeText } from '@stellin/contract/sizeText';
import { useCandidates, useLink } from './queries';
import { Radio, RadioGroup } from '../parts/RadioGroup';

export function LinkMissing({ photo }: { photo: PhotoDetails }) {
  const [open, setOpen] = useState(false);
  const change = useChange();
  const mayLetGo = useMayChange('removePhotos');
  if (!useMayCall(intakeRoutes.linkPhoto)) return null;
  return (
    <>
      <button type="button" className="font-semibold underline underline-offset-2" onClick={() => setOpen(true)}>
        Link it …
      </button>
      {mayLetGo && (
        <>
          {' '}
          or{' '}
          <button
            type="button"
            className="font-semibold underline underline-offset-2"
            disabled={change.isPending}
            onClick={() => change.mutate({ kind: 'removePhotos', selection: { query: null, plus: [photo.id] } })}
          >
            let it go
          </button>
        </>
      )}
      {open && <LinkDialog photo={photo} onClose={() => setOpen(false)} />}
    </>
  );
}

function LinkDialog({ photo, onClose }: { photo: PhotoDetails; onClose: () => void }) {
  const [place, setPlace] = useState<Place>();
  const [name, setName] = useState('');
  const { data: candidates, isFetching, error } = useCandidates(photo.id, place);
  const link = useLink(photo.id);
  const isOther = link.error instanceof ApiError && link.error.code === 'otherPicture';
  const send = (otherPicture: boolean) => {
    if (place) link.mutate({ ...place, name, otherPicture }, { onSuccess: onClose });
  };
  const choose = (candidate: string) => {
    setName(candidate);
    link.reset();
  };
  return (
    <Dialog open onOpenChange={onClose} title={`Which file is ${photo.name}?`}>
      <p className="mb-3 text-ink-2">
        {sizeText(photo.sizeBytes)}, last at {photo.driveLabel}
        {photo.folderPath && `/${photo.folderPath}`}. To look for many at once, open the drive in Intake.
      </p>
      <FolderPicker
        readOnlyToo
        onChoose={(chosen) => {
          setPlace(chosen);
          choose('');
        }}
      />
      <RadioGroup
        label="Files"
        value={name}
        onChange={choose}
        className="mt-3 h-40 overflow-y-auto rounded border border-line bg-sheet py-1"
      >
        {candidates?.map((candidate) => (
          <Radio
            key={candidate.name}
            value={candidate.name}
            disabled={candidate.described}
            className={`gap-2 px-2.5 py-1 ${candidate.described ? 'text-ink-3' : 'cursor-pointer hover:bg-ground'}`}
          >
            <span className="truncate font-mono text-[12px]">{candidate.name}</span>
            <span className="figures ml-auto text-[12px] whitespace-nowrap text-ink-2">
              {[
                candidate.described ? 'a photo of its own' : '',
                candidate.sameSize ? 'same size' : sizeText(candidate.sizeBytes),
              ]
                .filter(Boolean)
                .join(' · ')}
            </span>
          </Radio>
        ))}
        {place && candidates?.length === 0 && <p className="px-2.5 py-1 text-ink-2">No file here is of its kind.</p>}
        {!place && <p className="px-2.5 py-1 text-ink-2">Choose a folder first.</p>}
        {isFetching && !candidates && <p className="px-2.5 py-1 text-ink-2">Looking …</p>}
        {error && <p className="px-2.5 py-1 text-red">{error.message}</p>}
      </RadioGroup>
      {isOther && (
        <p role="alert" className="mt-3 rounded bg-amber-pale px-2.5 py-1.5">
          The picture in this file is not the one that is missing: it may have been edited. Link it only if you are
          sure.
        </p>
      )}
      <FormActions
        onCancel={onClose}
        action={isOther ? 'Link it all the same' : 'Link'}
        disabled={!place || name === '' || link.isPending}
        onAction={() => send(isOther)}
      />
    </Dialog>
  );
}
