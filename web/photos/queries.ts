// What screens read of photos, by the keys that live changes make stale.

import { keepPreviousData, useQuery, type QueryClient } from '@tanstack/react-query';
import type { Sort } from '@stellin/core/search/sorts';
import { photoRoutes, type Photo, type Selection } from '@stellin/contract/photos';
import { call } from '../foundation/api';
import { placeGroups } from './groups';

/** Photos are read in blocks of this many. */
export const BLOCK = 60;

export interface Result {
  query: string;
  sort: Sort;
}

function blockOptions({ query, sort }: Result, block: number) {
  return {
    queryKey: ['photos', 'block', query, sort, block],
    queryFn: async () =>
      (await call(photoRoutes.listPhotos, { query: { query, sort, offset: block * BLOCK, limit: BLOCK } })).photos,
  };
}

export function useBlock(result: Result, block: number) {
  return useQuery(blockOptions(result, block));
}

/** The photos at positions from `first` to `last`, both included, read where they are not known yet. */
export async function photosBetween(client: QueryClient, result: Result, first: number, last: number) {
  const blocks = Array.from(
    { length: Math.floor(last / BLOCK) - Math.floor(first / BLOCK) + 1 },
    (_, i) => Math.floor(first / BLOCK) + i,
  );
  const pages = await Promise.all(blocks.map((block) => client.ensureQueryData(blockOptions(result, block))));
  const start = (blocks[0] ?? 0) * BLOCK;
  return pages.flat().slice(first - start, last - start + 1);
}

/** The first photos of a selection, in an order. */
export async function photosOfSelection(selection: Selection, sort: Sort, limit: number): Promise<Photo[]> {
  return (await call(photoRoutes.photosOfSelection, { body: { selection, sort, limit } })).photos;
}

/** The groups of a result, with where they begin. */
export function useGroups({ query, sort }: Result) {
  return useQuery({
    queryKey: ['photos', 'groups', query, sort],
    queryFn: async () => placeGroups((await call(photoRoutes.listGroups, { query: { query, sort } })).groups),
  });
}

export function useCount(query: string) {
  return useQuery({
    queryKey: ['photos', 'count', query],
    queryFn: () => call(photoRoutes.countPhotos, { query: { query } }),
    placeholderData: keepPreviousData,
  });
}

export function usePhoto(id: number | undefined) {
  return useQuery({
    queryKey: ['photos', 'one', id],
    queryFn: () => call(photoRoutes.showPhoto, { params: { id: id ?? 0 } }),
    enabled: id !== undefined,
    placeholderData: keepPreviousData,
  });
}

/** What the blocks of a photo's file say. */
export function useBlocks(id: number | undefined) {
  return useQuery({
    queryKey: ['photos', 'blocks', id],
    queryFn: () => call(photoRoutes.showBlocks, { params: { id: id ?? 0 } }),
    enabled: id !== undefined,
  });
}

export function useChosenDescription(selection: Selection | null) {
  return useQuery({
    queryKey: ['photos', 'chosen', selection],
    queryFn: () => call(photoRoutes.describeSelection, { body: { selection: selection ?? { query: null } } }),
    enabled: selection !== null,
    placeholderData: keepPreviousData,
  });
}
