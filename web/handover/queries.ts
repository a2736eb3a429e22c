// What is read of handing over.

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { handoverRoutes } from '@stellin/contract/handover';
import { call } from '../foundation/api';
import { useAction } from '../foundation/changes';
import { useMayCall } from '../foundation/session';

export const RETURNED_SHOWN = 50;

/** The programs that can be started; none for who may not start them. */
export function usePrograms() {
  const may = useMayCall(handoverRoutes.listPrograms);
  return useQuery({
    queryKey: ['deliveries', 'programs'],
    queryFn: async () => (await call(handoverRoutes.listPrograms, {})).programs,
    enabled: may,
  });
}

export function useReturned(id: string, offset: number) {
  return useQuery({
    queryKey: ['deliveries', 'returned', id, offset],
    queryFn: () => call(handoverRoutes.listReturned, { params: { id }, query: { offset, limit: RETURNED_SHOWN } }),
    placeholderData: keepPreviousData,
  });
}

/** Takes in what came back; null: all that waits. */
export function useTakeReturned(id: string) {
  return useAction(
    (ids: number[] | null) => call(handoverRoutes.takeReturned, { params: { id }, body: { ids } }),
    ['deliveries', 'jobs'],
  );
}

export function useLeaveReturned(id: string) {
  return useAction(
    (ids: number[]) => call(handoverRoutes.leaveReturned, { params: { id }, body: { ids } }),
    ['deliveries', 'jobs'],
  );
}

export function useLookForReturned(id: string) {
  return useAction(() => call(handoverRoutes.lookForReturned, { params: { id } }), ['deliveries', 'jobs']);
}

export function useEndHandover(id: string) {
  return useAction(() => call(handoverRoutes.closeHandover, { params: { id } }), ['deliveries', 'jobs']);
}
