// Emptying the card that a job has copied in.

import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { copyingRoutes } from '@stellin/contract/copying';
import type { Job } from '@stellin/contract/jobs';
import { call } from '../api';
import { showError } from '../app/changes';
import { Button } from '../parts/Button';
import { Dialog } from '../parts/Dialog';
import { FormActions } from '../parts/FormActions';

export function EmptySource({ job }: { job: Job }) {
  const [asks, setAsks] = useState(false);
  const client = useQueryClient();
  const empty = useMutation({
    mutationFn: () => call(copyingRoutes.emptySource, { body: { jobId: job.id } }),
    onError: showError,
    onSettled: () => {
      setAsks(false);
      void client.invalidateQueries({ queryKey: ['jobs'] });
    },
  });
  return (
    <>
      <Button onClick={() => setAsks(true)}>Empty the source …</Button>
      <Dialog open={asks} onOpenChange={setAsks} title="Empty the source">
        <p>
          First every file is read once more and compared with its copy. Only if all of them are proven to be elsewhere
          are they deleted from the card or folder that they came from. <b>This can’t be undone.</b>
        </p>
        <FormActions
          onCancel={() => setAsks(false)}
          action="Prove and delete"
          disabled={empty.isPending}
          onAction={() => empty.mutate()}
        />
      </Dialog>
    </>
  );
}
