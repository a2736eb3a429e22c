// What of a source that was copied in is proven to be elsewhere: each file is read again, from the source and from its copy.

import { join, relative } from 'node:path';
import { realpath } from 'node:fs/promises';
import { PROGRAM } from '../catalogue/viewer';
import type { Database } from '../database/database';
import type { Drives } from '../drives/service';
import { StellinError } from '../errors';
import { fingerprintOf, sameTime } from '../files/fingerprint';
import type { RecordRequest } from '../files/readRecord';
import { isTaken } from '../files/relocate';
import { sidecarFor } from '../files/sidecars';
import { sidecarsIn } from '../files/walk';
import type { FileReader } from '../catalogue/reader';
import type { CopyParameters } from './job';
import * as store from './store';

export interface ProvingServices {
  database: Database;
  drives: Drives;
  reader: FileReader;
}

/** Why a file is not proven to be elsewhere; null when it is, undefined when it is no longer there itself. */
export type StepProof = string | null | undefined;

/** Refuses a source that is a catalogued drive, or shares files with one: its photos are no card that was copied in. */
export async function requireOwnSource(drives: Drives, { mountPoint, folder, label }: CopyParameters): Promise<void> {
  const source = await realpath(join(mountPoint, folder));
  for (const drive of await drives.list(PROGRAM)) {
    if (drive.id === null || drive.mountPoint === null || drive.state !== 'attached') continue;
    const root = await realpath(drive.mountPoint);
    if (isBelow(root, source) || isBelow(source, root))
      throw new StellinError('notProven', {
        drive: label,
        why: `it belongs to the catalogued drive “${drive.label}”, whose files are moved and trashed in Files`,
      });
  }
}

/** Proves one file of a source, now. */
export async function proveStep(
  services: ProvingServices,
  step: store.CopyStep,
  copy: CopyParameters,
): Promise<StepProof> {
  const folder = join(copy.mountPoint, step.folder);
  const source = {
    path: join(folder, step.name),
    sidecarPath: step.sidecar === null ? undefined : join(folder, step.sidecar),
  };
  const print = fingerprintOf(source.path);
  if (!print) return undefined;
  if (print.sizeBytes !== step.sizeBytes || !sameTime(print.mtimeMs, step.mtimeMs))
    return 'it has changed since it was copied';
  if (source.sidecarPath !== undefined && !(await isTaken(source.sidecarPath))) source.sidecarPath = undefined;
  if (step.state === 'known') return proveKnown(services, step, source, copy);
  if (step.state !== 'copied') return 'it was not copied';
  for (const place of await placesOf(services.drives, step, copy)) {
    const problem =
      place === undefined ? 'the drive with its copy is away' : await prove(services, source, place, copy);
    if (problem !== null) return problem;
  }
  return null;
}

/** Where a copied file was put: all of these must still hold it. */
async function placesOf(drives: Drives, step: store.CopyStep, copy: CopyParameters): Promise<(string | undefined)[]> {
  const places = [
    { id: copy.toDriveId, name: step.toName },
    ...(copy.secondDriveId === null ? [] : [{ id: copy.secondDriveId, name: step.secondName }]),
  ];
  return Promise.all(
    places.map(async ({ id, name }) => {
      const drive = await drives.requireAttached(id).catch(unlessAway);
      return drive && join(drive.mountPoint, step.toFolder ?? '', name ?? '');
    }),
  );
}

function unlessAway(error: unknown): undefined {
  if (!(error instanceof StellinError && error.code === 'driveAway')) throw error;
}

/** A photo that the catalogue knew before is proven by any one file of its picture. */
async function proveKnown(
  services: ProvingServices,
  { pictureHash }: store.CopyStep,
  source: RecordRequest,
  copy: CopyParameters,
): Promise<Exclude<StepProof, undefined>> {
  const files = pictureHash === null ? [] : await store.filesOfPicture(services.database, pictureHash);
  let problem = 'its other copy can’t be reached to prove it';
  for (const { mountPoint, path } of files) {
    const found = await prove(services, source, join(mountPoint, path), copy);
    if (found === null) return null;
    problem = found;
  }
  return problem;
}

/** Whether a file proves the source: it lies outside of it and holds all that it holds. */
async function prove(
  { reader }: ProvingServices,
  source: RecordRequest,
  path: string,
  { mountPoint }: CopyParameters,
): Promise<string | null> {
  if (!(await isTaken(path))) return 'its copy is not where it was';
  if (isBelow(await realpath(mountPoint), await realpath(path))) return 'its copy lies on the same card or folder';
  const folder = join(path, '..');
  const sidecar = sidecarFor(await sidecarsIn(folder), path.slice(folder.length + 1));
  const other = { path, sidecarPath: sidecar === undefined ? undefined : join(folder, sidecar) };
  return reader.proof({ source, other });
}

/** Whether a path is a folder or lies in it. */
function isBelow(folder: string, path: string): boolean {
  const below = relative(folder, path);
  return below === '' || !(below === '..' || below.startsWith('../'));
}
