// What waits to be written, and writing it.

import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { toast } from 'sonner';
import type { Selection } from '@stellin/contract/photos';
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
    mutationFn: (body: { driveId?: string; retryFailed?: boolean; selection?: Selection }) =>
      call(writeBackRoutes.run, { body }),
    onError: showError,
    onSuccess: ({ title }, { selection }) => {
      // From the screen of write-back one sees it go on.
      if (selection) toast(`${title}: under way, see the jobs above`);
      return Promise.all(['jobs', 'writeBack'].map((topic) => client.invalidateQueries({ queryKey: [topic] })));
    },
  });
}
