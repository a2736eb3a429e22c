// Intake: the drives that are there, what is on one, taking it in, what is to be settled, and what was taken in before.

import { intakeRoutes } from '@stellin/contract/intake';
import { copyingRoutes } from '@stellin/contract/copying';
import { useState } from 'react';
import { Link } from 'react-router';
import type { Drive } from '@stellin/contract/drives';
import { countText, numberText } from '@stellin/contract/wording';
import { useInstallation } from '../foundation/installation';
import { useMayCall } from '../foundation/session';
import { useDoubleCount } from '../doubles/queries';
import { EmptySource } from '../copying/EmptySource';
import { Button } from '../parts/Button';
import { Split } from '../parts/Split';
import { JobProgress } from '../parts/JobProgress';
import { ClockNotice } from '../places/ClockNotice';
import { Accessions } from './Accessions';
import { AddPlace } from './AddPlace';
import { DriveBay } from './DriveBay';
import { DriveCard } from './DriveCard';
import { useDrives } from '../drives/queries';
import { useIncoming, useJobs, useTryAgain } from './queries';

const JOB_KINDS = ['prepareDemo', 'index', 'copyIn', 'emptySource', 'largePictures'];
const STATE_ORDER = ['new', 'copy', 'attached', 'away'];

const DRIVES_WIDTH = { lowest: 200, usual: 256, highest: 480 };

export function IntakeScreen() {
  const { data } = useDrives();
  const { data: installation } = useInstallation();
  // By its label, which stays when a new drive is catalogued and its key changes.
  const [label, setLabel] = useState<string | null>(null);
  const drives = [...(data?.drives ?? [])].sort((a, b) => STATE_ORDER.indexOf(a.state) - STATE_ORDER.indexOf(b.state));
  const drive = drives.find((candidate) => candidate.label === label) ?? drives[0];
  const { data: jobs = [] } = useJobs(JOB_KINDS);
  const tryAgain = useTryAgain();
  const mayChange = useMayCall(intakeRoutes.takeIn);
  const mayEmpty = useMayCall(copyingRoutes.emptySource);
  const shownJobs = jobs.filter(({ finishedAt }, i) => finishedAt === null || i === 0);
  const driveList = (
    <aside aria-label="Drives" className="flex flex-col overflow-y-auto bg-sheet">
      <h2 className="px-4 pt-4 pb-1.5 text-[12px] font-semibold text-ink-2">Drives</h2>
      <ul>
        {drives.map((candidate) => (
          <DriveRow
            key={candidate.key}
            drive={candidate}
            chosen={candidate === drive}
            onChoose={() => setLabel(candidate.label)}
          />
        ))}
      </ul>
      {data && drives.length === 0 && (
        <p className="px-4 text-ink-2">No drive is there. Attach one; it shows up here within seconds.</p>
      )}
      {installation?.kind === 'archive' && <AddPlace />}
      {installation?.kind === 'demo' && <DriveBay />}
    </aside>
  );
  return (
    <div className="flex h-full">
      <Split name="drivesWidth" label="Width of the list of drives" at="left" size={DRIVES_WIDTH} sized={driveList}>
        <div className="min-w-0 flex-1 space-y-5 overflow-y-auto p-5">
          {drive && (
            <DriveCard
              key={drive.key}
              drive={drive}
              missing={drives.reduce((sum, { missing }) => sum + missing, 0)}
              onTakeIn={() => setLabel(drive.label)}
            />
          )}
          <ToSettle />
          <Doubles />
          {shownJobs.length > 0 && (
            <div className="space-y-2">
              {shownJobs.map((job) => (
                <JobProgress key={job.id} job={job}>
                  {mayChange && job.kind === 'index' && job.finishedAt !== null && job.failures > 0 && (
                    <Button onClick={() => tryAgain.mutate(job.id)}>Try these again</Button>
                  )}
                  {mayEmpty && job.kind === 'copyIn' && job.state === 'done' && <EmptySource job={job} />}
                </JobProgress>
              ))}
            </div>
          )}
          <ClockNotice />
          <Accessions />
        </div>
      </Split>
    </div>
  );
}

/** How many pictures are there more than once. */
function Doubles() {
  const { data } = useDoubleCount();
  if (!data || data.groups === 0) return null;
  return (
    <p className="flex items-center gap-3 rounded-md border border-line bg-card px-4 py-2.5">
      <span>
        <b className="figures">{countText(data.groups, 'picture')}</b> {data.groups === 1 ? 'is' : 'are'} there more
        than once.
      </span>
      <Link to="/intake/doubles" className="ml-auto font-semibold whitespace-nowrap text-slate underline">
        Look through doubles
      </Link>
    </p>
  );
}

/** How many keywords wait for a decision. */
function ToSettle() {
  const { data } = useIncoming({ source: 'keywords', limit: 0 });
  const count = data?.total ?? 0;
  if (count === 0) return null;
  return (
    <p className="flex items-center gap-3 rounded-md bg-amber-pale px-4 py-2.5">
      <span>
        <b className="figures">{countText(count, 'keyword')}</b> that came with files {count === 1 ? 'is' : 'are'} not
        settled yet. Until then they are free keywords that can be found.
      </span>
      <Link to="/intake/keywords" className="ml-auto font-semibold whitespace-nowrap text-slate underline">
        Settle keywords
      </Link>
    </p>
  );
}

function DriveRow({ drive, chosen, onChoose }: { drive: Drive; chosen: boolean; onChoose: () => void }) {
  return (
    <li>
      <button
        type="button"
        aria-pressed={chosen}
        onClick={onChoose}
        className={`flex w-full items-center gap-2.5 border-l-3 px-3.5 py-1.5 text-left ${chosen ? 'border-spruce bg-spruce-pale font-semibold' : 'border-transparent hover:bg-ground'}`}
      >
        <span
          aria-hidden="true"
          className={`size-2.5 shrink-0 rounded-xs ${{ attached: 'bg-spruce', new: 'bg-amber', copy: 'bg-red', away: 'border border-dashed border-ink-3' }[drive.state]}`}
        />
        <span className="truncate">{drive.label}</span>
        <span
          className={`figures ml-auto text-[12px] font-normal whitespace-nowrap ${drive.state === 'new' ? 'text-amber' : drive.state === 'copy' ? 'text-red' : 'text-ink-2'}`}
        >
          {drive.state === 'attached'
            ? numberText(drive.photos)
            : drive.state === 'away'
              ? `away · ${numberText(drive.photos)}`
              : drive.state}
        </span>
      </button>
    </li>
  );
}
