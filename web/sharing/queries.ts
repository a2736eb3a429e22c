// What is read and done of view links.

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { sharingRoutes, type LinkRequest } from '@stellin/contract/sharing';
import { call } from '../foundation/api';
import { showError } from '../foundation/changes';

const LINKS_KEY = ['links'];

export function useLinks() {
  return useQuery({
    queryKey: LINKS_KEY,
    queryFn: async () => (await call(sharingRoutes.listLinks, {})).links,
    // Who views them tells nobody.
    refetchInterval: 30_000,
  });
}

/** Makes a link; what goes wrong is for the form to say. */
export function useMakeLink() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: LinkRequest) => call(sharingRoutes.makeLink, { body }),
    onSuccess: () => client.invalidateQueries({ queryKey: LINKS_KEY }),
  });
}

export function useRenewLink() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (id: number) => call(sharingRoutes.renewLink, { params: { id } }),
    onError: showError,
    onSuccess: () => client.invalidateQueries({ queryKey: LINKS_KEY }),
  });
}

export function useRevokeLinks() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (ids: number[]) => call(sharingRoutes.revokeLinks, { body: { ids } }),
    onError: showError,
    onSuccess: () => client.invalidateQueries({ queryKey: LINKS_KEY }),
  });
}

export function useAnswers() {
  return useQuery({
    queryKey: [...LINKS_KEY, 'answers'],
    queryFn: async () => (await call(sharingRoutes.listAnswers, {})).answers,
    refetchInterval: 30_000,
  });
}

/** Notes that answers were accepted or refused. */
export function useSettleAnswers() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: { ids: number[]; accepted: boolean }) => call(sharingRoutes.settleAnswers, { body }),
    onError: showError,
    onSuccess: () => client.invalidateQueries({ queryKey: LINKS_KEY }),
  });
}
