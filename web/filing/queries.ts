// What filing reads and asks for.

import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { z } from 'zod';
import { filingRoutes, type FilingAction, type renaming } from '@stellin/contract/filing';
import { intakeRoutes } from '@stellin/contract/intake';
import type { Selection } from '@stellin/contract/photos';
import { call } from '../foundation/api';
import { showError, useAction } from '../foundation/changes';
import { useMayCall } from '../foundation/session';

export interface Filing {
  action: FilingAction;
  selection: Selection;
  driveId?: string;
  folder?: string;
  keepBelow?: string | null;
  renaming?: z.input<typeof renaming>;
}

/** What it would do. */
export function useFilingPlan(filing: Filing, enabled: boolean) {
  return useQuery({
    queryKey: ['photos', 'filing', filing],
    queryFn: () => {
      const { renaming: how, ...others } = filing;
      return call(filingRoutes.planFiling, { body: { ...others, ...how } });
    },
    enabled,
    placeholderData: keepPreviousData,
  });
}

/** What is in a folder and all below it. */
export function useFolderContents(folderId: number) {
  return useQuery({
    queryKey: ['drives', 'contents', folderId],
    queryFn: () => call(filingRoutes.showFolder, { params: { id: folderId } }),
  });
}

export function useTrash() {
  return useQuery({
    queryKey: ['photos', 'trash'],
    queryFn: () => call(filingRoutes.listTrash, {}),
    enabled: useMayCall(filingRoutes.listTrash),
  });
}

export function useEmptyTrash() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (driveId: string) => call(filingRoutes.emptyTrash, { body: { driveId } }),
    onError: showError,
    onSuccess: () => void client.invalidateQueries({ queryKey: ['jobs'] }),
  });
}

/** The files of a folder that a missing photo may be. */
export function useCandidates(photoId: number, place: { driveId: string; folder: string } | undefined) {
  return useQuery({
    queryKey: ['photos', 'candidates', photoId, place],
    queryFn: async () =>
      (await call(intakeRoutes.listCandidates, { params: { id: photoId }, query: place ?? { driveId: '' } }))
        .candidates,
    enabled: place !== undefined,
  });
}

export function useLink(photoId: number) {
  return useAction(
    (body: z.input<typeof intakeRoutes.linkPhoto.body>) =>
      call(intakeRoutes.linkPhoto, { params: { id: photoId }, body }),
    ['photos', 'drives'],
  );
}
