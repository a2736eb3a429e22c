// Copying in from a card or any folder: where to, under which names, and what it would do.

import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { z } from 'zod';
import { PLACEHOLDERS } from '@stellin/core/filing/namePattern';
import { copyingRoutes } from '@stellin/contract/copying';
import type { Drive } from '@stellin/contract/drives';
import { countText } from '@stellin/contract/wording';
import { call } from '../foundation/api';
import { showError } from '../foundation/changes';
import { useDrives } from '../drives/queries';
import { TemplateChoice } from '../describing/TemplateChoice';
import { Dialog } from '../parts/Dialog';
import { FormActions } from '../parts/FormActions';
import { sizeText } from '@stellin/contract/sizeText';
import { Select } from '../parts/Select';
import { Checkbox } from '../parts/Checkbox';
import { TextField } from '../parts/Field';

interface Props {
  drive: Drive;
  folder: string;
  subFolders: boolean;
  onClose: () => void;
}

type Request = z.input<typeof copyingRoutes.copyIn.body>;

const FIELD = 'mt-1 block h-8 w-full rounded border border-line bg-card px-2 text-base text-ink';

export function CopyIn({ drive, folder, subFolders, onClose }: Props) {
  const { data } = useDrives();
  const targets =
    data?.drives.filter(
      ({ id, state, readOnly, key }) => id && state === 'attached' && !readOnly && key !== drive.key,
    ) ?? [];
  const [chosen, setChosen] = useState({
    toDriveId: '',
    toFolder: '{year}/{year}-{month}-{day}',
    name: '{name}',
    secondDriveId: '',
    skipKnown: true,
    templateId: null as number | null,
  });
  const set = (part: Partial<typeof chosen>) => setChosen((before) => ({ ...before, ...part }));
  const toDriveId = chosen.toDriveId || (targets[0]?.id ?? '');
  const request: Request = {
    ...chosen,
    driveKey: drive.key,
    folder,
    subFolders,
    toDriveId,
    secondDriveId: chosen.secondDriveId || null,
  };
  const isAsked = toDriveId !== '' && chosen.name.trim() !== '';
  const { data: plan } = useQuery({
    queryKey: ['drives', 'copying', request],
    queryFn: () => call(copyingRoutes.planCopy, { body: request }),
    enabled: isAsked,
    placeholderData: keepPreviousData,
  });
  const client = useQueryClient();
  const start = useMutation({
    mutationFn: () => call(copyingRoutes.copyIn, { body: request }),
    onError: showError,
    onSuccess: async () => {
      await client.invalidateQueries({ queryKey: ['jobs'] });
      onClose();
    },
  });
  const known = isAsked ? plan : undefined;
  return (
    <Dialog open onOpenChange={onClose} title={`Copy in from ${drive.label}${folder && `, ${folder}`}`}>
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          start.mutate();
        }}
      >
        <div className="flex gap-3">
          <DriveField
            label="To the drive"
            drives={targets}
            value={toDriveId}
            onChange={(id) => set({ toDriveId: id })}
          />
          <DriveField
            label="And a second copy to"
            drives={targets.filter(({ id }) => id !== toDriveId)}
            none="nowhere"
            value={chosen.secondDriveId}
            onChange={(id) => set({ secondDriveId: id })}
          />
        </div>
        <TextField
          label="Into the folder"
          spellCheck={false}
          boxClass="h-8 font-mono text-[12px]"
          value={chosen.toFolder}
          onChange={(event) => set({ toFolder: event.target.value })}
        />
        <TextField
          label="Under the name, without its extension"
          spellCheck={false}
          boxClass="h-8 font-mono text-[12px]"
          value={chosen.name}
          onChange={(event) => set({ name: event.target.value })}
        />
        <p className="text-[12px] text-ink-2">
          Placeholders:{' '}
          {Object.entries(PLACEHOLDERS).map(([name, { help }]) => (
            <span key={name} title={help} className="mr-1.5 font-mono">{`{${name}}`}</span>
          ))}
        </p>
        <Checkbox checked={chosen.skipKnown} onChange={(checked) => set({ skipKnown: checked })}>
          pass over pictures that the catalogue knows
        </Checkbox>
        <TemplateChoice templateId={chosen.templateId} onChoose={(templateId) => set({ templateId })} />
        {known?.problem ? (
          <p role="alert" className="rounded bg-red-pale px-2.5 py-1.5 text-red">
            {known.problem}
          </p>
        ) : (
          known && (
            <div aria-live="polite">
              <p className="figures">
                {countText(known.files, 'photo')}, {sizeText(known.bytes)}. Every copy is read back and compared;
                nothing is written over.
              </p>
              <ul className="mt-1 font-mono text-[12px] text-ink-2">
                {known.examples.map(({ before, after }) => (
                  <li key={before} className="truncate" title={`${before} → ${after}`}>
                    {before.slice(before.lastIndexOf('/') + 1)} → <span className="text-ink">{after}</span>
                  </li>
                ))}
              </ul>
            </div>
          )
        )}
        {targets.length === 0 && (
          <p className="text-ink-2">No other drive of the catalogue is attached and can be written to.</p>
        )}
        <FormActions
          onCancel={onClose}
          action={`Copy in ${known ? countText(known.files, 'photo') : ''}`}
          disabled={!known || known.problem !== null || known.files === 0 || start.isPending}
        />
      </form>
    </Dialog>
  );
}

interface DriveFieldProps {
  label: string;
  drives: readonly Drive[];
  /** What stands for no drive. */
  none?: string;
  value: string;
  onChange: (id: string) => void;
}

function DriveField({ label, drives, none, value, onChange }: DriveFieldProps) {
  return (
    <label className="min-w-0 flex-1 text-[12px] text-ink-2">
      {label}
      <Select
        className={FIELD}
        value={value}
        onChange={onChange}
        options={[
          ...(none ? [{ value: '', label: none }] : []),
          ...drives.map(({ id, label: name, freeBytes }) => ({
            value: id ?? '',
            label: freeBytes === null ? name : `${name} (${sizeText(freeBytes)} free)`,
          })),
        ]}
      />
    </label>
  );
}
