// Intake: the drives that are there, what is on one, taking it in, and what was taken in before.

import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import type { Drive } from '@stellin/contract/drives';
import { countText, numberText } from '@stellin/contract/wording';
import { useMay } from '../app/session';
import { Button } from '../parts/Button';
import { JobProgress } from '../parts/JobProgress';
import { DriveBay } from './DriveBay';
import { useAccessions, useDrives, useJobs, useSurvey, useTakeIn } from './queries';

const STATE_ORDER = ['new', 'attached', 'away'];
const STATE_TEXTS = { new: 'new', attached: 'attached', away: 'away' };

export function IntakeScreen() {
  const { data } = useDrives();
  // By its label, which stays when a new drive is catalogued and its key changes.
  const [label, setLabel] = useState<string | null>(null);
  const drives = [...(data?.drives ?? [])].sort((a, b) => STATE_ORDER.indexOf(a.state) - STATE_ORDER.indexOf(b.state));
  const drive = drives.find((candidate) => candidate.label === label) ?? drives[0];
  const { data: jobs = [] } = useJobs('index');
  const shownJobs = jobs.filter(({ finishedAt }, i) => finishedAt === null || i === 0);
  return (
    <div className="flex h-full">
      <aside aria-label="Drives" className="flex w-64 shrink-0 flex-col overflow-y-auto border-r border-line bg-sheet">
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
        <DriveBay />
      </aside>
      <div className="min-w-0 flex-1 space-y-5 overflow-y-auto p-5">
        {drive && <DriveCard key={drive.key} drive={drive} onTakeIn={() => setLabel(drive.label)} />}
        {shownJobs.length > 0 && (
          <div className="space-y-2">
            {shownJobs.map((job) => (
              <JobProgress key={job.id} job={job} />
            ))}
          </div>
        )}
        <Accessions />
      </div>
    </div>
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
          className={`size-2.5 shrink-0 rounded-xs ${{ attached: 'bg-spruce', new: 'bg-amber', away: 'border border-dashed border-ink-3' }[drive.state]}`}
        />
        <span className="truncate">{drive.label}</span>
        <span
          className={`figures ml-auto text-[12px] font-normal whitespace-nowrap ${drive.state === 'new' ? 'text-amber' : 'text-ink-2'}`}
        >
          {drive.state === 'attached'
            ? numberText(drive.photos)
            : drive.state === 'away'
              ? `away · ${numberText(drive.photos)}`
              : STATE_TEXTS[drive.state]}
        </span>
      </button>
    </li>
  );
}

const KIND_NAMES: Record<string, string> = { jpeg: 'JPEG', tiff: 'TIFF', png: 'PNG' };

function DriveCard({ drive, onTakeIn }: { drive: Drive; onTakeIn: () => void }) {
  const mayChange = useMay('cataloguer');
  const { data: survey, isFetching, error } = useSurvey(drive.key, mayChange && drive.state !== 'away');
  const [folder, setFolder] = useState('');
  const [subFolders, setSubFolders] = useState(true);
  const takeIn = useTakeIn();
  const navigate = useNavigate();
  const chosen = survey?.folders.filter(({ path }) =>
    folder === '' ? subFolders || path === '' : path === folder || (subFolders && path.startsWith(`${folder}/`)),
  );
  const count = chosen?.reduce((sum, { photos }) => sum + photos, 0) ?? 0;
  const fresh = drive.state === 'new';
  return (
    <section className="rounded-md border border-line bg-card p-4">
      <div className="flex items-baseline gap-3">
        <h1 className="font-title text-[19px] font-semibold">{drive.label}</h1>
        <span className={fresh ? 'text-amber' : 'text-ink-2'}>
          {
            {
              new: 'not in the catalogue yet',
              attached: `${countText(drive.photos, 'photo')} in the catalogue`,
              away: 'away',
            }[drive.state]
          }
        </span>
        {drive.mountPoint && (
          <span className="ml-auto truncate font-mono text-[12px] text-ink-3">{drive.mountPoint}</span>
        )}
      </div>
      {drive.state === 'away' ? (
        <p className="mt-2 text-ink-2">
          Last seen{' '}
          {drive.lastSeen
            ? new Date(drive.lastSeen).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })
            : 'never'}
          . Its photos can be searched and described all the same; writes wait until it is attached.
        </p>
      ) : error ? (
        <p className="mt-2 text-red">{error.message}</p>
      ) : (
        <>
          <p className="mt-2">
            {survey ? (
              <>
                <b className="figures">
                  {survey.complete ? countText(survey.files, 'photo') : `more than ${countText(survey.files, 'photo')}`}
                </b>{' '}
                in {countText(survey.folders.length, 'folder')}, {(survey.bytes / 1e6).toFixed(0)} MB:{' '}
                {Object.entries(survey.kinds)
                  .map(([kind, files]) => `${numberText(files)} ${KIND_NAMES[kind] ?? kind}`)
                  .join(', ')}
              </>
            ) : (
              <span className="text-ink-2">{isFetching ? 'Looking what is on it …' : ' '}</span>
            )}
          </p>
          {mayChange && survey && (
            <form
              className="mt-3 flex flex-wrap items-center gap-3"
              onSubmit={(event) => {
                event.preventDefault();
                onTakeIn();
                takeIn.mutate({ driveKey: drive.key, folder, subFolders });
              }}
            >
              <label className="flex items-center gap-2">
                Folder
                <select
                  className="h-8 max-w-80 rounded border border-line bg-card px-2"
                  value={folder}
                  onChange={(event) => setFolder(event.target.value)}
                >
                  <option value="">the whole drive</option>
                  {foldersToOffer(survey.folders).map((path) => (
                    <option key={path} value={path}>
                      {path}
                    </option>
                  ))}
                </select>
              </label>
              <label className="flex items-center gap-2">
                <input
                  type="checkbox"
                  className="accent-spruce"
                  checked={subFolders}
                  onChange={(event) => setSubFolders(event.target.checked)}
                />{' '}
                with sub-folders
              </label>
              <Button type="submit" look="primary" disabled={takeIn.isPending || count === 0}>
                {fresh ? `Take in ${countText(count, 'photo')}` : 'Look for new and changed photos'}
              </Button>
              {!fresh && (
                <Button onClick={() => void navigate(`/desk?q=${encodeURIComponent(`drive:"${drive.label}"`)}`)}>
                  Show on the Desk
                </Button>
              )}
            </form>
          )}
          {fresh && (
            <p className="mt-3 text-[12px] text-ink-2">
              Photos are catalogued where they are. Nothing in them changes; only a small marker file is put on the
              drive, if it has none, so that it is recognised wherever it is plugged in.
            </p>
          )}
        </>
      )}
    </section>
  );
}

/** All folders that hold photos, and those above them. */
function foldersToOffer(folders: readonly { path: string }[]): string[] {
  const paths = folders.flatMap(({ path }) => path.split('/').map((_, i, parts) => parts.slice(0, i + 1).join('/')));
  return [...new Set(paths)].filter(Boolean).sort();
}

function Accessions() {
  const { data: accessions = [] } = useAccessions();
  if (accessions.length === 0) return null;
  return (
    <section>
      <h2 className="mb-2 font-title text-[16px] font-semibold">Accessions</h2>
      <table className="w-full border border-line bg-card">
        <thead className="border-b border-line text-left text-[12px] text-ink-2">
          <tr>
            {['No.', 'Drive', 'When', 'By', 'New', 'Changed', 'Damaged', 'Problems'].map((title, i) => (
              <th key={title} className={`px-3 py-1.5 font-semibold ${i > 3 ? 'text-right' : ''}`}>
                {title}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {accessions.map((accession) => (
            <tr key={accession.id} className="border-b border-line/60">
              <td className="figures px-3 py-1.5">
                <Link
                  className="text-slate underline"
                  to={`/desk?q=${encodeURIComponent(`accession:${accession.id}`)}`}
                >
                  {accession.id}
                </Link>
              </td>
              <td className="px-3">
                {accession.driveLabel}
                {accession.folder && <span className="font-mono text-[12px] text-ink-2"> /{accession.folder}</span>}
              </td>
              <td className="figures px-3 whitespace-nowrap">
                {new Date(accession.startedAt).toLocaleString('en-GB', { dateStyle: 'medium', timeStyle: 'short' })}
                {accession.finishedAt === null && <span className="text-amber"> · not finished</span>}
              </td>
              <td className="px-3">{accession.by}</td>
              {[accession.photosNew, accession.photosChanged, accession.damaged, accession.failures].map((count, i) => (
                <td
                  key={i}
                  className={`figures px-3 text-right ${count === 0 ? 'text-ink-3' : i > 1 ? 'text-red' : ''}`}
                >
                  {numberText(count)}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
