// Copying in: from a card or any folder onto a drive, each copy proven by its hash, a second one elsewhere if wanted, and
// what was copied taken in. What becomes of each file is written down before it is touched, so a run that was cut off
// goes on where it was.

import { join } from 'node:path';
import { z } from 'zod';
import { numberedName } from '@stellin/core/filing/names';
import { copyRequest, type CopyRequest } from '@stellin/contract/copying';
import type { Database } from '../database/database';
import { holdingFiles } from '../database/filesLock';
import type { Drives } from '../drives/service';
import { messageOf, systemCode } from '../errors';
import { ensureFolderInside, joinPath, resolveInside } from '../files/drivePath';
import { faultPoint } from '../files/fault';
import { fingerprintOf } from '../files/fingerprint';
import { problemOf } from '../files/problem';
import { copyFileProven, hashOfFile, isTaken } from '../files/relocate';
import { baseName, renamedSidecar, sidecarFor } from '../files/sidecars';
import { walkFolders } from '../files/walk';
import type { FileReader } from '../catalogue/reader';
import { indexParameters } from '../intake/service';
import { DriveGone, orWaitFor, type JobKind, type JobRun } from '../jobs/service';
import { copyNames } from './names';
import * as store from './store';

export const COPY_JOB = 'copyIn';
/** Where from is settled when the job is made: a card that is not catalogued has no identity but its place. */
export const copyParameters = copyRequest.extend({ mountPoint: z.string(), label: z.string() });
export type CopyParameters = z.infer<typeof copyParameters>;

const uuid = z.uuid();

const STEPS_PER_BATCH = 50;
const FILES_PER_LISTING = 1000;
const MAX_NUMBER = 10_000;

interface Services {
  database: Database;
  drives: Drives;
  reader: FileReader;
  /** Takes in what was copied. */
  indexing: JobKind;
}

interface Copying {
  services: Services;
  run: JobRun;
  parameters: CopyParameters;
  /** Mount points of the drives that are copied to. */
  target: string;
  second: string | undefined;
}

export function copyingJob(services: Services): JobKind {
  const { database } = services;
  return {
    kind: COPY_JOB,
    takesRoom: true,
    async run(run) {
      const parameters = copyParameters.parse(run.parameters);
      const { toDriveId, secondDriveId } = parameters;
      const copying: Copying = {
        services,
        run,
        parameters,
        target: await mountPointOf(services.drives, toDriveId),
        second: secondDriveId === null ? undefined : await mountPointOf(services.drives, secondDriveId),
      };
      const unlisted = await listSource(copying);
      await copyAll(copying);
      const counts = await store.countSteps(database, run.id);
      const only = await store.targetFolders(database, run.id);
      const result = { copied: counts.copied, known: counts.known, failed: counts.failed, unlisted };
      if (only.length === 0) return result;
      const index = indexParameters.parse({
        driveId: toDriveId,
        folder: '',
        subFolders: false,
        only,
        templateId: parameters.templateId,
        source: joinPath(parameters.label, parameters.folder).replace(/\/$/, ''),
      });
      return { ...(await services.indexing.run(withParameters(run, index))), ...result };
    },
  };
}

/** The same run with other parameters. */
function withParameters(run: JobRun, parameters: unknown): JobRun {
  return {
    id: run.id,
    parameters,
    accountId: run.accountId,
    get done() {
      return run.done;
    },
    get total() {
      return run.total;
    },
    progress: (progress) => run.progress(progress),
    failure: (subject, message) => run.failure(subject, message),
  };
}

async function mountPointOf(drives: Drives, id: string): Promise<string> {
  return (await orWaitFor(id, 'that is copied to', drives.requireWritable(id))).mountPoint;
}

/** Notes all files of the source. Returns how many folders could not be listed, or not wholly. */
async function listSource({ services: { database }, run, parameters }: Copying): Promise<number> {
  const { mountPoint, folder, subFolders } = parameters;
  let [files, unlisted] = [0, 0];
  for await (const listing of walkFolders(mountPoint, folder, { subFolders })) {
    if (listing.problem) {
      await run.failure(listing.path || parameters.label, listing.problem);
      unlisted += 1;
    }
    const inside = await resolveInside(mountPoint, listing.path);
    for (let at = 0; at < listing.photos.length; at += FILES_PER_LISTING) {
      const found = listing.photos.slice(at, at + FILES_PER_LISTING).flatMap((name) => {
        const print = fingerprintOf(join(inside, name));
        return print
          ? [{ folder: listing.path, name, sidecar: sidecarFor(listing.sidecars, name) ?? null, ...print }]
          : [];
      });
      await store.noteFound(database, run.id, found);
      files += found.length;
    }
    await run.progress({ current: `Looking through ${listing.path || parameters.label}`, total: files });
  }
  return unlisted;
}

async function copyAll(copying: Copying): Promise<void> {
  const { services, run, parameters } = copying;
  const { database } = services;
  const names = copyNames(parameters);
  let after = '0';
  let done = 0;
  for (;;) {
    const steps = await store.stepsOf(
      database,
      run.id,
      ['found', 'known', 'going', 'copied', 'failed'],
      after,
      STEPS_PER_BATCH,
    );
    if (steps.length === 0) return;
    // Those that are done count, so that numbers go on where they were.
    const open = steps.filter(({ state }) => state === 'found' || state === 'going');
    if (open.length > 0) await holdingFiles(database, 'together', () => copyBatch(copying, steps, names));
    else steps.forEach(names.pass);
    after = steps.at(-1)?.id ?? after;
    done += steps.length;
    await run.progress({ done, current: `Copying ${joinPath(steps.at(-1)?.folder ?? '', steps.at(-1)?.name ?? '')}` });
  }
}

async function copyBatch(
  copying: Copying,
  steps: readonly store.CopyStep[],
  names: ReturnType<typeof copyNames>,
): Promise<void> {
  const { services, parameters } = copying;
  const fresh = steps.filter(({ state }) => state === 'found');
  const paths = new Map<string, string>();
  for (const { id, folder, name } of steps)
    paths.set(id, join(await resolveInside(parameters.mountPoint, folder), name));
  const pathOf = (step: store.CopyStep) => paths.get(step.id) ?? '';
  const metadata = await services.reader.read(
    fresh.map((step) => ({
      path: pathOf(step),
      sidecarPath: step.sidecar === null ? undefined : join(pathOf(step), '..', step.sidecar),
    })),
  );
  const known = parameters.skipKnown
    ? await knownAmong(services, parameters.driveKey, fresh, fresh.map(pathOf))
    : new Set<string>();
  for (const step of steps) {
    if (step.state !== 'found') {
      names.pass(step);
      continue;
    }
    if (known.has(step.id)) {
      names.pass(step);
      step.state = 'known';
      continue;
    }
    const read = metadata[fresh.indexOf(step)];
    try {
      const named = names.next(step, read?.ok ? read.metadata : undefined);
      Object.assign(step, { toFolder: named.folder, toName: named.name });
    } catch (error) {
      await fail(copying, step, error);
    }
  }
  await settleNames(
    copying,
    fresh.filter(({ state }) => state === 'found'),
  );
  await store.saveSteps(services.database, fresh);
  faultPoint('file:settled');
  const going = steps.filter(({ state }) => state === 'going');
  try {
    for (const step of going) {
      try {
        await copyOne(copying, step, pathOf(step));
      } catch (error) {
        await fail(copying, step, error);
      }
    }
  } finally {
    await store.saveSteps(services.database, going);
  }
}

/** Which of the files are pictures that the catalogue knows from another drive than theirs. */
async function knownAmong(
  { database, reader }: Services,
  driveKey: string,
  steps: readonly store.CopyStep[],
  paths: readonly string[],
): Promise<Set<string>> {
  const hashes = await reader.hashes(paths);
  const texts = hashes.map((hash) => (hash.ok && hash.picture) || '');
  const known = await store.knownPictures(database, texts.filter(Boolean), uuid.safeParse(driveKey).data ?? null);
  steps.forEach((step, i) => (step.pictureHash = texts[i] ? Buffer.from(texts[i], 'hex') : null));
  return new Set(steps.flatMap(({ id }, i) => (known.has(texts[i] ?? '') ? [id] : [])));
}

/** Gives files that share a base name the first number under which all of them are free; the second copies by themselves. */
async function settleNames({ target, second }: Copying, steps: readonly store.CopyStep[]): Promise<void> {
  const promised = new Set<string>();
  const free = async (root: string, some: readonly store.CopyStep[]): Promise<string[]> => {
    const folder = join(root, some[0]?.toFolder ?? '');
    for (let number = 1; number <= MAX_NUMBER; number++) {
      const tried = some.map(({ toName }) => numberedName(toName ?? '', number));
      const beside = some.flatMap(({ name, sidecar }, i) =>
        sidecar === null ? [] : [renamedSidecar(sidecar, name, tried[i] ?? '')],
      );
      const paths = [...new Set([...tried, ...beside])].map((name) => join(folder, name));
      if (paths.some((path) => promised.has(path))) continue;
      if ((await Promise.all(paths.map(isTaken))).includes(true)) continue;
      for (const path of paths) promised.add(path);
      return tried;
    }
    throw new Error('too many files of the same name');
  };
  const groups = new Map<string, store.CopyStep[]>();
  for (const step of steps) {
    const key = [step.folder, baseName(step.name), step.toFolder].join('\n');
    groups.set(key, [...(groups.get(key) ?? []), step]);
  }
  for (const group of groups.values()) {
    const secondNames = second === undefined ? [] : await free(second, group);
    const targetNames = await free(target, group);
    group.forEach((step, i) =>
      Object.assign(step, { state: 'going', toName: targetNames[i], secondName: secondNames[i] ?? null }),
    );
  }
}

async function copyOne({ target, second }: Copying, step: store.CopyStep, from: string): Promise<void> {
  const places = [
    { root: target, name: step.toName ?? '' },
    ...(second === undefined || step.secondName === null ? [] : [{ root: second, name: step.secondName }]),
  ];
  for (const { root, name } of places) {
    const folder = await ensureFolderInside(root, step.toFolder ?? '');
    const hash = await copyOnce(from, join(folder, name));
    if (step.hash !== null && step.hash !== hash) throw new Error('the file changed while it was copied');
    step.hash = hash;
    if (step.sidecar === null) continue;
    step.sidecarHash = await copyOnce(
      join(from, '..', step.sidecar),
      join(folder, renamedSidecar(step.sidecar, step.name, name)),
    );
  }
  step.state = 'copied';
  faultPoint('file:moved');
}

/** Copies a file unless a run that was cut off, or one that shares the sidecar, has done so. Returns the hash of its bytes. */
async function copyOnce(from: string, to: string): Promise<string> {
  if (!(await isTaken(to))) return copyFileProven(from, to);
  const [source, made] = [await hashOfFile(from), await hashOfFile(to)];
  if (source !== made) throw new Error(`${to} has come to be there meanwhile; nothing was written over it`);
  return source;
}

/** Notes that a file could not be copied, or throws when a drive has gone. */
async function fail({ services, run, parameters }: Copying, step: store.CopyStep, error: unknown): Promise<void> {
  for (const id of [parameters.toDriveId, parameters.secondDriveId])
    if (id !== null && !(await services.drives.isAttached(id))) throw new DriveGone(id, 'that is copied to');
  if (!(await isTaken(parameters.mountPoint)))
    throw new Error(`“${parameters.label}” has gone. Copy in again when it is back: what is done is passed over.`);
  step.state = 'failed';
  await run.failure(
    joinPath(step.folder, step.name),
    systemCode(error) === undefined ? messageOf(error) : problemOf(error),
  );
}

/** Where the first files would go. */
export function exampleNames(
  request: Pick<CopyRequest, 'toFolder' | 'name' | 'start'>,
  files: readonly { folder: string; name: string }[],
  metadata: readonly Parameters<ReturnType<typeof copyNames>['next']>[1][],
): { before: string; after: string }[] {
  const names = copyNames(request);
  return files.map((file, i) => {
    const { folder, name } = names.next(file, metadata[i]);
    return { before: joinPath(file.folder, file.name), after: joinPath(folder, name) };
  });
}
