// The tracked folders of a drive, and tracking one more.

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { z } from 'zod';
import { trackingRoutes } from '@stellin/contract/tracking';
import { call } from '../foundation/api';
import { showError } from '../foundation/changes';
import { useMayCall } from '../foundation/session';
import { usePrepared } from '../describing/queries';
import { useDossiers } from '../dossiers/queries';
import { Button } from '../parts/Button';
import { dateTimeText } from '../parts/dateTimeText';
import { Select } from '../parts/Select';

/** In a choice 0 is none. */
const NONE = 0;

type Rules = Omit<z.input<typeof trackingRoutes.track.body>, 'driveId'>;

interface Props {
  driveId: string;
  driveLabel: string;
  /** What would be tracked. */
  rules: Rules;
}

export function Tracked({ driveId, driveLabel, rules }: Props) {
  const client = useQueryClient();
  const [dossierId, setDossierId] = useState<number | null>(null);
  const { data: dossiers = [] } = useDossiers();
  const { data: prepared } = usePrepared();
  const nameOf = (all: readonly { id: number; name: string }[] | undefined, id: number | null) =>
    all?.find((each) => each.id === id)?.name;
  const { data } = useQuery({ queryKey: ['drives', 'tracked'], queryFn: () => call(trackingRoutes.listTracked, {}) });
  const settled = {
    onError: showError,
    onSettled: () => client.invalidateQueries({ queryKey: ['drives', 'tracked'] }),
  };
  const track = useMutation({
    mutationFn: () => call(trackingRoutes.track, { body: { driveId, ...rules, dossierId } }),
    ...settled,
  });
  const untrack = useMutation({
    mutationFn: (id: number) => call(trackingRoutes.untrack, { params: { id } }),
    ...settled,
  });
  const mayChange = useMayCall(trackingRoutes.track);
  const tracked = data?.folders.filter((folder) => folder.driveId === driveId) ?? [];
  const shown = (folder: string) => (folder === '' ? `all of ${driveLabel}` : folder);
  const isTracked = tracked.some(({ folder }) => folder === (rules.folder ?? ''));
  return (
    <div className="mt-3 flex flex-col items-start gap-1.5 border-t border-line pt-3">
      {tracked.map(({ id, folder, subFolders, checkedAt, listens, ...gets }) => (
        <p key={id} className="flex w-full items-center gap-2">
          <span aria-hidden="true" className={`size-2 rounded-full ${listens ? 'bg-spruce' : 'bg-ink-3'}`} />
          <span>
            Keeps up with <b>{shown(folder)}</b>
            {subFolders ? '' : ' without sub-folders'}
          </span>
          <span className="figures text-[12px] text-ink-2">
            {listens ? 'as it changes' : 'every half hour'}
            {checkedAt && ` · looked through ${dateTimeText(checkedAt)}`}
            {gets.templateId !== null && ` · template “${nameOf(prepared?.templates, gets.templateId) ?? ''}”`}
            {gets.dossierId !== null && ` · into “${nameOf(dossiers, gets.dossierId) ?? ''}”`}
          </span>
          {mayChange && (
            <Button look="quiet" className="!h-7" onClick={() => untrack.mutate(id)}>
              Stop
            </Button>
          )}
        </p>
      ))}
      {mayChange && !isTracked && (
        <span className="flex flex-wrap items-center gap-2">
          <Button disabled={track.isPending} onClick={() => track.mutate()}>
            Keep up with {shown(rules.folder ?? '')} by itself
          </Button>
          <Select
            label="Dossier that new photos come into"
            className="max-w-64"
            value={dossierId ?? NONE}
            onChange={(id) => setDossierId(id || null)}
            options={[
              { value: NONE, label: 'into no dossier' },
              ...dossiers.map(({ id, path }) => ({ value: id, label: `into ${path.replaceAll('/', ' › ')}` })),
            ]}
          />
          {rules.templateId !== null && rules.templateId !== undefined && (
            <span className="text-[12px] text-ink-2">New photos get the template that is chosen above.</span>
          )}
        </span>
      )}
    </div>
  );
}
