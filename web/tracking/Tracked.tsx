// The tracked folders of a drive, and tracking one more.

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { z } from 'zod';
import { trackingRoutes } from '@stellin/contract/tracking';
import { call } from '../foundation/api';
import { showError } from '../foundation/changes';
import { useMayCall } from '../foundation/session';
import { Button } from '../parts/Button';
import { dateTimeText } from '../parts/dateTimeText';

type Rules = Omit<z.input<typeof trackingRoutes.track.body>, 'driveId'>;

interface Props {
  driveId: string;
  driveLabel: string;
  /** What would be tracked. */
  rules: Rules;
}

export function Tracked({ driveId, driveLabel, rules }: Props) {
  const client = useQueryClient();
  const { data } = useQuery({ queryKey: ['drives', 'tracked'], queryFn: () => call(trackingRoutes.listTracked, {}) });
  const settled = {
    onError: showError,
    onSettled: () => client.invalidateQueries({ queryKey: ['drives', 'tracked'] }),
  };
  const track = useMutation({
    mutationFn: () => call(trackingRoutes.track, { body: { driveId, ...rules } }),
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
      {tracked.map(({ id, folder, subFolders, checkedAt, listens }) => (
        <p key={id} className="flex w-full items-center gap-2">
          <span aria-hidden="true" className={`size-2 rounded-full ${listens ? 'bg-spruce' : 'bg-ink-3'}`} />
          <span>
            Keeps up with <b>{shown(folder)}</b>
            {subFolders ? '' : ' without sub-folders'}
          </span>
          <span className="figures text-[12px] text-ink-2">
            {listens ? 'as it changes' : 'every half hour'}
            {checkedAt && ` · looked through ${dateTimeText(checkedAt)}`}
          </span>
          {mayChange && (
            <Button look="quiet" className="!h-7" onClick={() => untrack.mutate(id)}>
              Stop
            </Button>
          )}
        </p>
      ))}
      {mayChange && !isTracked && (
        <Button disabled={track.isPending} onClick={() => track.mutate()}>
          Keep up with {shown(rules.folder ?? '')} by itself
        </Button>
      )}
    </div>
  );
}
