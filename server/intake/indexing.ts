// The indexing job: first records of all files, so that a new drive can be searched soon, then their previews. Each step
// can be repeated, so a job that was cut off goes on by running again: files that are known and unchanged are passed over.

import { join } from 'node:path';
import type { z } from 'zod';
import { ignoring } from '@stellin/core/intake/patterns';
import { kindByName } from '@stellin/core/metadata/containers/index';
import { countText } from '@stellin/contract/wording';
import type { Database, Transaction } from '../database/database';
import { holdingFiles } from '../database/filesLock';
import type { Drives } from '../drives/service';
import { systemCode } from '../errors';
import { faultPoint } from '../files/fault';
import type { FileReader } from '../catalogue/reader';
import { sidecarBeside } from '../files/sidecars';
import { walkFolders, type FolderListing } from '../files/walk';
import { DriveGone, orWaitFor, type JobKind, type JobRun } from '../jobs/service';
import { compareFolder, liesAside, type FileToRead, type FolderComparison } from './comparing';
import {
  adoptByPicture,
  areMissing,
  foldersWithin,
  foldersWithPhotos,
  markMissing,
  markReturned,
  markVanishedFolders,
} from './movesStore';
import type { LargePictures } from './large';
import { recogniseMoved } from './moving';
import type { Looked, Previews } from './previews';
import type { RecordText } from '../catalogue/reader.worker';
import { INDEX_JOB, indexParameters } from './service';
import type { ReadingMode } from '../catalogue/merging';
import { ensureFolder, findFolder } from '../catalogue/folders';
import type { Unread } from '../catalogue/rereading';
import * as store from './store';
import { PROGRAM } from '../catalogue/viewer';

type Parameters = z.infer<typeof indexParameters>;

interface Services {
  database: Database;
  drives: Drives;
  previews: Previews;
  large: LargePictures;
  reader: FileReader;
  /** Who is told of files that were read, in this order. */
  afterReading: (photoIds: readonly number[], tx: Transaction) => Promise<void>;
  /** Applies a template to the new photos of an accession, in somebody's name. */
  describe: (accessionId: number, templateId: number, accountId: number) => Promise<void>;
  /** Puts the new photos of an accession into a dossier, in somebody's name. */
  gather: (accessionId: number, dossierId: number, accountId: number) => Promise<void>;
  /** What follows once previews are made. */
  afterwards: (accountId: number | null) => Promise<void>;
}

const FILES_PER_BATCH = 200;
const PICTURES_PER_BATCH = 32;
/** What the file system says when a drive has gone. */
const GONE_CODES = new Set(['ENOENT', 'ENOTDIR', 'EIO', 'ENODEV', 'ENXIO', 'ESTALE']);

export function indexingJob(services: Services): JobKind {
  return {
    kind: INDEX_JOB,
    takesRoom: true,
    async run(run) {
      const parameters = indexParameters.parse(run.parameters);
      const { driveId } = parameters;
      const drive = await orWaitFor(driveId, 'of this accession', services.drives.requireAttached(driveId));
      const accessionId = await store.ensureAccession(services.database, {
        jobId: run.id,
        driveId: drive.id,
        folder: parameters.folder,
        subFolders: parameters.subFolders,
        accountId: run.accountId,
        source: parameters.source,
      });
      const taking: Taking = {
        services,
        run,
        parameters,
        mountPoint: drive.mountPoint,
        accessionId,
        areMissing: true,
        ...(await rulesOf(services, parameters)),
      };
      try {
        const folders = await compareAll(taking);
        taking.areMissing = await areMissing(services.database);
        await readAll(taking, folders);
        if (parameters.templateId !== null && run.accountId !== null)
          await services.describe(accessionId, parameters.templateId, run.accountId);
        if (parameters.dossierId !== null && run.accountId !== null)
          await services.gather(accessionId, parameters.dossierId, run.accountId);
        if (!parameters.missingOnly) {
          await lookAtPictures(taking, drive);
          await services.large.makeAll(drive.id, run);
        }
        await adopt(taking);
      } catch (error) {
        if (await wentAway(services.drives, drive.id, error)) throw new DriveGone(drive.id, drive.label);
        throw error;
      }
      const accession = await store.finishAccession(services.database, accessionId, parameters.quiet);
      await services.drives.noteChecked(drive.id);
      if (!parameters.missingOnly) await services.afterwards(run.accountId);
      await services.database.notify(['accessions', 'photos', 'drives', 'vocabulary']);
      return {
        accession: accessionId,
        new: accession?.photosNew ?? 0,
        changed: accession?.photosChanged ?? 0,
        moved: accession?.photosMoved ?? 0,
        missing: accession?.photosMissing ?? 0,
        returned: accession?.photosReturned ?? 0,
        damaged: accession?.damaged ?? 0,
      };
    },
  };
}

/** One run of the job. */
interface Taking {
  services: Services;
  run: JobRun;
  parameters: Parameters;
  mountPoint: string;
  accessionId: number;
  isIgnored: (path: string) => boolean;
  /** Files, below the drive, that are read whether changed or not. */
  isAgain: (path: string) => boolean;
  /** Whether any photo is missing that a new file may turn out to be. */
  areMissing: boolean;
}

async function rulesOf(
  { database }: Services,
  { leaveOut, ignore, again, known }: Parameters,
): Promise<Pick<Taking, 'isIgnored' | 'isAgain'>> {
  const byPattern = ignoring(ignore);
  const kinds = new Set<string | undefined>(leaveOut);
  const failed = new Set(again ? await store.failedSubjects(database, again) : []);
  return {
    isIgnored: (path) => byPattern(path) || kinds.has(kindByName(path)),
    isAgain: (path) => known || failed.has(path),
  };
}

/** A folder in which something is to be read, and in how many files. */
interface ChangedFolder {
  id: number;
  path: string;
  files: number;
}

/** Compares the drive with the catalogue: marks what has vanished and what is there again. */
async function compareAll(taking: Taking): Promise<ChangedFolder[]> {
  const { services, run, parameters, accessionId } = taking;
  const { database } = services;
  const changed: ChangedFolder[] = [];
  const seen = new Set<number>();
  const unlisted: string[] = [];
  let [files, toRead, gone] = [0, 0, 0];
  for await (const listing of listingsOf(taking)) {
    if (listing.problem) {
      await run.failure(listing.path || 'the drive', listing.problem);
      unlisted.push(listing.path);
    }
    const folderId =
      listing.photos.length > 0
        ? await ensureFolder(database, parameters.driveId, listing.path)
        : await findFolder(database, parameters.driveId, listing.path);
    if (folderId === undefined) continue;
    seen.add(folderId);
    const comparison = await compare(taking, listing, folderId);
    for (const { shown, message } of comparison.problems) await run.failure(shown, message);
    files += listing.photos.length;
    toRead += comparison.toRead.length;
    if (comparison.toRead.length > 0)
      changed.push({ id: folderId, path: listing.path, files: comparison.toRead.length });
    if (!parameters.missingOnly) gone += await markMissing(database, folderId, comparison.goneIds);
    if (comparison.returnedIds.length > 0) {
      await markReturned(database, comparison.returnedIds);
      await store.countPhotos(database, accessionId, { returned: comparison.returnedIds.length });
    }
    await run.progress({ current: `Looking through ${listing.path || 'the drive'}: ${countText(files, 'photo')}` });
  }
  // A drive that was pulled out on the way leaves folders that can't be listed: nothing is to be concluded from that.
  await requireThere(services.drives, parameters.driveId);
  if (!parameters.missingOnly && !parameters.only) {
    const vanished = (await foldersWithin(database, parameters.driveId, parameters)).filter(
      ({ id, path }) => !seen.has(id) && !liesAside(path, unlisted, taking.isIgnored),
    );
    gone += await markVanishedFolders(
      database,
      vanished.map(({ id }) => id),
    );
  }
  if (gone > 0) await store.countPhotos(database, accessionId, { missing: gone });
  // Records count once and previews once.
  await run.progress({ done: files - toRead, total: files * 2, current: 'Reading' });
  return changed;
}

async function* listingsOf({ services, mountPoint, parameters, isIgnored }: Taking): AsyncGenerator<FolderListing> {
  const { folder, subFolders, only, known, driveId } = parameters;
  if (known) return yield* listingsOfKnown(await foldersWithPhotos(services.database, driveId), mountPoint);
  if (!only) return yield* walkFolders(mountPoint, folder, { subFolders, isIgnored });
  for (const one of only) yield* walkFolders(mountPoint, one, { subFolders: false, isIgnored });
}

/** The folders of the catalogue that are still there. */
async function* listingsOfKnown(folders: readonly string[], mountPoint: string): AsyncGenerator<FolderListing> {
  for (const path of folders) {
    try {
      yield* walkFolders(mountPoint, path, { subFolders: false });
    } catch (error) {
      if (systemCode(error) !== 'ENOENT' && systemCode(error) !== 'ENOTDIR') throw error;
    }
  }
}

async function compare(taking: Taking, listing: FolderListing, folderId: number): Promise<FolderComparison> {
  const { services, mountPoint } = taking;
  const known = await store.knownFiles(services.database, folderId);
  const comparison = await compareFolder(services.reader, mountPoint, listing, known, taking);
  const lost = comparison.problems.find(({ code }) => GONE_CODES.has(code ?? ''));
  if (lost && !(await services.drives.isAttached(taking.parameters.driveId)))
    throw Object.assign(new Error(lost.message), { code: lost.code });
  return comparison;
}

/** Reads what is new and what has changed, folder by folder: while what one said is saved, the next is read. */
async function readAll(taking: Taking, folders: readonly ChangedFolder[]): Promise<void> {
  const { run, parameters } = taking;
  const { database } = taking.services;
  let before: Promise<unknown> = Promise.resolve();
  let saved = before;
  try {
    for (const folder of folders) {
      const last = saved;
      before = last;
      await new Promise<void>((isRead, failed) => {
        // From the listing to the saving no file is moved.
        saved = holdingFiles(database, 'together', () => readFolder(taking, folder, last, isRead));
        saved.then(() => isRead(), failed);
      });
      await last;
    }
  } finally {
    // Whatever ended this, nobody goes on reading or saving after it.
    await Promise.allSettled([before, saved]);
  }
  await saved;
  await database.notify(['photos', 'drives', 'accessions']);
  await run.progress({
    done: Math.min(run.done, run.total),
    current: parameters.missingOnly ? '' : 'Making previews',
  });
}

/** Reads a folder, and saves what it says once all `before` is saved; `isRead` is called when all of it is read. */
async function readFolder(
  taking: Taking,
  { id, path }: ChangedFolder,
  before: Promise<unknown>,
  isRead: () => void,
): Promise<void> {
  const { run } = taking;
  const options = { subFolders: false, isIgnored: taking.isIgnored };
  for await (const listing of walkFolders(taking.mountPoint, path, options)) {
    const { toRead } = await compare(taking, listing, id);
    const readFrom = (at: number) => {
      const reading = readNext(taking, id, toRead, at);
      // Who waits for it is told; if saving fails before, nobody does.
      reading.catch(() => undefined);
      return reading;
    };
    let reading = readFrom(0);
    for (let at = 0; at < toRead.length; at += FILES_PER_BATCH) {
      const batch = toRead.slice(at, at + FILES_PER_BATCH);
      const results = await reading;
      // While these are saved, the next are read.
      if (at + FILES_PER_BATCH < toRead.length) reading = readFrom(at + FILES_PER_BATCH);
      else isRead();
      await before;
      await saveBatch(taking, id, batch, results);
      faultPoint('index:batch');
      await run.progress({ done: run.done + batch.length, current: `Reading ${path || 'the drive'}` });
    }
  }
}

function readNext(
  { services }: Taking,
  folderId: number,
  files: readonly FileToRead[],
  at: number,
): Promise<RecordText[]> {
  const batch = files.slice(at, at + FILES_PER_BATCH);
  const half = Math.ceil(batch.length / 2);
  // Both threads take their part.
  const parts = [batch.slice(0, half), batch.slice(half)].filter(({ length }) => length > 0);
  return Promise.all(parts.map((part) => services.reader.records({ folderId, files: part }))).then((read) =>
    read.flat(),
  );
}

async function saveBatch(
  taking: Taking,
  folderId: number,
  files: readonly FileToRead[],
  results: readonly RecordText[],
): Promise<void> {
  const { services, run, parameters, accessionId } = taking;
  const { database, reader, afterReading, drives } = services;
  const place = { driveId: parameters.driveId, folderId };
  const moved = taking.areMissing
    ? await recogniseMoved(database, reader, place, files, parameters.missingOnly)
    : new Set<string>();
  const records: string[] = [];
  for (const [i, file] of files.entries()) {
    if (parameters.missingOnly && file.isNew && !moved.has(file.name)) continue;
    const result = results[i];
    if (result?.ok) records.push(result.json);
    else if (result && GONE_CODES.has(result.code ?? '') && !(await drives.isAttached(parameters.driveId)))
      throw Object.assign(new Error(result.message), { code: result.code });
    else await run.failure(file.shown, result?.message ?? 'was not read');
  }
  if (records.length === 0) return;
  await database.transaction(async (tx) => {
    const ids = await store.saveRecords(database, parameters.driveId, accessionId, records, tx, { moved: moved.size });
    await afterReading(ids, tx);
    await database.notify(['photos', 'drives'], tx);
  });
}

/** What turned up as a new photo and is the picture of a missing one becomes that one again. */
async function adopt(taking: Taking): Promise<void> {
  while ((await adoptSome(taking)) > 0) await taking.run.progress({ current: 'Linking photos that have moved' });
}

async function adoptSome({ services, run, accessionId }: Taking): Promise<number> {
  const { database } = services;
  const mountPoints = new Map((await services.drives.list(PROGRAM)).map(({ id, mountPoint }) => [id, mountPoint]));
  const { count, problems } = await database.transaction(async (tx) => {
    const adopted = await adoptByPicture(database, FILES_PER_BATCH, tx);
    if (adopted.length === 0) return { count: 0, problems: [] };
    const files = adopted.flatMap(({ driveId, folderId, folder, name }) => {
      const mountPoint = mountPoints.get(driveId);
      return mountPoint ? [withSidecar({ driveId, folderId, name, path: join(mountPoint, folder, name) })] : [];
    });
    const fresh = adopted.filter(({ accessionId: of }) => of === accessionId).length;
    await store.countPhotos(database, accessionId, { moved: adopted.length, new: -fresh }, tx);
    return { count: adopted.length, problems: await rereadFiles(services, files, tx) };
  });
  for (const { name, message } of problems)
    await run.failure(`${name}: ${message}`, 'could not be read where it was found again');
  return count;
}

function withSidecar<File extends { path: string }>(file: File): File & { sidecarPath: string | undefined } {
  return { ...file, sidecarPath: sidecarBeside(file.path) };
}

/** Reads files again whose metadata we have just written ourselves. Returns what could not be read. */
export async function rereadFiles(
  { database, reader, afterReading }: Pick<Services, 'database' | 'reader' | 'afterReading'>,
  files: readonly { driveId: string; folderId: number; name: string; path: string; sidecarPath: string | undefined }[],
  tx: Transaction,
  mode: ReadingMode = 'merge',
): Promise<Unread[]> {
  const problems: Unread[] = [];
  const byDrive = new Map<string, string[]>();
  for (const folderId of new Set(files.map((file) => file.folderId))) {
    const some = files.filter((file) => file.folderId === folderId);
    const results = await reader.records({ folderId, files: some });
    for (const [i, file] of some.entries()) {
      const result = results[i];
      if (result?.ok) byDrive.set(file.driveId, [...(byDrive.get(file.driveId) ?? []), result.json]);
      else problems.push({ path: file.path, name: file.name, message: result?.message ?? 'was not read' });
    }
  }
  for (const [driveId, records] of byDrive) {
    const ids = await store.saveRecords(database, driveId, null, records, tx, { mode });
    await afterReading(ids, tx);
  }
  await database.notify(['photos', 'writeBack'], tx);
  return problems;
}

/** Previews and hashes of the pictures, of the whole drive: others may be left over from before. */
async function lookAtPictures(
  { services, run, accessionId }: Taking,
  drive: { id: string; mountPoint: string },
): Promise<void> {
  const { database, previews, drives } = services;
  const count = await store.countPictureTasks(database, drive.id);
  let done = Math.max(count, run.total - count);
  await run.progress({ done, total: done + count, current: 'Making previews' });
  const next = (after: number) => store.pictureTasks(database, drive.id, after, PICTURES_PER_BATCH);
  let before: Promise<void> = Promise.resolve();
  try {
    for (let tasks = await next(0); tasks.length > 0; tasks = await next(tasks.at(-1)?.id ?? 0)) {
      // While these are looked at, what was found of the last ones is noted.
      const [looked] = await Promise.all([previews.look(drive.mountPoint, tasks, run.failure), before]);
      before = noteLooked(looked);
      // Who waits for it is told.
      before.catch(() => undefined);
      if (looked.lost.length > 0) await requireThere(drives, drive.id);
      for (const path of looked.lost) await run.failure(path, 'the file is no longer there');
      done += tasks.length;
      await run.progress({ done, current: `Making previews: ${tasks[0]?.path ?? ''}` });
    }
  } finally {
    await before.catch(() => undefined);
  }
  await before;

  async function noteLooked({ changed, noted }: Looked): Promise<void> {
    await noted;
    if (changed > 0) await store.countPhotos(database, accessionId, { pictures: changed });
    await database.notify(['photos']);
  }
}

/** What is not there on a drive that has gone is not missing. */
async function requireThere(drives: Drives, driveId: string): Promise<void> {
  if (!(await drives.isAttached(driveId))) throw Object.assign(new Error('the drive has gone'), { code: 'ENODEV' });
}

async function wentAway(drives: Drives, driveId: string, error: unknown): Promise<boolean> {
  return GONE_CODES.has(systemCode(error) ?? '') && !(await drives.isAttached(driveId));
}
