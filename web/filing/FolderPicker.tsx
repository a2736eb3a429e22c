// Choosing a folder of a drive that can be written to, or a new one in it.

import { useState } from 'react';
import { nameProblem } from '@stellin/core/filing/names';
import { useDrives, useFolders } from '../drives/queries';
import { Radio, RadioGroup } from '../parts/RadioGroup';
import { TextField } from '../parts/Field';

export interface Place {
  driveId: string;
  folder: string;
}

const MAX_SHOWN = 300;

interface Props {
  /** Undefined while no folder is chosen, or its name can't be used. */
  onChoose: (place: Place | undefined) => void;
  /** Only what is there is to be chosen: drives that can’t be written to will do, and no folder is made. */
  readOnlyToo?: boolean;
}

export function FolderPicker({ onChoose, readOnlyToo = false }: Props) {
  const { data: drives } = useDrives();
  const { data: folders = [] } = useFolders();
  const [wanted, setWanted] = useState('');
  const [chosen, setChosen] = useState<{ driveId: string; path: string } | null>(null);
  const [below, setBelow] = useState('');
  const writable = new Map(
    drives?.drives.flatMap(({ id, label, state, readOnly }) =>
      id && state === 'attached' && (readOnlyToo || !readOnly) ? [[id, label]] : [],
    ),
  );
  const rows = folders.flatMap(({ id, driveId, path }) => {
    const label = writable.get(driveId);
    return label === undefined ? [] : [{ id, driveId, path, shown: path === '' ? label : `${label}/${path}` }];
  });
  rows.sort((a, b) => a.shown.localeCompare(b.shown));
  const words = wanted.toLowerCase().split(/\s+/).filter(Boolean);
  const found = rows.filter(({ shown }) => words.every((word) => shown.toLowerCase().includes(word)));
  const newName = below.trim().replace(/^\/+|\/+$/g, '');
  const problem = newName === '' ? undefined : newName.split('/').map(nameProblem).find(Boolean);
  const tell = (place: typeof chosen, name: string) => {
    const steps = name.trim().replace(/^\/+|\/+$/g, '');
    const bad = steps !== '' && steps.split('/').some((step) => nameProblem(step));
    onChoose(
      place && !bad ? { driveId: place.driveId, folder: [place.path, steps].filter(Boolean).join('/') } : undefined,
    );
  };
  return (
    <div className="space-y-2">
      <TextField
        label="Find a folder"
        hideLabel
        autoFocus
        placeholder="Find a folder …"
        value={wanted}
        onChange={(event) => setWanted(event.target.value)}
      />
      <RadioGroup
        label="Folders"
        value={chosen ? keyOf(chosen) : ''}
        onChange={(key) => {
          const row = found.find((candidate) => keyOf(candidate) === key);
          if (!row) return;
          setChosen(row);
          tell(row, below);
        }}
        className="h-52 overflow-y-auto rounded border border-line bg-sheet py-1"
      >
        {found.slice(0, MAX_SHOWN).map((row) => (
          <Radio
            key={row.id}
            value={keyOf(row)}
            className="cursor-pointer gap-2 px-2.5 py-1 hover:bg-ground has-data-[state=checked]:bg-spruce-pale has-data-[state=checked]:font-semibold"
          >
            <span className="truncate">{row.shown}</span>
          </Radio>
        ))}
        {found.length === 0 && <p className="px-2.5 py-1 text-ink-2">No folder of an attached drive is called so.</p>}
        {found.length > MAX_SHOWN && <p className="px-2.5 py-1 text-ink-2">More are there; type a part of the name.</p>}
      </RadioGroup>
      {!readOnlyToo && (
        <TextField
          label="In a new folder there"
          placeholder="optional"
          error={problem && `That can’t be used: ${problem}.`}
          value={below}
          onChange={(event) => {
            setBelow(event.target.value);
            tell(chosen, event.target.value);
          }}
        />
      )}
    </div>
  );
}

const keyOf = ({ driveId, path }: { driveId: string; path: string }) => `${driveId} ${path}`;
