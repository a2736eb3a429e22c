// What is read of work lists, and what is done with them.

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { photoRoutes } from '@stellin/contract/photos';
import { workListRoutes, type Giving, type Outcome } from '@stellin/contract/workLists';
import { call } from '../foundation/api';
import { useAction } from '../foundation/changes';

/** The lists of photos within what a query finds. */
export function useWorkLists(query: string) {
  return useQuery({
    queryKey: ['photos', 'workLists', query],
    queryFn: async () => (await call(workListRoutes.showWorkLists, { query: { query } })).lists,
    placeholderData: keepPreviousData,
  });
}

/** The lists of other things. */
export function useThingLists() {
  return useQuery({
    queryKey: ['photos', 'thingLists'],
    queryFn: async () => (await call(workListRoutes.showThingLists, {})).lists,
  });
}

export function useGiven() {
  return useQuery({
    queryKey: ['workLists', 'given'],
    queryFn: () => call(workListRoutes.showGiven, {}),
  });
}

export function useWorkers() {
  return useQuery({
    queryKey: ['accounts', 'workers'],
    queryFn: async () => (await call(workListRoutes.listWorkers, {})).people,
  });
}

/** The photos a walk goes through: they stay as they are while it goes on, whatever becomes of them. */
export function useWalk(list: string, query: string) {
  return useQuery({
    queryKey: ['walk', list, query],
    queryFn: () => call(workListRoutes.walkList, { query: { list, query } }),
    staleTime: Infinity,
    gcTime: 0,
  });
}

/** Whether a photo is still on the list that a query finds; undefined while it is not known. */
export function useIsListed(photoId: number | undefined, query: string | undefined): boolean | undefined {
  const { data } = useQuery({
    queryKey: ['photos', 'listed', photoId, query],
    queryFn: async () => {
      const { position } = await call(photoRoutes.photoPosition, {
        params: { id: photoId ?? 0 },
        query: { query: query ?? '', sort: 'taken' },
      });
      return position !== null;
    },
    enabled: photoId !== undefined && query !== undefined,
  });
  return data;
}

export function useSettle() {
  return useAction(
    (settled: { list: string; photoId: number; outcome: Outcome }) =>
      call(workListRoutes.settleListed, { body: settled }),
    ['photos', 'workLists'],
  );
}

export function useGive() {
  return useAction((giving: Giving) => call(workListRoutes.giveList, { body: giving }), ['workLists']);
}

export function useEndGiven() {
  return useAction(
    ({ id, as }: { id: number; as: 'done' | 'open' | 'gone' }) =>
      call(workListRoutes.endGiven, { params: { id }, body: { as } }),
    ['workLists'],
  );
}
