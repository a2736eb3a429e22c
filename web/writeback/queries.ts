// What waits to be written, and writing it.

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { writeBackRoutes } from '@stellin/contract/writeback';
import { call } from '../foundation/api';
import { showError } from '../foundation/changes';

/** What waits, by drive. */
export function useOverview() {
  return useQuery({ queryKey: ['writeBack', 'overview'], queryFn: () => call(writeBackRoutes.overview, {}) });
}

/** Sets the job to work that writes what waits, on one drive or all. */
export function useRun() {
  const client = useQueryClient();
  return useMutation({
    mutationFn: (body: { driveId?: string; retryFailed?: boolean }) => call(writeBackRoutes.run, { body }),
    onError: showError,
    onSuccess: () => Promise.all(['jobs', 'writeBack'].map((topic) => client.invalidateQueries({ queryKey: [topic] }))),
  });
}
