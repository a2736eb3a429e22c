// The write-back job: batch by batch, what waits goes into the files of attached drives. Before a batch is written, a
// journal says what each file was and is to become, so that a killed process leaves nothing that the next one can't sort
// out.

import { join } from 'node:path';
import { z } from 'zod';
import { isTimed } from '@stellin/core/metadata/containers/index';
import { fieldOf, type FieldId, type FieldValue, type FieldValues } from '@stellin/core/metadata/fields';
import { readMetadata } from '@stellin/core/metadata/read';
import { normalFieldValue, sameValue } from '@stellin/core/metadata/values';
import type { FieldChanges } from '@stellin/core/metadata/write';
import { aboutOf, hierarchyOf } from '@stellin/core/vocabulary/referring';
import type { Job } from '@stellin/contract/jobs';
import { selection } from '@stellin/contract/photos';
import type { WritePolicies } from '@stellin/contract/writeback';
import type { Reread } from '../catalogue/rereading';
import type { Database } from '../database/database';
import type { Drives } from '../drives/service';
import { holdingFiles } from '../database/filesLock';
import { messageOf } from '../errors';
import { belowDrive, joinPath, resolveInside } from '../files/drivePath';
import { faultPoint } from '../files/fault';
import { fileHashes } from '../files/fileHashes';
import { fingerprintOf, type Fingerprint } from '../files/fingerprint';
import { journalEntryOf, parseEntry, serializeEntry, settle } from '../files/journal';
import type { PlannedWrite, WriteRequest } from '../files/planWrite';
import { sidecarPath, sidecarBeside } from '../files/sidecars';
import { problemOf } from '../files/problem';
import { readSidecar, withSource } from '../files/source';
import { versionOf } from '../files/takeBack';
import type { FileWriter } from '../files/writer';
import type { CarriedOut, MadeHashes, Problem } from '../files/writeFiles.worker';
import { DriveGone, type JobKind, type JobRun } from '../jobs/service';
import { selectionSql } from '../catalogue/selection';
import type { Snapshot, VocabularyIndex } from '../catalogue/vocabularySnapshot';
import { readPolicies } from './policies';
import * as store from './store';

export const WRITE_JOB = 'writeBack';
export const writeParameters = z.object({
  driveId: z.uuid().nullable(),
  selection: selection.nullable().default(null),
});

const FILES_PER_BATCH = 50;

interface Services {
  database: Database;
  drives: Drives;
  writer: FileWriter;
  reread: Reread;
  terms: VocabularyIndex;
}

export function writingJob(services: Services): JobKind {
  const { database } = services;
  return {
    kind: WRITE_JOB,
    async run(run) {
      const { driveId, selection: chosen } = writeParameters.parse(run.parameters);
      const scope = { driveId, photos: chosen && selectionSql(chosen) };
      await recoverWrites(database);
      const counts = { written: 0, conflict: 0, failed: 0 };
      await run.progress({ done: 0, total: await store.countTasks(database, scope) });
      const policies = await readPolicies(database);
      // Each drive by itself: a slow one does not hold the others up, and one that goes away does not stop them.
      const ends = await Promise.allSettled(
        (await store.taskDrives(database, scope)).map((id) =>
          writeDrive({ services, run, policies, counts }, { ...scope, driveId: id }),
        ),
      );
      const problems = ends.flatMap((end) => (end.status === 'rejected' ? [end.reason as unknown] : []));
      const stops = problems.find((problem) => !(problem instanceof DriveGone)) ?? problems[0];
      if (stops !== undefined) throw stops;
      return counts satisfies Job['result'];
    },
  };
}

interface Writing {
  services: Services;
  run: JobRun;
  policies: WritePolicies;
  counts: { written: number; conflict: number; failed: number };
}

/** Writes what waits on a drive, in batches that become smaller where it is slow. */
async function writeDrive(writing: Writing, scope: store.WriteScope & { driveId: string }): Promise<void> {
  const { services, run, counts } = writing;
  const { database } = services;
  let after = 0;
  let merged = false;
  let size = FILES_PER_BATCH;
  for (;;) {
    const started = performance.now();
    const { tasks, done } = await holdingFiles(database, 'together', async () => {
      const next = await store.nextTasks(database, scope, after, size);
      return { tasks: next, done: await writeOrWait(writing, next) };
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
    size = nextSize(size, performance.now() - started);
    await run.progress({
      done: counts.written + counts.conflict + counts.failed,
      current: `Writing ${last?.driveLabel}: ${joinPath(last?.folderPath ?? '', last?.name ?? '')}`,
    });
  }
  // A drive that went away between two batches takes what waits on it along.
  const gone = await store.goneDrive(database, [scope.driveId]);
  if (gone) throw new DriveGone(gone.id, gone.label);
}

/** How long a batch should take at most, so that a slow drive can be paused soon. */
const SLOW_MS = 2000;

function nextSize(size: number, took: number): number {
  return took > SLOW_MS ? Math.max(5, size >> 1) : Math.min(FILES_PER_BATCH, size * 2);
}

/** Sorts out writes that were cut off: leftovers are removed and half-written files restored; where the new file is in place already, the write counts as made. */
export async function recoverWrites(database: Database): Promise<number> {
  if (!(await store.hasOpenWrites(database))) return 0;
  // Every journal is written and closed by somebody who holds the files together with others. Who holds them alone finds only
  // journals that nobody closes any more.
  return holdingFiles(database, 'alone', () => recoverOrphans(database));
}

async function recoverOrphans(database: Database): Promise<number> {
  const open = await store.openWrites(database);
  const made: store.Written[] = [];
  const settledIds: number[] = [];
  const unsettled: { id: number; message: string }[] = [];
  for (const { entries, intended, ...task } of open) {
    try {
      settleAll(task.mountPoint, entries);
    } catch (error) {
      // Its journal stays: nothing else is written to it until it can be sorted out. The others go on.
      unsettled.push({ id: task.id, message: `a write was cut off, and can’t be sorted out: ${problemOf(error)}` });
      continue;
    }
    settledIds.push(task.id);
    const written = saysAlready(join(task.mountPoint, task.folderPath, task.name), intended);
    if (written)
      made.push({
        id: task.id,
        ...written,
        ...intended,
        fields: intended.fields ?? {},
        references: intended.references ?? {},
        versions: [],
        hashes: hashesNow(task),
      });
  }
  await store.noteUnsettled(database, unsettled);
  await store.closeJournals(database, settledIds);
  await store.recordWritten(database, made);
  return settledIds.length;
}

/** What stands in the files of a photo whose write was cut off; null where they can’t be read. */
function hashesNow({ mountPoint, folderPath, name }: store.WriteTask): MadeHashes | null {
  try {
    const { sidecar, ...file } = fileHashes(join(mountPoint, folderPath, name));
    return { file, sidecar };
  } catch {
    return null;
  }
}

/** Sorts out the files of one photo, whose paths are below its drive. */
function settleAll(mountPoint: string, entries: readonly string[]): void {
  for (const text of entries) {
    const entry = parseEntry(text);
    settle({ ...entry, path: join(mountPoint, entry.path), temporary: join(mountPoint, entry.temporary) });
  }
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

/** Writes a batch. When a drive goes away in the middle the job waits for it; the journals tell then what was done. */
async function writeOrWait(writing: Writing, tasks: readonly store.WriteTask[]) {
  try {
    return await writeBatch(writing, tasks);
  } catch (error) {
    const { services } = writing;
    for (const { driveId, driveLabel } of tasks)
      if (!(await services.drives.isAttached(driveId))) throw new DriveGone(driveId, driveLabel);
    throw error;
  }
}

async function writeBatch({ services, run, policies }: Writing, tasks: readonly store.WriteTask[]) {
  if (tasks.length === 0) return { written: 0, merged: 0, conflict: 0, failed: 0 };
  const { database, writer } = services;
  const vocabulary = await services.terms.current();
  const doings = tasks.map((task): Doing => ({ task, intended: intendedOf(task, vocabulary) }));
  await planBatch(writer, doings, policies);
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
async function planBatch(writer: FileWriter, doings: readonly Doing[], policies: WritePolicies): Promise<void> {
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
      ...requestOf(task, intended, path, policies),
      expected: { file: { sizeBytes: task.sizeBytes, mtimeMs: task.mtimeMs }, sidecarMtimeMs: task.sidecarMtimeMs },
    })),
  );
  inside.forEach(({ doing }, i) => {
    const planned = plans[i];
    if (planned?.ok) doing.plan = planned.plan;
    else doing.result = planned;
  });
}

/** What is to be written into a photo's files, and how. */
export function requestOf(
  task: store.WriteTask,
  intended: store.Intended,
  path: string,
  policies: WritePolicies,
): WriteRequest {
  const kinds: readonly string[] = policies.sidecarKinds;
  return {
    path,
    changes: changesFor(task, intended),
    options: { now: new Date().toISOString().replace(/\.\d+Z$/, 'Z'), iim: policies.iim },
    keepTimes: policies.keepTimes,
    keepTimesInPlace: policies.keepTimesInPlace,
    sidecarOnly: kinds.includes(task.kind) || (policies.recordings === 'sidecar' && isTimed(task.kind)),
  };
}

/**
 * Reads files that another program has changed again, which merges them with what the catalogue says. Where only one side
 * changed a value the photo waits to be written on top; values that both changed are a conflict, and the file is left alone.
 */
async function mergeBatch({ database, reread }: Services, doings: readonly Doing[]): Promise<void> {
  const changed = doings.filter(({ result }) => result?.ok === false && result.changed);
  if (changed.length === 0) return;
  const files = changed.map(({ task, path = '' }) => {
    return { ...task, path, sidecarPath: sidecarBeside(path) };
  });
  const unread = await database.transaction((tx) => reread(files, tx));
  const conflicts = await store.conflictsOf(
    database,
    changed.map(({ task }) => task.id),
  );
  for (const doing of changed) {
    const fields = conflicts.get(doing.task.id);
    const problem = unread.find(({ path }) => path === doing.path);
    if (fields) doing.result = conflictOn(fields);
    else if (problem === undefined) doing.merged = true;
    else doing.result = { ok: false, code: undefined, message: problem.message, changed: false };
  }
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
  return [
    { id: task.id, ...file, sidecarMtimeMs, ...intended, versions: plan.files.map(versionOf), hashes: result.hashes },
  ];
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
  const attached = new Set<string>();
  for (const { task, result, merged } of doings) {
    if (result?.ok || merged) continue;
    // Whatever it looked like, a file of a drive that has gone says nothing of itself.
    if (!attached.has(task.driveId)) {
      if (!(await drives.isAttached(task.driveId))) throw new DriveGone(task.driveId, task.driveLabel);
      attached.add(task.driveId);
    }
    const state = result?.changed ? 'conflict' : 'failed';
    counts[state] += 1;
    const message = result?.message ?? 'was not written';
    problems.push({ id: task.id, state, message, unsettled: result?.unsettled ?? false });
    await run.failure(`${task.driveLabel}: ${joinPath(task.folderPath, task.name)}`, message);
  }
  await store.recordProblems(database, problems);
  return counts;
}

/** What a photo's files are to say. */
export function intendedOf(task: store.WriteTask, { tree, vocabularies }: Snapshot): store.Intended {
  const { termIds, hierarchy, about, termKeywords, writtenKeywords } = task;
  const ours = new Set([...termKeywords, ...writtenKeywords]);
  const wanted = {
    keywordHierarchy: [hierarchy, hierarchyOf(tree, termIds, hierarchy ?? undefined, ours)],
    aboutCvTerm: [about, aboutOf(tree, vocabularies, termIds, about ?? undefined)],
  } as const;
  const references = Object.entries(wanted).flatMap(([id, [before, after]]) =>
    sameValue(before ?? undefined, after) ? [] : [[id, after ?? null] as const],
  );
  return {
    references: Object.fromEntries(references),
    keywords: [...new Set([...task.freeKeywords, ...termKeywords])],
    termKeywords,
    rating: task.rating,
    mark: task.mark,
    fields: task.fields,
  };
}

function changesFor(task: store.WriteTask, intended: store.Intended): FieldChanges {
  const rating = task.rating === task.ratingWritten ? {} : { rating: task.rating };
  const mark = task.mark === task.markWritten ? {} : { mark: task.mark === '' ? null : task.mark };
  return { ...intended.fields, ...intended.references, keywords: intended.keywords, ...rating, ...mark };
}

function saysField(fields: FieldValues, id: FieldId, value: FieldValue | null): boolean {
  return sameValue(fields[id], normalFieldValue(fieldOf(id), value));
}

/** What a file (with its sidecar) looks like if it says what a write was to make it say: that write was made, only not recorded. */
function saysAlready(path: string, intended: Partial<store.Intended>) {
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
      (intended.mark === undefined || (fields.mark ?? '') === intended.mark) &&
      Object.entries({ ...intended.fields, ...intended.references }).every(([id, value]) =>
        saysField(fields, id as FieldId, value),
      );
    return says ? { ...file, sidecarMtimeMs: sidecar?.mtimeMs ?? null } : undefined;
  } catch (error) {
    throw new Error(`${path} could not be looked at: ${messageOf(error)}`, { cause: error });
  }
}
