// What a person has pinned: folders, dossiers and saved searches, in their order.

import { useQuery } from '@tanstack/react-query';
import { steppingRoutes, type PinnedPlace } from '@stellin/contract/stepping';
import { call } from '../foundation/api';
import { useAction } from '../foundation/changes';

export function usePinned() {
  return useQuery({
    queryKey: ['accounts', 'pinned'],
    queryFn: async () => (await call(steppingRoutes.listPinned, {})).pinned,
  });
}

export function useSetPinned() {
  return useAction((pinned: PinnedPlace[]) => call(steppingRoutes.setPinned, { body: { pinned } }), ['accounts']);
}
