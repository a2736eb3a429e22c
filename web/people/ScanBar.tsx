// How far looking for faces has come, and starting it.

import { useMutation, useQueryClient, useQuery } from '@tanstack/react-query';
import { jobRoutes } from '@stellin/contract/jobs';
import { peopleRoutes } from '@stellin/contract/people';
import { countText } from '@stellin/contract/wording';
import { call } from '../foundation/api';
import { showError } from '../foundation/changes';
import { useMayCall } from '../foundation/session';
import { Button } from '../parts/Button';
import { useScanState } from './queries';

export function ScanBar() {
  const { data } = useScanState();
  const { data: jobs } = useQuery({ queryKey: ['jobs', 'list'], queryFn: () => call(jobRoutes.listJobs, {}) });
  const running = jobs?.jobs.find((job) => job.title === 'Look for faces' && job.finishedAt === null);
  const client = useQueryClient();
  const mayChange = useMayCall(peopleRoutes.scan);
  const scan = useMutation({
    mutationFn: () => call(peopleRoutes.scan, {}),
    onError: showError,
    onSuccess: () => void client.invalidateQueries({ queryKey: ['jobs'] }),
  });
  if (!data || (data.waiting === 0 && !running)) return null;
  return (
    <p className="figures mt-3 flex items-center gap-3 rounded border border-amber/40 bg-amber-pale px-3 py-1.5">
      {running ? (
        <span className="truncate">
          Looking for faces: {running.done} of {countText(running.total, 'picture')}
          {running.current && `. ${running.current}`}
        </span>
      ) : (
        <>
          <span>{countText(data.waiting, 'picture')} on attached drives have not been looked at for faces.</span>
          {mayChange && (
            <Button className="ml-auto !h-7" disabled={scan.isPending} onClick={() => scan.mutate()}>
              Look for faces
            </Button>
          )}
        </>
      )}
    </p>
  );
}
