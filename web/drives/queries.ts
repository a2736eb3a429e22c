// What is asked of drives and done with them.

import { toast } from 'sonner';
import { useMutation, useQuery } from '@tanstack/react-query';
import { bayRoutes, driveRoutes } from '@stellin/contract/drives';
import { countText } from '@stellin/contract/wording';
import { call } from '../foundation/api';
import { showError, useAction } from '../foundation/changes';

export function useDrives() {
  return useQuery({ queryKey: ['drives', 'list'], queryFn: () => call(driveRoutes.listDrives, {}) });
}

export function useFolders() {
  return useQuery({
    queryKey: ['drives', 'folders'],
    queryFn: async () => (await call(driveRoutes.listFolders, {})).folders,
  });
}

export function useBay() {
  return useQuery({ queryKey: ['drives', 'bay'], queryFn: () => call(bayRoutes.listBay, {}) });
}

export function useChangeDrive() {
  return useAction(
    ({ id, ...body }: { id: string; label?: string; note?: string }) =>
      call(driveRoutes.changeDrive, { params: { id }, body }),
    ['drives', 'photos', 'accessions'],
  );
}

export function useSeparate() {
  return useAction((mountPoint: string) => call(driveRoutes.separateDrive, { body: { mountPoint } }), ['drives']);
}

export function useAddPlace() {
  return useAction((path: string) => call(driveRoutes.addPlace, { body: { path } }), ['drives']);
}

export function useBayAction() {
  return useAction(
    ({ name, slot, plug }: { name: string; slot?: string; plug: 'in' | 'out' }) =>
      plug === 'in' ? call(bayRoutes.attach, { body: { name, slot } }) : call(bayRoutes.detach, { body: { name } }),
    ['drives', 'photos', 'writeBack'],
  );
}

/** Lets a stand-in for another program change files of a drive. */
export function useBayTouch() {
  return useMutation({
    mutationFn: (body: { name: string; count: number }) => call(bayRoutes.touch, { body }),
    onError: showError,
    onSuccess: ({ files }, { name }) =>
      void toast(`Another program has changed ${countText(files.length, 'file')} of ${name}.`),
  });
}
