// What the player reads, by the keys that live changes make stale.

import { keepPreviousData, useMutation, useQuery } from '@tanstack/react-query';
import { mediaRoutes } from '@stellin/contract/media';
import { call } from '../foundation/api';
import type { Result } from '../photos/queries';

export function usePlayback(photoId: number) {
  return useQuery({
    queryKey: ['photos', 'playback', photoId],
    queryFn: () => call(mediaRoutes.showPlayback, { params: { id: photoId } }),
  });
}

export function useWaveform(photoId: number, version: number) {
  return useQuery({
    queryKey: ['waveform', photoId, version],
    queryFn: () => call(mediaRoutes.showWaveform, { params: { id: photoId } }),
    staleTime: Infinity,
    retry: false,
  });
}

/** The stretches that the query of a result speaks of. */
export function useFoundStretches({ query, sort }: Result) {
  return useQuery({
    queryKey: ['photos', 'stretches', query, sort],
    queryFn: () => call(mediaRoutes.findStretches, { query: { query, sort } }),
    placeholderData: keepPreviousData,
  });
}

export function useMakePlayable(photoId: number) {
  return useMutation({ mutationFn: () => call(mediaRoutes.makePlayable, { params: { id: photoId } }) });
}

/** The address of the pictures over the length of a film. */
export function stripUrl(photoId: number, version: number): string {
  return `/api/photos/${photoId}/strip?v=${version}`;
}

/** The address of a film or sound as it is played. */
export function streamUrl(photoId: number, version: number): string {
  return `/api/photos/${photoId}/stream?v=${version}`;
}
