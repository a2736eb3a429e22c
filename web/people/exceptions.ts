// Switching off looking for faces, for a drive or a folder with all below it.

import { useMutation, useQueryClient } from '@tanstack/react-query';
import { peopleRoutes } from '@stellin/contract/people';
import { call } from '../foundation/api';
import { showError } from '../foundation/changes';
import { useScanState } from './queries';

/** Whether faces are looked for in a folder ('' for the whole drive), whether that is said of a folder above, and changing it. */
export function useLooking(driveId: string, folder: string) {
  const { data } = useScanState();
  const client = useQueryClient();
  const set = useMutation({
    mutationFn: (on: boolean) => call(peopleRoutes.setException, { body: { driveId, folder, off: !on } }),
    onError: showError,
    onSuccess: () => void client.invalidateQueries({ queryKey: ['people'] }),
  });
  const off = data?.exceptions.filter((exception) => exception.driveId === driveId) ?? [];
  const above = off.some((exception) => exception.folder !== folder && isWithin(folder, exception.folder));
  return { known: data !== undefined, on: !above && !off.some((exception) => exception.folder === folder), above, set };
}

function isWithin(folder: string, other: string): boolean {
  return other === '' || folder.startsWith(`${other}/`);
}
