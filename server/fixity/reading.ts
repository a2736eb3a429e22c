// The job that reads the files of a drive again, gently, and compares them with what they should hold. It goes on where it was
// cut off: what was read since it was asked for is not read twice.

import { join } from 'node:path';
import { z } from 'zod';
import { restAfter } from '@stellin/core/fixity/due';
import { noteFindings, type Finding } from '../catalogue/fixity';
import type { FileReader } from '../catalogue/reader';
import type { Reread } from '../catalogue/rereading';
import type { Database } from '../database/database';
import { holdingFiles } from '../database/filesLock';
import type { Drives } from '../drives/service';
import { systemCode } from '../errors';
import { joinPath, resolveInside } from '../files/drivePath';
import { faultPoint } from '../files/fault';
import { sidecarBeside } from '../files/sidecars';
import { problemOf } from '../files/problem';
import type { HashResult } from '../files/readRecord';
import { DriveGone, orWaitFor, type JobKind, type JobRun } from '../jobs/service';
import * as store from './store';

export const FIXITY_JOB = 'fixity';
const parameters = z.object({
  driveId: z.uuid(),
  /** ISO 8601: what was read since then is left aside. */
  since: z.iso.datetime(),
  /** When it ends for now, ISO 8601; null: when all is read. */
  until: z.iso.datetime().nullable().default(null),
  /** A second at most; null: as many as there are. */
  megabytes: z.number().nullable().default(null),
});
export type FixityParameters = z.input<typeof parameters>;

interface Services {
  database: Database;
  drives: Pick<Drives, 'requireAttached' | 'isAttached'>;
  reader: FileReader;
  reread: Reread;
}

/** Whoever moves files waits for the end of a batch: a batch takes seconds at most. */
const FILES_PER_BATCH = 256;
const BYTES_PER_BATCH = 128_000_000;
/** What the system says of a file that is not there. */
const NOT_THERE = new Set(['ENOENT', 'ENOTDIR']);
/** What it says when the drive itself fails at a place. */
const UNREADABLE = new Set(['EIO', 'EBADMSG', 'EUCLEAN']);

const NONE = { read: 0, damaged: 0, others: 0, missing: 0, unreadable: 0, left: 0 };

export function fixityJob(services: Services): JobKind {
  const { database, drives } = services;
  return {
    kind: FIXITY_JOB,
    async run(run) {
      const { driveId, since, until, megabytes } = parameters.parse(run.parameters);
      const { label } = await orWaitFor(driveId, 'of these files', drives.requireAttached(driveId));
      const left = await store.countToProve(database, driveId, since);
      await run.progress({ done: Math.max(0, run.total - left.files), total: Math.max(run.total, left.files) });
      const counts = { ...NONE };
      const isOver = () => until !== null && new Date().toISOString() >= until;
      for (let after = 0; !isOver();) {
        const begun = performance.now();
        const batch = await holdingFiles(database, 'together', () =>
          proveBatch(services, run, { driveId, since, after }),
        );
        if (batch.files.length === 0) break;
        for (const name of ['damaged', 'others', 'missing', 'unreadable'] as const) counts[name] += batch[name];
        counts.read += batch.files.length;
        after = batch.files.at(-1)?.photoId ?? after;
        await run.progress({ done: run.done + batch.files.length, current: `Reading ${label}` });
        if (megabytes !== null) await rest(run, restAfter(batch.bytes, performance.now() - begun, megabytes));
      }
      if (isOver()) counts.left = (await store.countToProve(database, driveId, since)).files;
      await database.notify(['fixity', 'photos', 'drives']);
      return counts;
    },
  };
}

const REST_STEP_MS = 250;

/** Waits, and stops when the job is to stop. */
async function rest(run: JobRun, milliseconds: number): Promise<void> {
  for (let left = milliseconds; left > 0; left -= REST_STEP_MS) {
    await new Promise((resolve) => setTimeout(resolve, Math.min(left, REST_STEP_MS)));
    await run.progress({});
  }
}

async function proveBatch(
  services: Services,
  run: JobRun,
  { driveId, since, after }: { driveId: string; since: string; after: number },
) {
  const { database, drives } = services;
  const { mountPoint, label } = await orWaitFor(driveId, 'of these files', drives.requireAttached(driveId));
  const files = withinBytes(await store.nextToProve(database, driveId, since, after, FILES_PER_BATCH));
  const results = await hashesOf(services.reader, mountPoint, files);
  faultPoint('fixity:read');
  const problems = files.flatMap((file, i) => {
    const result = results[i];
    return result?.ok === false ? [{ file, ...result }] : [];
  });
  // What a drive says that has just gone is nothing to go by.
  if (problems.length > 0 && !(await drives.isAttached(driveId))) throw new DriveGone(driveId, label);
  const gone = problems.filter(({ code }) => NOT_THERE.has(code ?? ''));
  const unreadable = problems.filter(({ code }) => !NOT_THERE.has(code ?? ''));
  for (const { file, message } of unreadable)
    await run.failure(`${label}: ${joinPath(file.folder, file.name)}`, message);
  const findings = files.flatMap(({ photoId, known }, i): Finding[] => {
    const result = results[i];
    if (result?.ok) return [{ photoId, found: result, expected: known }];
    // Who may not read a file learns nothing about it.
    const isBroken = result !== undefined && UNREADABLE.has(result.code ?? '');
    return isBroken ? [{ photoId, found: null, problem: result.message, expected: known }] : [];
  });
  const { states, missing } = await database.transaction(async (tx) => ({
    states: await noteFindings(database, findings, tx),
    missing: await store.noteMissing(
      database,
      gone.map(({ file }) => file),
      tx,
    ),
  }));
  const changed = files.filter(({ photoId, known, sidecar }, i) => {
    const result = results[i];
    const isOther = result?.ok === true && (result.sha256 !== known || result.sidecar !== sidecar);
    return states.get(photoId) === 'others' && known !== null && isOther;
  });
  await readChanged(services, run, { driveId, mountPoint, label }, changed);
  const damaged = [...states.values()].filter((state) => state === 'damaged').length;
  return {
    files,
    bytes: files.reduce((sum, { sizeBytes }) => sum + sizeBytes, 0),
    ...{ damaged, others: changed.length, missing, unreadable: unreadable.length },
  };
}

/** Files until there is enough to read. */
function withinBytes(files: readonly store.FileToProve[]): store.FileToProve[] {
  let bytes = 0;
  return files.filter(({ sizeBytes }, i) => {
    bytes += sizeBytes;
    return i === 0 || bytes <= BYTES_PER_BATCH;
  });
}

/** Two threads read, one file the other. */
async function hashesOf(
  reader: FileReader,
  mountPoint: string,
  files: readonly store.FileToProve[],
): Promise<HashResult[]> {
  // Each folder is resolved once; the file in it has to be one, and no link to elsewhere.
  const folders = new Map<string, Promise<string | HashResult>>();
  const folderOf = (folder: string): Promise<string | HashResult> => {
    const inside =
      folders.get(folder) ??
      resolveInside(mountPoint, folder).catch((error: unknown): HashResult => ({
        ok: false,
        code: systemCode(error),
        message: problemOf(error),
      }));
    folders.set(folder, inside);
    return inside;
  };
  const paths = await Promise.all(
    files.map(async ({ folder, name }) => {
      const inside = await folderOf(folder);
      return typeof inside === 'string' ? join(inside, name) : inside;
    }),
  );
  const known = files.flatMap((file, i) => {
    const path = paths[i];
    return typeof path === 'string' ? [{ i, path, known: file.known }] : [];
  });
  const halves = [0, 1].map((half) => known.filter((_, i) => i % 2 === half));
  const read = await Promise.all(halves.map((half) => reader.hashesOnDrive(half)));
  const results = paths.map((path): HashResult => (typeof path === 'string' ? NOT_READ : path));
  for (const [half, some] of halves.entries())
    for (const [nth, { i }] of some.entries()) results[i] = read[half]?.[nth] ?? NOT_READ;
  return results;
}

const NOT_READ: HashResult = { ok: false, code: undefined, message: 'was not read' };

/** Reads what other programs have written into files: it and what the catalogue says go together as at any look through a drive. */
async function readChanged(
  { database, reread }: Services,
  run: JobRun,
  { driveId, mountPoint, label }: { driveId: string; mountPoint: string; label: string },
  files: readonly store.FileToProve[],
): Promise<void> {
  if (files.length === 0) return;
  const there = await Promise.all(
    files.map(async (file) => {
      const path = await resolveInside(mountPoint, joinPath(file.folder, file.name));
      return { ...file, driveId, path, sidecarPath: sidecarBeside(path) };
    }),
  );
  const unread = await database.transaction((tx) => reread(there, tx));
  for (const { name, message } of unread) await run.failure(`${label}: ${name}`, message);
}
