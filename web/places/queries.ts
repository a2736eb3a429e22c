// What is read of places and of the map.

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { MapView } from '@stellin/core/search/index/mapCells';
import type { Point } from '@stellin/core/timeplace/areas';
import type { MapPin } from '@stellin/core/timeplace/pinning';
import { oldMapRoutes } from '@stellin/contract/oldMaps';
import { placeRoutes } from '@stellin/contract/places';
import type { Selection } from '@stellin/contract/photos';
import { streetMapRoutes } from '@stellin/contract/streetMaps';
import { trackRoutes, type FollowedState } from '@stellin/contract/tracks';
import { call, upload } from '../foundation/api';
import { useAction } from '../foundation/changes';

export function useOwnPlaces() {
  return useQuery({
    queryKey: ['places', 'own'],
    queryFn: async () => (await call(placeRoutes.listOwnPlaces, {})).places,
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

/** Where some chosen photos lie. */
export function useMapSelection(selection: Selection) {
  return useQuery({
    queryKey: ['photos', 'map of', selection],
    queryFn: () => call(placeRoutes.showOnMap, { body: { selection, view: { ...WORLD, level: CHOSEN_LEVEL } } }),
    placeholderData: keepPreviousData,
  });
}

/** Chosen photos are told apart when they lie this near one another: a cell is about 300 km wide. */
const CHOSEN_LEVEL = 7;

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
  state: FollowedState | null;
  offset: number;
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

/** Doubts about places. While somebody looks at them they are worked out anew with every change of photos, else with those of places. */
export function usePlaceDoubts(areLookedAt: boolean) {
  return useQuery({
    queryKey: areLookedAt ? ['photos', 'place doubts'] : ['places', 'doubts'],
    queryFn: () => call(placeRoutes.placeDoubts, {}),
    placeholderData: keepPreviousData,
  });
}

/** Clocks that went wrong, with the photos that still say what they said. */
export function useClocks() {
  return useQuery({
    queryKey: ['photos', 'clocks'],
    queryFn: async () => (await call(trackRoutes.listClocks, {})).clocks,
  });
}

/** The photos of a selection by camera and time. */
export function useCamerasByTime(selection: Selection) {
  return useQuery({
    queryKey: ['photos', 'cameras by time', selection],
    queryFn: () => call(trackRoutes.camerasByTime, { body: { selection } }),
  });
}

/** Where a photo lies; null while none is meant, or where it has no position. */
export function useWhere(photoId: number | null): Point | null {
  const { data } = useQuery({
    queryKey: ['photos', 'where', photoId],
    queryFn: async () => {
      const selection = { query: null, minus: [], plus: [photoId ?? 0] };
      return (await call(placeRoutes.showOnMap, { body: { selection, view: WORLD } })).cells[0] ?? null;
    },
    enabled: photoId !== null,
  });
  return photoId === null ? null : (data ?? null);
}

export function useOldMaps() {
  return useQuery({
    queryKey: ['places', 'old maps'],
    queryFn: async () => (await call(oldMapRoutes.listOldMaps, {})).maps,
  });
}

export const useAddOldMap = () =>
  useAction((body: { name: string; picture: string }) => call(oldMapRoutes.addOldMap, { body }), ['places']);

export const useChangeOldMap = () =>
  useAction(
    ({ id, ...body }: { id: number; name: string; note: string; pins: MapPin[] }) =>
      call(oldMapRoutes.changeOldMap, { params: { id }, body }),
    ['places'],
  );

export const useRemoveOldMap = () =>
  useAction((id: number) => call(oldMapRoutes.removeOldMap, { params: { id } }), ['places']);

export function useStreetMaps() {
  return useQuery({
    queryKey: ['places', 'street maps'],
    queryFn: async () => (await call(streetMapRoutes.listStreetMaps, {})).maps,
  });
}

export const useAddStreetMap = () =>
  useAction((file: File) => upload(`/api/street-maps/${encodeURIComponent(file.name)}`, file), ['places']);

export const useRemoveStreetMap = () =>
  useAction((name: string) => call(streetMapRoutes.removeStreetMap, { params: { name } }), ['places']);
