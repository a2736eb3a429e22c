// What Intake asks and does.

import { toast } from 'sonner';
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { z } from 'zod';
import { bayRoutes, driveRoutes } from '@stellin/contract/drives';
import { intakeRoutes } from '@stellin/contract/intake';
import { jobRoutes } from '@stellin/contract/jobs';
import { keywordRoutes } from '@stellin/contract/keywords';
import { countText } from '@stellin/contract/wording';
import { call } from '../foundation/api';
import { showError } from '../foundation/changes';

export function useDrives() {
  return useQuery({ queryKey: ['drives', 'list'], queryFn: () => call(driveRoutes.listDrives, {}) });
}

export function useBay() {
  return useQuery({ queryKey: ['drives', 'bay'], queryFn: () => call(bayRoutes.listBay, {}) });
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

/** Jobs of some kinds, the newest first. */
export function useJobs(kinds: readonly string[]) {
  return useQuery({
    queryKey: ['jobs', 'list'],
    queryFn: () => call(jobRoutes.listJobs, {}),
    select: ({ jobs }) => jobs.filter((job) => kinds.includes(job.kind)),
  });
}

export type IncomingRequest = z.input<typeof keywordRoutes.listIncoming.query>;

/** Keywords or folder names that are to be settled. Decisions make it stale, and the end of an accession. */
export function useIncoming(request: IncomingRequest) {
  return useQuery({
    queryKey: ['vocabulary', 'incoming', request],
    queryFn: () => call(keywordRoutes.listIncoming, { query: request }),
    placeholderData: keepPreviousData,
  });
}

/** Something done with drives, jobs or accessions; those of the topics are read anew after. */
function useAction<Input, Output>(action: (input: Input) => Promise<Output>, topics: readonly string[]) {
  const client = useQueryClient();
  return useMutation({
    mutationFn: action,
    onError: showError,
    onSettled: () => Promise.all(topics.map((topic) => client.invalidateQueries({ queryKey: [topic] }))),
  });
}

const TAKING = ['jobs', 'drives', 'accessions'];

export function useTakeIn() {
  return useAction((body: z.input<typeof intakeRoutes.takeIn.body>) => call(intakeRoutes.takeIn, { body }), TAKING);
}

export function useTryAgain() {
  return useAction((jobId: string) => call(intakeRoutes.tryAgain, { body: { jobId } }), TAKING);
}

export function useChangeDrive() {
  return useAction(
    ({ id, ...body }: { id: string; label?: string; note?: string }) =>
      call(driveRoutes.changeDrive, { params: { id }, body }),
    ['drives', 'photos', 'accessions'],
  );
}

export function useSeparate() {
  return useAction((mountPoint: string) => call(driveRoutes.separateDrive, { body: { mountPoint } }), ['drives']);
}

/** The files of a folder that a missing photo may be. */
export function useCandidates(photoId: number, place: { driveId: string; folder: string } | undefined) {
  return useQuery({
    queryKey: ['photos', 'candidates', photoId, place],
    queryFn: async () =>
      (await call(intakeRoutes.listCandidates, { params: { id: photoId }, query: place ?? { driveId: '' } }))
        .candidates,
    enabled: place !== undefined,
  });
}

export function useLink(photoId: number) {
  return useAction(
    (body: z.input<typeof intakeRoutes.linkPhoto.body>) =>
      call(intakeRoutes.linkPhoto, { params: { id: photoId }, body }),
    ['photos', 'drives'],
  );
}

export function useBrowseAway(driveId: string) {
  return useAction(
    (on: boolean) => call(intakeRoutes.browseAway, { params: { id: driveId }, body: { on } }),
    ['drives', 'jobs'],
  );
}

export function useAddPlace() {
  return useAction((path: string) => call(driveRoutes.addPlace, { body: { path } }), ['drives']);
}

export function useBayAction() {
  return useAction(
    ({ name, slot, plug }: { name: string; slot?: string; plug: 'in' | 'out' }) =>
      plug === 'in' ? call(bayRoutes.attach, { body: { name, slot } }) : call(bayRoutes.detach, { body: { name } }),
    ['drives', 'photos', 'writeBack'],
  );
}

/** Lets a stand-in for another program change files of a drive. */
export function useBayTouch() {
  return useMutation({
    mutationFn: (body: { name: string; count: number }) => call(bayRoutes.touch, { body }),
    onError: showError,
    onSuccess: ({ files }, { name }) =>
      void toast(`Another program has changed ${countText(files.length, 'file')} of ${name}.`),
  });
}
