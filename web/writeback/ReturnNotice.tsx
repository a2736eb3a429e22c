// A drive has come back on which writes wait: asks whether to write them, unless they are written by themselves.

import { writeBackRoutes } from '@stellin/contract/writeback';
import { useState } from 'react';
import { countText } from '@stellin/contract/wording';
import { useMayCall } from '../foundation/session';
import { Button } from '../parts/Button';
import { useOverview, useRun } from './queries';

/** Drives that were asked about, with the time at which they came back: kept for as long as the browser window is. */
const ASKED = 'stellin.returned';

export function ReturnNotice() {
  const mayWrite = useMayCall(writeBackRoutes.run);
  const { data } = useOverview();
  const run = useRun();
  const [asked, setAsked] = useState<readonly string[]>(() => (sessionStorage.getItem(ASKED) ?? '').split(' '));
  if (!mayWrite) return null;
  const drive = data?.drives.find(({ id, returned }) => returned !== null && !asked.includes(`${id}@${returned}`));
  if (!drive) return null;
  const answered = () => {
    const next = [...asked, `${drive.id}@${drive.returned}`];
    sessionStorage.setItem(ASKED, next.join(' '));
    setAsked(next);
  };
  return (
    <div role="status" className="flex shrink-0 items-center gap-3 border-b border-line bg-amber-pale px-4 py-1.5">
      <span>
        <b>{drive.label}</b> is attached again. {countText(drive.waiting, 'photo')}{' '}
        {drive.waiting === 1 ? 'waits' : 'wait'} to be written.
      </span>
      <Button
        className="ml-auto !h-7"
        disabled={run.isPending}
        onClick={() => run.mutate({ driveId: drive.id }, { onSuccess: answered })}
      >
        Write {countText(drive.waiting, 'photo')} now
      </Button>
      <Button look="quiet" className="!h-7" onClick={answered}>
        Later
      </Button>
    </div>
  );
}
