// One drive: what it is like, what is on it, and taking it in.

import { driveRoutes } from '@stellin/contract/drives';
import { intakeRoutes } from '@stellin/contract/intake';
import { useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { FILE_KINDS, kindLabel, type FileKind } from '@stellin/core/metadata/containers/index';
import type { Drive } from '@stellin/contract/drives';
import { countText, numberText } from '@stellin/contract/wording';
import { useMayCall } from '../foundation/session';
import { CopyIn } from '../copying/CopyIn';
import { TemplateChoice } from '../describing/TemplateChoice';
import { DriveTrash } from '../filing/DriveTrash';
import { Button } from '../parts/Button';
import { dateTimeText } from '../parts/dateTimeText';
import { deskLink } from '../parts/deskLink';
import { sizeText } from '@stellin/contract/sizeText';
import { Tracked } from '../tracking/Tracked';
import { LookForFaces } from '../people/LookForFaces';
import { BrowseAway } from './BrowseAway';
import { ReadText } from './ReadText';
import { DriveNote } from './DriveNote';
import { useSeparate } from '../drives/queries';
import { useSurvey, useTakeIn } from './queries';
import { Select } from '../parts/Select';
import { Checkbox } from '../parts/Checkbox';
import { TextField } from '../parts/Field';

interface Props {
  drive: Drive;
  /** Of the whole catalogue. */
  missing: number;
  onTakeIn: () => void;
}

const STATE_TEXTS: Record<Drive['state'], (drive: Drive) => string> = {
  new: () => 'not in the catalogue yet',
  copy: () => 'a copy',
  attached: ({ photos, photoBytes }) => `${countText(photos, 'photo')} in the catalogue, ${sizeText(photoBytes)}`,
  away: ({ photos, photoBytes }) => `away · ${countText(photos, 'photo')}, ${sizeText(photoBytes)}`,
};

export function DriveCard({ drive, missing, onTakeIn }: Props) {
  return (
    <section className="rounded-md border border-line bg-card p-4">
      <div className="flex items-baseline gap-3">
        <h1 className="font-title text-[19px] font-semibold">{drive.label}</h1>
        <span className={drive.state === 'new' || drive.state === 'copy' ? 'text-amber' : 'text-ink-2'}>
          {STATE_TEXTS[drive.state](drive)}
        </span>
        {drive.readOnly && <span className="rounded bg-ground px-1.5 text-[12px] text-ink-2">read-only</span>}
        {drive.mountPoint && (
          <span className="ml-auto truncate font-mono text-[12px] text-ink-3" title={drive.mountPoint}>
            {drive.mountPoint}
          </span>
        )}
      </div>
      <Figures drive={drive} />
      {drive.id !== null && <DriveNote key={drive.id} drive={drive} />}
      {drive.id !== null && <BrowseAway driveId={drive.id} on={drive.browseAway} />}
      {drive.id !== null && <ReadText driveId={drive.id} on={drive.readText} />}
      {drive.id !== null && <LookForFaces driveId={drive.id} />}
      {drive.state === 'away' && (
        <p className="mt-2 text-ink-2">
          Its photos can be searched and described all the same; writes wait until it is attached.
        </p>
      )}
      {drive.state === 'copy' && <Copy drive={drive} />}
      {(drive.state === 'attached' || drive.state === 'new') && (
        <TakeIn drive={drive} missing={missing} onTakeIn={onTakeIn} />
      )}
      {drive.id !== null && <DriveTrash driveId={drive.id} />}
    </section>
  );
}

function Figures({ drive }: { drive: Drive }) {
  const { capacityBytes, freeBytes, lastSeen, lastChecked, state, missing } = drive;
  const figures = [
    ...(capacityBytes && freeBytes !== null ? [`${sizeText(freeBytes)} of ${sizeText(capacityBytes)} free`] : []),
    ...(state === 'away' ? [`last seen ${lastSeen ? dateTimeText(lastSeen) : 'never'}`] : []),
    ...(lastChecked ? [`looked through ${dateTimeText(lastChecked)}`] : []),
  ];
  return (
    <p className="figures mt-1 text-[12px] text-ink-2">
      {figures.join(' · ')}
      {missing > 0 && (
        <>
          {' · '}
          <Link className="text-red underline" to={deskLink(`drive:"${drive.label}" is:missing`)}>
            {countText(missing, 'photo')} missing
          </Link>
        </>
      )}
    </p>
  );
}

function Copy({ drive }: { drive: Drive }) {
  const separate = useSeparate();
  const maySeparate = useMayCall(driveRoutes.separateDrive);
  return (
    <div className="mt-3 rounded bg-amber-pale px-3 py-2.5">
      <p>
        This drive carries the marker of “{drive.copyOf}”, which is attached as well: it must have been copied from it.
        If it is to stand in for the original one day, leave it as it is. If both are to be used, make it a drive of its
        own; its photos then count as doubles of the other’s.
      </p>
      {maySeparate && (
        <Button className="mt-2" onClick={() => drive.mountPoint && separate.mutate(drive.mountPoint)}>
          Make “{drive.label}” a drive of its own
        </Button>
      )}
    </div>
  );
}

function TakeIn({ drive, missing, onTakeIn }: Props) {
  const mayChange = useMayCall(intakeRoutes.takeIn);
  const { data: survey, isFetching, error } = useSurvey(drive.key, mayChange);
  const [folder, setFolder] = useState('');
  const [subFolders, setSubFolders] = useState(true);
  const [leaveOut, setLeaveOut] = useState<readonly FileKind[]>([]);
  const [ignore, setIgnore] = useState('');
  const [templateId, setTemplateId] = useState<number | null>(null);
  const [copies, setCopies] = useState(false);
  const takeIn = useTakeIn();
  const navigate = useNavigate();
  const chosen = survey?.folders.filter(({ path }) =>
    folder === '' ? subFolders || path === '' : path === folder || (subFolders && path.startsWith(`${folder}/`)),
  );
  const count = chosen?.reduce((sum, { photos }) => sum + photos, 0) ?? 0;
  const fresh = drive.state === 'new';
  const rules = {
    folder,
    subFolders,
    leaveOut: [...leaveOut],
    ignore: ignore
      .split(/[,\n]/)
      .map((pattern) => pattern.trim())
      .filter(Boolean),
  };
  const start = (missingOnly: boolean) => {
    onTakeIn();
    takeIn.mutate({
      driveKey: drive.key,
      ...rules,
      missingOnly,
      templateId: missingOnly ? null : templateId,
    });
  };
  if (error) return <p className="mt-2 text-red">{error.message}</p>;
  const kinds = FILE_KINDS.filter((kind) => survey?.kinds[kind]);
  return (
    <>
      <p className="mt-2">
        {survey ? (
          <>
            <b className="figures">
              {survey.complete ? countText(survey.files, 'photo') : `more than ${countText(survey.files, 'photo')}`}
            </b>{' '}
            in {countText(survey.folders.length, 'folder')}, {sizeText(survey.bytes)}:{' '}
            {kinds.map((kind) => `${numberText(survey.kinds[kind] ?? 0)} ${kindLabel(kind)}`).join(', ')}
          </>
        ) : (
          <span className="text-ink-2">{isFetching ? 'Looking what is on it …' : ' '}</span>
        )}
      </p>
      {mayChange && survey && (
        <form
          className="mt-3 space-y-3"
          onSubmit={(event) => {
            event.preventDefault();
            start(false);
          }}
        >
          <div className="flex flex-wrap items-center gap-3">
            <label className="flex items-center gap-2">
              Folder
              <Select
                className="max-w-80"
                value={folder}
                onChange={setFolder}
                options={[
                  { value: '', label: 'the whole drive' },
                  ...foldersToOffer(survey.folders).map((path) => ({ value: path, label: path })),
                ]}
              />
            </label>
            <Check checked={subFolders} onChange={setSubFolders} label="with sub-folders" />
            <TemplateChoice templateId={templateId} onChoose={setTemplateId} />
            <Button type="submit" look="primary" disabled={takeIn.isPending || count === 0}>
              {fresh ? `Take in ${countText(count, 'photo')}` : 'Look for new and changed photos'}
            </Button>
            <Button disabled={count === 0} onClick={() => setCopies(true)}>
              Copy in …
            </Button>
            {missing > 0 && (
              <Button disabled={takeIn.isPending} onClick={() => start(true)}>
                Look here for {countText(missing, 'missing photo')}
              </Button>
            )}
            {!fresh && (
              <Button onClick={() => void navigate(deskLink(`drive:"${drive.label}"`))}>Show on the Desk</Button>
            )}
          </div>
          <details className="text-ink-2">
            <summary className="cursor-pointer select-none">Leave aside …</summary>
            <div className="mt-2 flex flex-wrap items-center gap-x-4 gap-y-2">
              {kinds.map((kind) => (
                <Check
                  key={kind}
                  checked={leaveOut.includes(kind)}
                  onChange={(on) =>
                    setLeaveOut((before) => (on ? [...before, kind] : before.filter((k) => k !== kind)))
                  }
                  label={`all ${kindLabel(kind)}`}
                />
              ))}
              <TextField
                label="Files and folders like"
                className="min-w-96 flex-1"
                boxClass="h-8 font-mono text-[12px]"
                placeholder="proofs, *_web.jpg, 2019/rejects/**"
                value={ignore}
                onChange={(event) => setIgnore(event.target.value)}
              />
            </div>
          </details>
        </form>
      )}
      {copies && <CopyIn drive={drive} folder={folder} subFolders={subFolders} onClose={() => setCopies(false)} />}
      {drive.id !== null && !fresh && (
        <Tracked driveId={drive.id} driveLabel={drive.label} rules={{ ...rules, templateId }} />
      )}
      {fresh && (
        <p className="mt-3 text-[12px] text-ink-2">
          Photos are catalogued where they are. Nothing in them changes;{' '}
          {drive.readOnly
            ? 'the drive can’t be written to, so it is recognised by its file system.'
            : 'only a small marker file is put on the drive, if it has none, so that it is recognised wherever it is plugged in.'}
        </p>
      )}
    </>
  );
}

function Check({ checked, onChange, label }: { checked: boolean; onChange: (on: boolean) => void; label: string }) {
  return (
    <Checkbox checked={checked} onChange={onChange}>
      {label}
    </Checkbox>
  );
}

/** All folders that hold photos, and those above them. */
function foldersToOffer(folders: readonly { path: string }[]): string[] {
  const paths = folders.flatMap(({ path }) => path.split('/').map((_, i, parts) => parts.slice(0, i + 1).join('/')));
  return [...new Set(paths)].filter(Boolean).sort();
}
