// What is read of dossiers, and pinning one.

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { dossierRoutes } from '@stellin/contract/dossiers';
import { photoRoutes } from '@stellin/contract/photos';
import { projectRoutes } from '@stellin/contract/projects';
import { call } from '../foundation/api';
import { showError } from '../foundation/changes';

export function useDossiers() {
  // Counts depend on photos: any change of theirs makes this stale, too.
  return useQuery({
    queryKey: ['photos', 'dossiers'],
    queryFn: async () => (await call(dossierRoutes.listDossiers, {})).dossiers,
  });
}

/** Projects, open ones first. */
export function useProjects() {
  return useQuery({
    queryKey: ['photos', 'projects'],
    queryFn: async () => (await call(projectRoutes.listProjects, {})).projects,
  });
}

/** Chooses the dossier into which a single key puts photos. */
export function usePin() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (dossierId: number | null) => call(dossierRoutes.pinDossier, { body: { dossierId } }),
    onError: showError,
    onSuccess: () => client.invalidateQueries({ queryKey: ['photos', 'dossiers'] }),
  });
}

/** How many photos each of some queries finds. */
export function useCounts(queries: readonly string[]) {
  return useQuery({
    queryKey: ['photos', 'counts', queries],
    queryFn: () =>
      Promise.all(queries.map(async (query) => (await call(photoRoutes.countPhotos, { query: { query } })).count)),
  });
}
