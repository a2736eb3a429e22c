// Choosing the part of the catalogue that a right is for: which kind of part, and by typing which one.

import { useState } from 'react';
import { foldText } from '@stellin/core/text/words';
import type { RightPlace } from '@stellin/contract/team';
import { useDossiers, useProjects } from '../dossiers/queries';
import { useDrives, useFolders } from '../drives/queries';
import { Combobox } from '../parts/Combobox';
import { BOX, Field } from '../parts/Field';
import { Select } from '../parts/Select';
import { useSearches } from '../search/queries';
import { PLACE_KINDS, type ChosenKind } from './rightText';

const MAX_OPTIONS = 40;
const KINDS = Object.entries(PLACE_KINDS).map(([value, label]) => ({ value: value as ChosenKind, label }));

interface Choice {
  key: string;
  label: string;
  place: RightPlace;
}

interface Props {
  /** What is chosen; null while it is not settled which one. */
  onChoose: (place: RightPlace | null) => void;
}

export function PlacePicker({ onChoose }: Props) {
  const [kind, setKind] = useState<ChosenKind>('catalogue');
  return (
    <>
      <Field label="Where">
        {(tied) => (
          <Select
            {...tied}
            className="w-full"
            value={kind}
            options={KINDS}
            onChange={(next) => {
              setKind(next);
              onChoose(next === 'catalogue' ? { kind: next } : null);
            }}
          />
        )}
      </Field>
      {kind !== 'catalogue' && <WhichOne key={kind} kind={kind} onChoose={onChoose} />}
    </>
  );
}

function WhichOne({ kind, onChoose }: { kind: Exclude<ChosenKind, 'catalogue'> } & Props) {
  const [text, setText] = useState('');
  const choices = useChoices(kind);
  const wanted = foldText(text.trim());
  const options = choices.filter(({ label }) => foldText(label).includes(wanted)).slice(0, MAX_OPTIONS);
  return (
    <Field label="Which one">
      {(tied) => (
        <Combobox
          {...tied}
          text={text}
          onText={(next) => {
            setText(next);
            onChoose(null);
          }}
          listLabel="Parts of the catalogue"
          opensEmpty
          firstInFocus
          nothing="There is none that is called so."
          className={`${BOX} h-8`}
          options={options.map(({ key, label, place }) => ({
            key,
            content: label,
            onPick: () => {
              setText(label);
              onChoose(place);
            },
          }))}
        />
      )}
    </Field>
  );
}

/** All parts of a kind by name. */
function useChoices(kind: Exclude<ChosenKind, 'catalogue'>): Choice[] {
  const drives = useDrives().data?.drives ?? [];
  const folders = useFolders().data ?? [];
  const dossiers = useDossiers().data ?? [];
  const projects = useProjects().data ?? [];
  const searches = useSearches().data ?? [];
  const labels = new Map(drives.map(({ id, label }) => [id, label]));
  const CHOICES: Record<typeof kind, () => Choice[]> = {
    drive: () =>
      drives.flatMap(({ id, label }) =>
        id === null ? [] : [{ key: id, label, place: { kind: 'drive', driveId: id } }],
      ),
    folder: () =>
      folders
        .filter(({ path }) => path !== '')
        .map(({ id, driveId, path }) => ({
          key: String(id),
          label: `${labels.get(driveId) ?? ''} › ${path.replaceAll('/', ' › ')}`,
          place: { kind: 'folder', folderId: id },
        })),
    dossier: () =>
      dossiers.map(({ id, path }) => ({
        key: String(id),
        label: path.replaceAll('/', ' › '),
        place: { kind: 'dossier', dossierId: id },
      })),
    project: () =>
      projects.map(({ dossierId, name }) => ({
        key: String(dossierId),
        label: name,
        place: { kind: 'dossier', dossierId },
      })),
    search: () =>
      searches.map(({ id, name }) => ({ key: String(id), label: name, place: { kind: 'search', searchId: id } })),
  };
  return CHOICES[kind]();
}
