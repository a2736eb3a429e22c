// What filing reads and asks for.

import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { filingRoutes, type FilingAction } from '@stellin/contract/filing';
import type { Selection } from '@stellin/contract/photos';
import { call } from '../api';
import { showError } from '../app/changes';

export interface Filing {
  action: FilingAction;
  selection: Selection;
  driveId?: string;
  folder?: string;
  pattern?: string;
  start?: number;
}

/** What it would do. */
export function useFilingPlan(filing: Filing, enabled: boolean) {
  return useQuery({
    queryKey: ['photos', 'filing', filing],
    queryFn: () => call(filingRoutes.planFiling, { body: filing }),
    enabled,
    placeholderData: keepPreviousData,
  });
}

export function useTrash() {
  return useQuery({ queryKey: ['photos', 'trash'], queryFn: () => call(filingRoutes.listTrash, {}) });
}

export function useEmptyTrash() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (driveId: string) => call(filingRoutes.emptyTrash, { body: { driveId } }),
    onError: showError,
    onSuccess: () => void client.invalidateQueries({ queryKey: ['jobs'] }),
  });
}
