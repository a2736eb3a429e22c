// The write-back job: batch by batch, what waits goes into the files of attached drives. Before a batch is written, a
// journal says what each file was and is to become, so that a killed process leaves nothing that the next one can't sort
// out.

import { join } from 'node:path';
import { z } from 'zod';
import { fieldOf, type FieldId } from '@stellin/core/metadata/fields';
import { mergeValues } from '@stellin/core/metadata/merge';
import { readMetadata } from '@stellin/core/metadata/read';
import { sameValue } from '@stellin/core/metadata/values';
import type { FieldChanges } from '@stellin/core/metadata/write';
import type { Job } from '@stellin/contract/jobs';
import type { Database, Transaction } from '../database/database';
import type { FileReader } from '../intake/reader';
import type { Drives } from '../drives/service';
import { holdingFiles } from '../database/filesLock';
import { messageOf } from '../errors';
import { belowDrive, joinPath, resolveInside } from '../files/drivePath';
import { faultPoint } from '../files/fault';
import { fingerprintOf, type Fingerprint } from '../files/fingerprint';
import { journalEntryOf, parseEntry, serializeEntry, settle } from '../files/journal';
import { sidecarPath, type PlannedWrite } from '../files/planWrite';
import { problemOf } from '../files/problem';
import { readSidecar, withSource } from '../files/source';
import { versionOf } from '../files/takeBack';
import type { FileWriter } from '../files/writer';
import type { CarriedOut, Problem } from '../files/writeFiles.worker';
import { DriveGone, type JobKind, type JobRun } from '../jobs/service';
import * as store from './store';

export const WRITE_JOB = 'writeBack';
export const writeParameters = z.object({ driveId: z.uuid().nullable() });

const BATCH = 50;

interface Services {
  database: Database;
  drives: Drives;
  writer: FileWriter;
  reader: FileReader;
  reread: Reread;
}

/** Reads files again into the catalogue; returns what could not be read. */
export type Reread = (
  files: readonly { driveId: string; folderId: number; name: string; path: string; sidecarPath: string | undefined }[],
  tx: Transaction,
) => Promise<string[]>;

export function writingJob(services: Services): JobKind {
  const { database } = services;
  return {
    kind: WRITE_JOB,
    async run(run) {
      const { driveId } = writeParameters.parse(run.parameters);
      await recoverWrites(database);
      const counts = { written: 0, conflict: 0, failed: 0 };
      await run.progress({ done: 0, total: await store.countTasks(database, driveId) });
      const driveIds = await store.taskDrives(database, driveId);
      let after = 0;
      let merged = false;
      for (;;) {
        const { tasks, done } = await holdingFiles(database, 'together', async () => {
          const next = await store.nextTasks(database, driveId, after, BATCH);
          return { tasks: next, done: await writeBatch(services, run, next) };
        });
        if (tasks.length === 0) {
          if (!merged) break;
          // Files that another program changed have been read again and wait anew: once more from the beginning.
          [after, merged] = [0, false];
          continue;
        }
        for (const state of ['written', 'conflict', 'failed'] as const) counts[state] += done[state];
        merged ||= done.merged > 0;
        const last = tasks.at(-1);
        after = last?.id ?? after;
        await run.progress({
          done: counts.written + counts.conflict + counts.failed,
          current: `Writing ${last?.driveLabel}: ${joinPath(last?.folderPath ?? '', last?.name ?? '')}`,
        });
      }
      // A drive that went away between two batches takes what waits on it along.
      const gone = await store.goneDrive(database, driveIds);
      if (gone) throw new DriveGone(gone.id, gone.label);
      return counts satisfies Job['result'];
    },
  };
}

/** Sorts out writes that were cut off: leftovers are removed and half-written files restored; where the new file is in place already, the write counts as made. */
export async function recoverWrites(database: Database): Promise<number> {
  const open = await store.openWrites(database);
  const made: store.Written[] = [];
  for (const { entries, intended, ...task } of open) {
    for (const text of entries) {
      const entry = parseEntry(text);
      const at = (path: string) => join(task.mountPoint, path);
      settle({ ...entry, path: at(entry.path), temporary: at(entry.temporary) });
    }
    const written = saysAlready(join(task.mountPoint, task.folderPath, task.name), intended);
    if (written) made.push({ id: task.id, ...written, ...intended, versions: [] });
  }
  await store.closeJournals(
    database,
    open.map(({ id }) => id),
  );
  await store.recordWritten(database, made);
  return open.length;
}

interface Doing {
  task: store.WriteTask;
  intended: store.Intended;
  path?: string;
  plan?: PlannedWrite;
  result?: CarriedOut;
  /** Another program has changed the file, and both sides go together: it was read again and is written next. */
  merged?: true;
}

async function writeBatch(services: Services, run: JobRun, tasks: readonly store.WriteTask[]) {
  if (tasks.length === 0) return { written: 0, merged: 0, conflict: 0, failed: 0 };
  const { database, writer } = services;
  const doings = tasks.map((task): Doing => ({ task, intended: intendedOf(task) }));
  await planBatch(writer, doings);
  await mergeBatch(services, doings);
  faultPoint('write:planned');
  const ready = doings.filter((doing): doing is Doing & { plan: PlannedWrite } => doing.plan !== undefined);
  await store.openJournals(
    database,
    await Promise.all(ready.map(({ task, intended, plan }) => journalOf(task, intended, plan))),
  );
  faultPoint('write:journaled');
  const results = await writer.write(ready.map(({ plan }) => plan));
  ready.forEach((doing, i) => (doing.result = results[i]));
  await store.recordWritten(database, doings.flatMap(writtenOf));
  faultPoint('write:recorded');
  return recordProblems(services, run, doings);
}

/** Plans what can be planned; what can't gets its problem as result. */
async function planBatch(writer: FileWriter, doings: readonly Doing[]): Promise<void> {
  const now = new Date().toISOString().replace(/\.\d+Z$/, 'Z');
  const paths = await Promise.all(doings.map(({ task }) => pathOf(task)));
  const inside = doings.flatMap((doing, i) => {
    const path = paths[i];
    if (typeof path === 'string') {
      doing.path = path;
      return [{ doing, path }];
    }
    doing.result = path;
    return [];
  });
  const plans = await writer.plan(
    inside.map(({ doing: { task, intended }, path }) => ({
      path,
      changes: changesFor(task, intended),
      options: { now },
      expected: { file: { sizeBytes: task.sizeBytes, mtimeMs: task.mtimeMs }, sidecarMtimeMs: task.sidecarMtimeMs },
    })),
  );
  inside.forEach(({ doing }, i) => {
    const planned = plans[i];
    if (planned?.ok) doing.plan = planned.plan;
    else doing.result = planned;
  });
}

/**
 * Merges files that another program has changed with what the catalogue is to write. Where only one side changed a value,
 * the file is read again, which takes what is new in it, and what the catalogue says waits to be written on top. Values
 * that both sides changed are a conflict, and the file is left alone.
 */
async function mergeBatch({ database, reader, reread }: Services, doings: readonly Doing[]): Promise<void> {
  const changed = doings.filter(({ result }) => result?.ok === false && result.changed);
  if (changed.length === 0) return;
  const files = changed.map(({ task, path = '' }) => {
    const beside = sidecarPath(path);
    return { ...task, path, sidecarPath: fingerprintOf(beside) ? beside : undefined };
  });
  const records = await reader.read(files);
  const mergeable = files.filter((_file, i) => {
    const [doing, record] = [changed[i], records[i]];
    if (!doing || !record?.ok) return false;
    const { task, intended } = doing;
    const { keywords, rating, mark } = record.metadata.fields;
    const { conflicts } = mergeValues(
      {
        keywords: [...task.foundKeywords, ...task.writtenKeywords],
        rating: task.ratingWritten,
        mark: task.markWritten,
      },
      { keywords: intended.keywords, rating: task.rating, mark: task.mark },
      { keywords: keywords ?? [], rating: rating ?? 0, mark: mark ?? '' },
    );
    if (conflicts.length === 0) doing.merged = true;
    else doing.result = conflictOn(conflicts);
    return conflicts.length === 0;
  });
  await database.transaction((tx) => reread(mergeable, tx));
}

function conflictOn(fields: readonly FieldId[]): Problem {
  const names = fields.map((id) => fieldOf(id).label).join(', ');
  const message = `Another program has changed the file since it was read, and so was the catalogue: ${names}.`;
  return { ok: false, code: undefined, message, changed: true };
}

/** The photo's file in the system, or why there is none. */
export async function pathOf(
  task: Pick<store.WriteTask, 'mountPoint' | 'folderPath' | 'name'>,
): Promise<string | Problem> {
  try {
    return await resolveInside(task.mountPoint, joinPath(task.folderPath, task.name));
  } catch (error) {
    const code = typeof error === 'object' && error !== null && 'code' in error ? String(error.code) : undefined;
    return { ok: false, code: code === 'outsideDrive' ? undefined : code, message: problemOf(error), changed: false };
  }
}

/** What has to be known to sort the write out, with paths below the drive: it may come back at another place. */
export async function journalOf(
  task: { id: number; mountPoint: string },
  intended: store.Intended,
  plan: PlannedWrite,
): Promise<store.Journal> {
  const below = await belowDrive(task.mountPoint);
  const entries = plan.files.map((file) => {
    const entry = journalEntryOf(file);
    return serializeEntry({ ...entry, path: below(entry.path), temporary: below(entry.temporary) });
  });
  return { photoId: task.id, entries, intended };
}

function writtenOf({ task, intended, plan, result }: Doing): store.Written[] {
  if (!result?.ok || !plan) return [];
  const nowOf = (isSidecar: boolean): Fingerprint | undefined => {
    const at = plan.files.findIndex(({ check }) => (check.isSidecarOf !== undefined) === isSidecar);
    return at < 0 ? undefined : result.now[at];
  };
  const file = nowOf(false) ?? { sizeBytes: task.sizeBytes, mtimeMs: task.mtimeMs };
  const sidecarMtimeMs = nowOf(true)?.mtimeMs ?? task.sidecarMtimeMs;
  return [{ id: task.id, ...file, sidecarMtimeMs, ...intended, versions: plan.files.map(versionOf) }];
}

/** Tells what could not be written, or throws DriveGone when the drive has gone. Returns how many came to which end. */
async function recordProblems({ database, drives }: Services, run: JobRun, doings: readonly Doing[]) {
  const counts = {
    written: doings.filter(({ result }) => result?.ok).length,
    merged: doings.filter(({ merged }) => merged).length,
    conflict: 0,
    failed: 0,
  };
  const problems: store.WriteProblem[] = [];
  for (const { task, result, merged } of doings) {
    if (result?.ok || merged) continue;
    if (result?.code !== undefined && !(await drives.isAttached(task.driveId)))
      throw new DriveGone(task.driveId, task.driveLabel);
    const state = result?.changed ? 'conflict' : 'failed';
    counts[state] += 1;
    const message = result?.message ?? 'was not written';
    problems.push({ id: task.id, state, message });
    await run.failure(`${task.driveLabel}: ${joinPath(task.folderPath, task.name)}`, message);
  }
  await store.recordProblems(database, problems);
  return counts;
}

function intendedOf(task: store.WriteTask): store.Intended {
  return {
    keywords: [...new Set([...task.freeKeywords, ...task.termKeywords])],
    termKeywords: task.termKeywords,
    rating: task.rating,
    mark: task.mark,
  };
}

function changesFor(task: store.WriteTask, intended: store.Intended): FieldChanges {
  const rating = task.rating === task.ratingWritten ? {} : { rating: task.rating };
  const mark = task.mark === task.markWritten ? {} : { mark: task.mark === '' ? null : task.mark };
  return { keywords: intended.keywords, ...rating, ...mark };
}

/** What a file (with its sidecar) looks like if it says what a write was to make it say: that write was made, only not recorded. */
function saysAlready(path: string, intended: { keywords: string[]; rating: number; mark?: string }) {
  try {
    const file = fingerprintOf(path);
    const beside = sidecarPath(path);
    const sidecar = fingerprintOf(beside);
    if (!file) return undefined;
    const bytes = sidecar && readSidecar(beside);
    const { fields } = withSource(path, (source) => readMetadata(source, bytes));
    const says =
      sameValue(fields.keywords ?? [], intended.keywords) &&
      Number(fields.rating ?? 0) === intended.rating &&
      (intended.mark === undefined || (fields.mark ?? '') === intended.mark);
    return says ? { ...file, sidecarMtimeMs: sidecar?.mtimeMs ?? null } : undefined;
  } catch (error) {
    throw new Error(`${path} could not be looked at: ${messageOf(error)}`, { cause: error });
  }
}
