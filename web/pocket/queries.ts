// What is in one’s pocket, and what is done with it.

import { useQuery } from '@tanstack/react-query';
import type { Selection } from '@stellin/contract/photos';
import { pocketRoutes } from '@stellin/contract/pocket';
import { call } from '../foundation/api';
import { useAction } from '../foundation/changes';

export function usePocket() {
  return useQuery({ queryKey: ['photos', 'pocket'], queryFn: () => call(pocketRoutes.showPocket, {}) });
}

export function useChangePocket() {
  return useAction(
    (change: { selection: Selection; way: 'in' | 'out' }) => call(pocketRoutes.changePocket, { body: change }),
    ['photos'],
  );
}

export function useEmptyPocket() {
  return useAction((_: undefined) => call(pocketRoutes.emptyPocket, {}), ['photos']);
}
