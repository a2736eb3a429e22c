import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { driveRoutes } from '@stellin/contract/drives';
import { intakeRoutes } from '@stellin/contract/intake';
import { jobRoutes } from '@stellin/contract/jobs';
import { call } from '../api';
import { showError } from '../app/changes';

export function useDrives() {
  return useQuery({ queryKey: ['drives', 'list'], queryFn: () => call(driveRoutes.listDrives, {}) });
}

export function useBay() {
  return useQuery({ queryKey: ['drives', 'bay'], queryFn: () => call(driveRoutes.listBay, {}) });
}

export function useSurvey(driveKey: string, enabled: boolean) {
  return useQuery({
    queryKey: ['drives', 'survey', driveKey],
    queryFn: () => call(intakeRoutes.lookInto, { query: { driveKey } }),
    enabled,
  });
}

export function useAccessions() {
  return useQuery({
    queryKey: ['accessions'],
    queryFn: async () => (await call(intakeRoutes.listAccessions, {})).accessions,
  });
}

/** Jobs of a kind, the newest first. */
export function useJobs(kind: string) {
  return useQuery({
    queryKey: ['jobs', 'list'],
    queryFn: () => call(jobRoutes.listJobs, {}),
    select: ({ jobs }) => jobs.filter((job) => job.kind === kind),
  });
}

export function useTakeIn() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: { driveKey: string; folder: string; subFolders: boolean }) =>
      call(intakeRoutes.takeIn, { body }),
    onError: showError,
    onSuccess: () =>
      Promise.all(['jobs', 'drives', 'accessions'].map((topic) => client.invalidateQueries({ queryKey: [topic] }))),
  });
}

export function useBayAction() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: ({ name, slot, plug }: { name: string; slot?: string; plug: 'in' | 'out' }) =>
      plug === 'in' ? call(driveRoutes.attach, { body: { name, slot } }) : call(driveRoutes.detach, { body: { name } }),
    onError: showError,
    onSettled: () =>
      Promise.all(['drives', 'photos', 'writeBack'].map((topic) => client.invalidateQueries({ queryKey: [topic] }))),
  });
}
