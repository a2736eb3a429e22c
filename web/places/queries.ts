// What is read of places and of the map.

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { MapView } from '@stellin/core/search/index/mapCells';
import type { Point } from '@stellin/core/timeplace/areas';
import { placeRoutes } from '@stellin/contract/places';
import type { Selection } from '@stellin/contract/photos';
import { trackRoutes } from '@stellin/contract/tracks';
import { call } from '../foundation/api';
import { useAction } from '../foundation/changes';

export function useOwnPlaces() {
  return useQuery({
    queryKey: ['places', 'own'],
    queryFn: async () => (await call(placeRoutes.listOwnPlaces, {})).places,
  });
}

/** Places by what is typed; nothing for an empty text. */
export function useFoundPlaces(text: string) {
  const typed = text.trim();
  return useQuery({
    queryKey: ['places', 'find', typed],
    queryFn: async () => (await call(placeRoutes.findPlaces, { query: { text: typed } })).places,
    enabled: typed !== '',
    placeholderData: keepPreviousData,
  });
}

/** What a point lies in; nothing while none is picked. */
export function useWhereabouts(point: Point | null) {
  return useQuery({
    queryKey: ['places', 'whereabouts', point],
    queryFn: async () =>
      (await call(placeRoutes.whereabouts, { body: { points: point ? [point] : [] } })).places[0] ?? null,
    enabled: point !== null,
  });
}

/** The photos of a result in the part of the map that is in sight, by cell. */
export function useMapPhotos(query: string, view: MapView | null) {
  return useQuery({
    queryKey: ['photos', 'map', query, view],
    queryFn: () => call(placeRoutes.showOnMap, { body: { selection: { query }, view: view ?? WORLD } }),
    enabled: view !== null,
    placeholderData: keepPreviousData,
  });
}

/** All of the world, coarsely. */
export const WORLD: MapView = { south: -85, west: -180, north: 85, east: 180, level: 3 };

export function useTracks() {
  return useQuery({
    queryKey: ['places', 'tracks'],
    queryFn: async () => (await call(trackRoutes.listTracks, {})).tracks,
  });
}

export const useAddTrack = () =>
  useAction((body: { name: string; device: string; text: string }) => call(trackRoutes.addTrack, { body }), ['places']);

export const useRemoveTrack = () =>
  useAction((id: number) => call(trackRoutes.removeTrack, { params: { id } }), ['places']);

/** Some tracks as lines for the map. */
export function useTrackLines(ids: readonly number[]) {
  return useQuery({
    queryKey: ['places', 'lines', ids],
    queryFn: async () =>
      (await Promise.all(ids.map((id) => call(trackRoutes.trackLine, { params: { id } })))).flatMap(
        ({ parts }) => parts,
      ),
    placeholderData: keepPreviousData,
  });
}

interface Matching {
  selection: Selection;
  trackIds: number[];
  onlyWithout: boolean;
  following: { zoneMinutes: number; aheadSeconds: number; maxGapSeconds: number; way: 'between' | 'nearest' };
}

/** Where photos would come to lie by tracks. */
export function useFollowing(matching: Matching) {
  return useQuery({
    queryKey: ['photos', 'following', matching],
    queryFn: () => call(trackRoutes.previewFollowing, { body: matching }),
    placeholderData: keepPreviousData,
  });
}

/** The names that photos would be filled with. */
export function useNamesPreview(selection: Selection) {
  return useQuery({
    queryKey: ['photos', 'placeNames', selection],
    queryFn: () => call(placeRoutes.previewNames, { body: { selection } }),
  });
}

/** Where photos would be set by the names they say. */
export function usePositionsPreview(selection: Selection) {
  return useQuery({
    queryKey: ['photos', 'placePositions', selection],
    queryFn: () => call(placeRoutes.previewPositions, { body: { selection } }),
  });
}
