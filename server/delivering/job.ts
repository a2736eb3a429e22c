// The job that delivers to a folder on a drive. What becomes of each file is written down as it is made, so a run that was cut off goes
// on where it was; a file that was written and not noted is found to be there already.

import { createHash } from 'node:crypto';
import { basename, dirname, join } from 'node:path';
import pLimit from 'p-limit';
import { z } from 'zod';
import { sidecarOf, uniqueNames, type OnConflict } from '@stellin/core/delivering/names';
import { manifestText } from '@stellin/core/bagit/manifest';
import { copySettings, type CopySettings } from '@stellin/contract/delivering';
import { PROGRAM } from '../catalogue/viewer';
import type { VocabularyIndex } from '../catalogue/vocabularySnapshot';
import type { Database } from '../database/database';
import { holdingFiles } from '../database/filesLock';
import type { Drives } from '../drives/service';
import { messageOf, StellinError, systemCode } from '../errors';
import { bagInfoText, BAG_DECLARATION, BAG_MANIFEST } from '../files/bagTags';
import { ensureFolderInside, joinPath } from '../files/drivePath';
import { faultPoint } from '../files/fault';
import { flushFolder } from '../files/flush';
import { holdsAlready, lookAt, placeFile, sha256Of, type FileContent } from '../files/placeFile';
import { problemOf } from '../files/problem';
import { isTaken } from '../files/relocate';
import { DriveGone, orWaitFor, type JobKind, type JobRun } from '../jobs/service';
import { letOutBy, makeCopy, placeOf, type LetOut, type MadeCopy } from './copy';
import * as store from './store';

export const DELIVER_JOB = 'deliver';
const parameters = z.object({ deliveryId: z.uuid() });

/** Pictures are decoded by threads of their own: more at once only take more memory. Files that are copied wait for drives. */
const DRAWN = { batch: 24, sideBySide: 2 };
const COPIED = { batch: 200, sideBySide: 6 };
const paceOf = ({ format }: CopySettings) => (format === 'original' ? COPIED : DRAWN);

interface Services {
  database: Database;
  drives: Drives;
  terms: VocabularyIndex;
}

interface Delivering {
  services: Services;
  run: JobRun;
  delivery: store.DeliveryRow;
  settings: CopySettings;
  driveId: string;
  driveLabel: string;
  mountPoint: string;
  /** Below the drive. */
  folder: string;
  letOut: LetOut;
  /** Folders that files of this batch go into, in the system. */
  folders: Map<string, string>;
  /** Finds a free name. */
  named: (path: string) => string;
}

export function deliveringJob(services: Services): JobKind {
  const { database, drives, terms } = services;
  return {
    kind: DELIVER_JOB,
    async run(run) {
      const { deliveryId } = parameters.parse(run.parameters);
      const delivery = await store.findDelivery(database, deliveryId);
      if (delivery?.target.kind !== 'drive') throw new StellinError('notFound', { what: 'such delivery' });
      const { driveId, folder } = delivery.target;
      const drive = await orWaitFor(driveId, 'that is delivered to', drives.requireWritable(driveId));
      const settings = copySettings.parse(delivery.settings);
      const given = new Set((await store.allPaths(database, deliveryId)).map((path) => path.toLowerCase()));
      const delivering: Delivering = {
        services,
        run,
        delivery,
        settings,
        driveId,
        driveLabel: drive.label,
        mountPoint: drive.mountPoint,
        folder,
        letOut: await letOutBy(database, terms, delivery.at.toISOString().replace(/\.\d+Z$/, 'Z')),
        folders: new Map(),
        named: uniqueNames((path) => given.has(path.toLowerCase())),
      };
      await store.failVanished(database, deliveryId);
      const away = await deliverAll(delivering);
      if (away) throw new DriveGone(away.driveId, away.driveLabel);
      if (settings.bag) await finishBag(delivering);
      const { written, skipped, failed } = await store.countFiles(database, deliveryId);
      return { written, skipped, failed };
    },
  };
}

/** Writes what is open. Returns a photo that waits for its drive; undefined where none does. */
async function deliverAll(delivering: Delivering): Promise<store.DeliveredPhoto | undefined> {
  const { services, run, delivery } = delivering;
  const { database } = services;
  const counts = await store.countFiles(database, delivery.id);
  let done = counts.written + counts.skipped + counts.failed;
  await run.progress({ done, total: counts.photos });
  let waiting: store.DeliveredPhoto | undefined;
  for (let after = -1; ;) {
    const batch = await holdingFiles(database, 'together', async () => {
      const photos = await store.nextPhotos(database, PROGRAM, {
        deliveryId: delivery.id,
        after,
        limit: paceOf(delivering.settings).batch,
        all: false,
      });
      waiting ??= photos.find(({ attached }) => !attached);
      await deliverBatch(delivering, photos.filter(isReachable));
      return photos;
    });
    const last = batch.at(-1);
    if (!last) return waiting;
    after = last.position;
    done += batch.filter(isReachable).length;
    await run.progress({ done, current: `Delivering ${last.path}` });
  }
}

type Reachable = store.DeliveredPhoto & { mountPoint: string };
function isReachable(photo: store.DeliveredPhoto): photo is Reachable {
  return photo.attached && photo.mountPoint !== null;
}

async function deliverBatch(delivering: Delivering, photos: readonly Reachable[]): Promise<void> {
  const { services, delivery, run } = delivering;
  const limit = pLimit(paceOf(delivering.settings).sideBySide);
  const outcomes: store.FileOutcome[] = [];
  try {
    await Promise.all(
      photos.map((photo) =>
        limit(async () => {
          const outcome = await outcomeOf(delivering, photo);
          outcomes.push(outcome);
          if (outcome.state === 'failed') await run.failure(photo.original, outcome.problem ?? '');
        }),
      ),
    );
  } finally {
    limit.clearQueue();
    // What is noted as written is there for good.
    for (const folder of new Set(delivering.folders.values())) await flushFolder(folder);
    delivering.folders.clear();
    faultPoint('file:moved');
    await store.recordOutcomes(services.database, delivery.id, outcomes);
  }
}

/** Delivers one photo. Throws where nothing further can be delivered: the drive has gone, or is full. */
async function outcomeOf(delivering: Delivering, photo: Reachable): Promise<store.FileOutcome> {
  const { services, settings, letOut, driveId, driveLabel } = delivering;
  const { position, path } = photo;
  try {
    return { position, problem: null, ...(await place(delivering, photo, await makeCopy(photo, settings, letOut))) };
  } catch (error) {
    if (!(await services.drives.isAttached(driveId))) throw new DriveGone(driveId, 'that is delivered to');
    if (systemCode(error) === 'ENOSPC')
      throw new Error(`“${driveLabel}” is full. Make room on it and try again: what is there is passed over.`, {
        cause: error,
      });
    // A photo whose drive has just gone waits for it.
    if (!(await services.drives.isAttached(photo.driveId)))
      return { position, path, state: 'open', bytes: null, sha256: null, problem: null };
    const problem = systemCode(error) === undefined ? messageOf(error) : problemOf(error);
    return { position, path, state: 'failed', bytes: null, sha256: null, problem };
  }
}

type Placed = Pick<store.FileOutcome, 'path' | 'state' | 'bytes' | 'sha256'>;

/** What happens to a file that stands under the name already, and is another one. */
const CONFLICTS: Record<OnConflict, (there: { mtimeMs: number }, photo: Reachable) => 'replace' | 'skip' | 'number'> = {
  number: () => 'number',
  overwrite: () => 'replace',
  skip: () => 'skip',
  newer: (there, photo) => (there.mtimeMs < photo.mtimeMs ? 'replace' : 'skip'),
};

/** Puts a copy and its sidecar under a name: both, or none. What stands there and holds the same was written by a run that was cut off. */
async function place(delivering: Delivering, photo: Reachable, { content, sidecar }: MadeCopy): Promise<Placed> {
  const { bag, conflict } = delivering.settings;
  for (let { path } = photo; ; path = delivering.named(path)) {
    const full = await fullPath(delivering, path);
    const files = [{ full, content }];
    if (sidecar) files.push({ full: await fullPath(delivering, sidecarOf(path)), content: { bytes: sidecar } });
    const found = await Promise.all(files.map(standing));
    const other = found.find((each) => each !== undefined && !each.same);
    const does = other ? CONFLICTS[conflict](other, photo) : 'write';
    if (does === 'skip') return { path, state: 'skipped', bytes: null, sha256: null };
    if (does === 'number') continue;
    const mayReplace = does === 'replace';
    for (const [i, file] of files.entries())
      if (!found[i]?.same)
        await placeFile(file.full, file.content, {
          work: `${delivering.delivery.id}-${photo.position}-${i}`,
          mayReplace,
        });
    const bytes = (await lookAt(full))?.size ?? null;
    return { path, state: 'written', bytes, sha256: bag ? ((await sha256Of(full)) ?? null) : null };
  }
}

/** What stands at a path, and whether it is what is to be written; undefined for nothing, and for a name that is only reserved. */
async function standing({ full, content }: { full: string; content: FileContent }) {
  const there = await lookAt(full);
  return there && there.size > 0 ? { ...there, same: await holdsAlready(full, content) } : undefined;
}

/** The path in the system; its folder is made. Each folder is looked at once a batch. */
async function fullPath({ mountPoint, folder, settings, folders }: Delivering, path: string): Promise<string> {
  const below = joinPath(folder, placeOf(settings, path));
  const parent = dirname(below);
  const inside = parent === '.' ? '' : parent;
  const known = folders.get(inside) ?? (await ensureFolderInside(mountPoint, inside));
  folders.set(inside, known);
  return join(known, basename(below));
}

/** Writes the manifests of a delivery that is a bag (BagIt, RFC 8493). */
async function finishBag(delivering: Delivering): Promise<void> {
  const { services, delivery, settings, mountPoint, folder } = delivering;
  const root = await ensureFolderInside(mountPoint, folder);
  const hashes = new Map<string, string>();
  for await (const files of store.writtenHashes(services.database, delivery.id))
    for (const { path, sha256 } of files) {
      hashes.set(placeOf(settings, path), sha256);
      const beside = settings.sidecars ? placeOf(settings, sidecarOf(path)) : undefined;
      const hash = beside && (await sha256Of(join(root, beside)));
      if (beside && hash) hashes.set(beside, hash);
    }
  for (const [name, text] of Object.entries(bagTags(delivery, hashes)))
    await placeFile(join(root, name), { bytes: Buffer.from(text) }, { work: delivery.id, mayReplace: true });
  await flushFolder(root);
}

/** The tag files of a delivery by name. */
export function bagTags(
  { title, at }: Pick<store.DeliveryRow, 'title' | 'at'>,
  payload: ReadonlyMap<string, string>,
): Record<string, string> {
  const tags: Record<string, string> = {
    'bagit.txt': BAG_DECLARATION,
    'bag-info.txt': bagInfoText({ 'Bagging-Date': at.toISOString().slice(0, 10), 'External-Description': title }),
    [BAG_MANIFEST]: manifestText(payload),
  };
  const sums = new Map(
    Object.entries(tags).map(([name, text]) => [name, createHash('sha256').update(text).digest('hex')]),
  );
  return { ...tags, 'tagmanifest-sha256.txt': manifestText(sums) };
}

/** Refuses to make a bag where files stand already: they would belong to it. */
export async function requireNewBag(root: string): Promise<void> {
  if ((await isTaken(join(root, 'data'))) || (await isTaken(join(root, 'bagit.txt'))))
    throw new StellinError('badRequest', {
      problem: 'a bag needs a folder of its own, and there is one already. Name another folder.',
    });
}
