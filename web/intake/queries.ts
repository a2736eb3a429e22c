// What Intake asks and does.

import { keepPreviousData, useQuery } from '@tanstack/react-query';
import type { z } from 'zod';
import { pictureTextRoutes } from '@stellin/contract/pictureText';
import { intakeRoutes } from '@stellin/contract/intake';
import { jobRoutes } from '@stellin/contract/jobs';
import { keywordRoutes } from '@stellin/contract/keywords';
import { call } from '../foundation/api';
import { useAction } from '../foundation/changes';

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

const TAKING = ['jobs', 'drives', 'accessions'];

export function useTakeIn() {
  return useAction((body: z.input<typeof intakeRoutes.takeIn.body>) => call(intakeRoutes.takeIn, { body }), TAKING);
}

export function useTryAgain() {
  return useAction((jobId: string) => call(intakeRoutes.tryAgain, { body: { jobId } }), TAKING);
}

export function useReadTextOf(driveId: string) {
  return useAction(
    (on: boolean) => call(pictureTextRoutes.readTextOf, { params: { id: driveId }, body: { on } }),
    ['drives', 'jobs'],
  );
}

export function useBrowseAway(driveId: string) {
  return useAction(
    (on: boolean) => call(intakeRoutes.browseAway, { params: { id: driveId }, body: { on } }),
    ['drives', 'jobs'],
  );
}
