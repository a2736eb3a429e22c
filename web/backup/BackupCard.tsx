// How safe the catalogue is, on Holdings: when it was last backed up, how that ended, and whether the backup was tried out.

import { backupRoutes } from '@stellin/contract/backup';
import { formatDistanceToNow, parseISO } from 'date-fns';
import { ShieldAlert, ShieldCheck } from 'lucide-react';
import { useState, type ReactNode } from 'react';
import type { BackupState } from '@stellin/contract/backup';
import { sizeText } from '@stellin/contract/sizeText';
import { useMayCall } from '../foundation/session';
import { Button } from '../parts/Button';
import { dateTimeText } from '../parts/dateTimeText';
import { Queried } from '../parts/Queried';
import { BackupDialog } from './BackupDialog';
import { useBackUp, useBackupState } from './queries';

const ago = (iso: string) => formatDistanceToNow(parseISO(iso), { addSuffix: true });

export function BackupCard() {
  const state = useBackupState();
  const [planning, setPlanning] = useState(false);
  const isKeeper = useMayCall(backupRoutes.backUp);
  const backUp = useBackUp();
  return (
    <section aria-labelledby="backup" className="mt-4 rounded border border-line bg-card p-3">
      <Queried query={state}>
        {(data) => (
          <div className="flex flex-wrap items-start gap-x-4 gap-y-2">
            {isWorrying(data) ? (
              <ShieldAlert size={20} className="mt-0.5 shrink-0 text-amber" aria-hidden />
            ) : (
              <ShieldCheck size={20} className="mt-0.5 shrink-0 text-spruce" aria-hidden />
            )}
            <div className="min-w-0 flex-1">
              <h2 id="backup" className="font-title text-[16px] font-semibold">
                {headline(data)}
              </h2>
              {details(data).map((line, i) => (
                <p key={i} className="text-[13px] text-ink-2">
                  {line}
                </p>
              ))}
            </div>
            {isKeeper && (
              <div className="flex gap-2">
                <Button look="primary" disabled={backUp.isPending} onClick={() => backUp.mutate(undefined)}>
                  Back up now
                </Button>
                <Button onClick={() => setPlanning(true)}>Backups …</Button>
              </div>
            )}
          </div>
        )}
      </Queried>
      {planning && <BackupDialog onClose={() => setPlanning(false)} />}
    </section>
  );
}

/** Whether somebody should look after it. */
function isWorrying({ last, failed, checked }: BackupState): boolean {
  return last === null || last.isOld || failed !== null || (checked !== null && checked.problem !== null);
}

function headline({ last }: BackupState): string {
  return last ? `Backed up ${ago(last.at)}` : 'Not backed up yet';
}

function details({ last, failed, checked, nightly }: BackupState): ReactNode[] {
  return [
    last && (
      <>
        {dateTimeText(last.at)}, <span className="figures">{sizeText(last.bytes)}</span>
        {last.isOld && <b className="text-amber"> · older than two days</b>}
      </>
    ),
    failed && (
      <span className="text-red">
        The last try, {ago(failed.at)}, failed: {failed.problem}
      </span>
    ),
    checked?.problem === null && `Tried out ${ago(checked.at)}: all of it can be restored`,
    checked?.problem && (
      <span className="text-red">
        Tried out {ago(checked.at)}: {checked.problem}
      </span>
    ),
    !nightly && <b className="text-amber">None is made by itself</b>,
  ].filter(Boolean);
}
