// The job that delivers to a folder on a drive or a server. What becomes of each file is written down as it is made, so a run that was cut off goes
// on where it was; a file that was written and not noted is found to be there already.

import pLimit from 'p-limit';
import { z } from 'zod';
import { sidecarOf, uniqueNames, type OnConflict } from '@stellin/core/delivering/names';
import { copySettings, type CopySettings } from '@stellin/contract/delivering';
import { PROGRAM } from '../catalogue/viewer';
import type { VocabularyIndex } from '../catalogue/vocabularySnapshot';
import type { Database } from '../database/database';
import { holdingFiles } from '../database/filesLock';
import type { Drives } from '../drives/service';
import { messageOf, StellinError, systemCode } from '../errors';
import { faultPoint } from '../files/fault';
import { insideDrives } from '../files/drivePath';
import { sizeOf, streamOf, type FileContent } from '../files/fileContent';
import type { FilePlacer } from '../files/placing';
import { problemOf } from '../files/problem';
import { TakenError } from '../files/relocate';
import type { Handovers } from '../handover/service';
import { DriveGone, orWaitFor, type JobKind, type JobRun } from '../jobs/service';
import { BAGIT_FILE, bagTags, NOT_NEW } from './bags';
import { letOutBy, makeCopy, placeOf, type LetOut, type MadeCopy } from './copy';
import type { Destination } from './destination';
import { driveDestination, folderDestination } from './driveDestination';
import { hashOf } from './serverDestination';
import type { DeliveryServers } from './servers';
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
  servers: Pick<DeliveryServers, 'destination'>;
  placer: FilePlacer;
  handovers: Pick<Handovers, 'folderFor' | 'noteHanded' | 'startProgram'>;
}

interface Delivering {
  services: Services;
  run: JobRun;
  delivery: store.DeliveryRow;
  settings: CopySettings;
  destination: Destination;
  letOut: LetOut;
  /** Finds a free name. */
  named: (path: string) => string;
}

export function deliveringJob(services: Services): JobKind {
  const { database, terms } = services;
  return {
    kind: DELIVER_JOB,
    async run(run) {
      const { deliveryId } = parameters.parse(run.parameters);
      const delivery = await store.findDelivery(database, deliveryId);
      if (!delivery) throw new StellinError('notFound', { what: 'such delivery' });
      const destination = await destinationOf(services, delivery);
      try {
        const settings = copySettings.parse(delivery.settings);
        const given = new Set((await store.allPaths(database, deliveryId)).map((path) => path.toLowerCase()));
        const delivering: Delivering = {
          services,
          run,
          delivery,
          settings,
          destination,
          letOut: await letOutBy(database, terms, delivery.at.toISOString().replace(/\.\d+Z$/, 'Z')),
          named: uniqueNames((path) => given.has(path.toLowerCase())),
        };
        await store.failVanished(database, deliveryId);
        await requireNewBag(delivering);
        const away = await deliverAll(delivering);
        if (away) throw new DriveGone(away.driveId, away.driveLabel);
        if (settings.bag) await finishBag(delivering);
        if (delivery.target.kind === 'handover') await services.handovers.startProgram(deliveryId);
      } finally {
        await destination.close();
      }
      const { written, skipped, failed } = await store.countFiles(database, deliveryId);
      return { written, skipped, failed };
    },
  };
}

/** A bag has a folder of its own: what stood there before would belong to it. */
async function requireNewBag({ services, delivery, settings, destination }: Delivering): Promise<void> {
  if (!settings.bag || (await store.countFiles(services.database, delivery.id)).written > 0) return;
  const there = await destination.read(BAGIT_FILE);
  there?.destroy();
  if (there) throw new Error(NOT_NEW);
}

/** Where copies go: waits for a drive, signs in to a server. */
async function destinationOf(
  { drives, servers, handovers, placer }: Services,
  { id, target }: Pick<store.DeliveryRow, 'id' | 'target'>,
): Promise<Destination> {
  switch (target.kind) {
    case 'drive': {
      const { driveId, folder } = target;
      const drive = await orWaitFor(driveId, 'that is delivered to', drives.requireWritable(driveId));
      return driveDestination(drives, placer, { driveId, label: drive.label, mountPoint: drive.mountPoint, folder });
    }
    case 'server':
      return servers.destination(target.serverId, target.folder);
    case 'handover': {
      const mountPoint = await handovers.folderFor(id);
      return folderDestination(placer, { label: 'the folder of handovers', mountPoint, folder: '' });
    }
    case 'download':
      throw new StellinError('notFound', { what: 'such delivery' });
  }
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
  const resolve = insideDrives();
  try {
    await Promise.all(
      photos.map((photo) =>
        limit(async () => {
          const outcome = await outcomeOf(delivering, photo, resolve);
          outcomes.push(outcome);
          if (outcome.state === 'failed') await run.failure(photo.original, outcome.problem ?? '');
        }),
      ),
    );
  } finally {
    limit.clearQueue();
    // What is noted as written is there for good.
    await settle(delivering.destination);
    faultPoint('file:moved');
    if (delivery.target.kind === 'handover') {
      const written = outcomes.filter(({ state }) => state === 'written');
      await services.handovers.noteHanded(
        delivery.id,
        written.map(({ position, path }) => ({ position, path: placeOf(delivering.settings, path) })),
      );
    }
    await store.recordOutcomes(services.database, delivery.id, outcomes);
  }
}

/** Settles what was put there; where that can’t be, because the drive has gone, says so. */
async function settle(destination: Destination): Promise<void> {
  try {
    await destination.settle();
  } catch (error) {
    await destination.requireThere(error);
    throw error;
  }
}

/** Delivers one photo. Throws where nothing further can be delivered: the drive has gone or is full, the server is away. */
async function outcomeOf(
  delivering: Delivering,
  photo: Reachable,
  resolve: ReturnType<typeof insideDrives>,
): Promise<store.FileOutcome> {
  const { services, settings, letOut, destination } = delivering;
  const { position, path } = photo;
  try {
    const copy = await makeCopy(photo, settings, letOut, resolve);
    return {
      position,
      problem: null,
      ...((await placeFree(delivering, photo, copy)) ?? (await place(delivering, photo, copy))),
    };
  } catch (error) {
    await destination.requireThere(error);
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

/** Puts a copy that has no sidecar under its name; undefined where something stands there. */
async function placeFree(
  delivering: Delivering,
  photo: Reachable,
  { content, sidecar }: MadeCopy,
): Promise<Placed | undefined> {
  if (sidecar) return undefined;
  const { settings, destination } = delivering;
  const how = { work: workOf(delivering, photo, 0), mayReplace: false };
  try {
    const bytes = await destination.put(placeOf(settings, photo.path), content, how);
    return written(settings, photo.path, content, bytes);
  } catch (error) {
    if (error instanceof TakenError) return undefined;
    throw error;
  }
}

/** Whose file it is: tried again it is the same. */
const workOf = ({ delivery }: Delivering, { position }: Reachable, part: number) =>
  `${delivery.id}-${position}-${part}`;

async function written({ bag }: CopySettings, path: string, content: FileContent, bytes: number): Promise<Placed> {
  return { path, state: 'written', bytes, sha256: bag ? await hashOf(streamOf(content)) : null };
}

/** Puts a copy and its sidecar under a name: both, or none. What stands there and holds the same was written by a run that was cut off. */
async function place(delivering: Delivering, photo: Reachable, { content, sidecar }: MadeCopy): Promise<Placed> {
  const { settings, destination, named } = delivering;
  for (let { path } = photo; ; path = named(path)) {
    const files = [{ path: placeOf(settings, path), content }];
    if (sidecar) files.push({ path: placeOf(settings, sidecarOf(path)), content: { bytes: sidecar } });
    const found = await Promise.all(files.map((file) => destination.standing(file.path, file.content)));
    const other = found.find((each) => each !== undefined && !each.same);
    const does = other ? CONFLICTS[settings.conflict](other, photo) : 'write';
    if (does === 'skip') return { path, state: 'skipped', bytes: null, sha256: null };
    if (does === 'number') continue;
    const mayReplace = does === 'replace';
    const sizes: number[] = [];
    for (const [i, file] of files.entries())
      if (!found[i]?.same)
        sizes[i] = await destination.put(file.path, file.content, {
          work: workOf(delivering, photo, i),
          mayReplace,
        });
    return written(settings, path, content, sizes[0] ?? (await sizeOf(content)));
  }
}

/** Writes the manifests of a delivery that is a bag (BagIt, RFC 8493). */
async function finishBag({ services, delivery, settings, destination }: Delivering): Promise<void> {
  const hashes = new Map<string, string>();
  for await (const files of store.writtenHashes(services.database, delivery.id))
    for (const { path, sha256 } of files) {
      hashes.set(placeOf(settings, path), sha256);
      if (!settings.sidecars) continue;
      const beside = placeOf(settings, sidecarOf(path));
      const sidecar = await destination.read(beside);
      if (sidecar) hashes.set(beside, await hashOf(sidecar));
    }
  for (const [name, text] of Object.entries(bagTags(delivery, hashes)))
    await destination.put(name, { bytes: Buffer.from(text) }, { work: delivery.id, mayReplace: true });
  await destination.settle();
}
