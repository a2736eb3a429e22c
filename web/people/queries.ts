// What the screens of people read, by the keys that live changes make stale.

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { z } from 'zod';
import type { Strictness } from '@stellin/core/people/grouping';
import { peopleRoutes } from '@stellin/contract/people';
import type { Selection } from '@stellin/contract/photos';
import { call } from '../foundation/api';
import { useMayCall } from '../foundation/session';

export function usePersons() {
  return useQuery({ queryKey: ['people', 'persons'], queryFn: () => call(peopleRoutes.listPersons, {}) });
}

export function usePerson(id: number) {
  return useQuery({
    queryKey: ['people', 'person', id],
    queryFn: () => call(peopleRoutes.showPerson, { params: { id } }),
    placeholderData: keepPreviousData,
  });
}

export function useGroups(strictness: Strictness, limit: number) {
  return useQuery({
    queryKey: ['people', 'groups', strictness, limit],
    queryFn: () => call(peopleRoutes.listLikenessGroups, { query: { strictness, limit } }),
    placeholderData: keepPreviousData,
  });
}

/** The people of a photo; it is looked at for faces if it has not been. */
export function useFacesOf(photoId: number | null) {
  return useQuery({
    queryKey: ['people', 'photo', photoId],
    queryFn: () => call(peopleRoutes.facesOfPhoto, { params: { id: photoId ?? 0 } }),
    enabled: photoId !== null,
  });
}

export function usePeopleIn(selection: Selection | null) {
  return useQuery({
    queryKey: ['people', 'selection', selection],
    queryFn: () => call(peopleRoutes.peopleOfSelection, { body: { selection: selection ?? { query: null } } }),
    enabled: selection !== null,
    placeholderData: keepPreviousData,
  });
}

export function useScanState() {
  return useQuery({
    queryKey: ['people', 'scan'],
    queryFn: () => call(peopleRoutes.scanState, {}),
    enabled: useMayCall(peopleRoutes.scanState),
  });
}

export function useNames() {
  return useQuery({
    queryKey: ['people', 'names'],
    queryFn: () => call(peopleRoutes.listNames, {}),
    enabled: useMayCall(peopleRoutes.listNames),
  });
}

export type LikeAsked = z.input<typeof peopleRoutes.findLike.body>;

export function useLike(asked: LikeAsked | null) {
  return useQuery({
    queryKey: ['people', 'like', asked],
    queryFn: () => call(peopleRoutes.findLike, { body: asked ?? {} }),
    enabled: asked !== null,
    placeholderData: keepPreviousData,
    retry: false,
  });
}
