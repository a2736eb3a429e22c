// Large pictures: made when somebody looks, kept within a limit of size; of drives that are to be browsed while they are
// away all are made and kept.

import { join } from 'node:path';
import pLimit from 'p-limit';
import { z } from 'zod';
import type { Database } from '../database/database';
import type { Drives } from '../drives/service';
import { messageOf, StellinError } from '../errors';
import { resolveInside } from '../files/drivePath';
import { keepNewest, markUsed, namesIn, removeTree, type KeptFile } from '../files/keep';
import { isTaken, removeFile } from '../files/relocate';
import { FULL_PIXELS, LARGE_PIXELS, largePath, makeLarge, turnKept } from '../files/preview';
import { DriveGone, unlessRunning, type JobKind, type Jobs, type JobRun } from '../jobs/service';
import { countPictured, largeOfDrive, setBrowseAway, findLarge, namesKeptAway, type LargeRow } from './largeStore';

export type LargePictures = ReturnType<typeof largePictures>;

export const LARGE_JOB = 'largePictures';
const parameters = z.object({ driveId: z.uuid() });
/** How large a picture can be asked for: to fill a screen, or pixel by pixel. */
const PICTURE_SIZES = { large: LARGE_PIXELS, full: FULL_PIXELS } as const;
type PictureSize = keyof typeof PICTURE_SIZES;
/** The folder of pages behind the first, with one for each photo. */
const PAGES = 'pages';
/** So many are made before those looked at longest ago go. */
const PRUNE_AFTER = 25;

/** Pictures that are made side by side because somebody looks, and how many may wait for their turn. */
const MADE_AT_ONCE = 2;
const MOST_WAITING = 100;

interface Parts {
  database: Database;
  drives: Drives;
  jobs: Jobs;
  /** Where the pictures are kept, and how much room they may take. */
  folder: string;
  limitBytes: number;
}

export function largePictures({ database, drives, jobs, folder, limitBytes }: Parts) {
  // One closure for what its functions share; each of them fits a screen.
  const inMaking = new Map<string, Promise<string>>();
  const inTurn = pLimit(MADE_AT_ONCE);
  let made = 0;

  const targetOf = ({ id, version }: LargeRow, size: PictureSize, page = 1) =>
    page === 1
      ? largePath(folder, size, id, version)
      : join(folder, PAGES, String(id), `${version}-${page}-${size}.webp`);

  const make = (photo: LargeRow, mountPoint: string, size: PictureSize, page = 1): Promise<string> => {
    const target = targetOf(photo, size, page);
    const making =
      inMaking.get(target) ??
      (async () => {
        const path = await resolveInside(mountPoint, photo.path);
        await makeLarge(path, photo.kind, PICTURE_SIZES[size], target, {
          page,
          orientation: photo.orientation,
          poster: photo.poster,
        });
        made += 1;
        if (made % PRUNE_AFTER === 0) await prune();
        return target;
      })().finally(() => inMaking.delete(target));
    inMaking.set(target, making);
    return making;
  };

  /** Removes those looked at longest ago while all together are larger than the limit. */
  const prune = async (): Promise<void> => {
    const ofPages = await namesIn(join(folder, PAGES));
    const folders = [
      ...Object.keys(PICTURE_SIZES).map((size) => join(folder, size)),
      ...ofPages.map((name) => join(folder, PAGES, name)),
    ];
    await keepNewest(folders, limitBytes, async (files) => {
      const large = files.filter(({ folder: at }) => at === join(folder, 'large'));
      return keptOf(large);
    });
  };

  /** Those of some files that belong to photos of drives which are browsed while away. */
  const keptOf = async (files: readonly KeptFile[]): Promise<ReadonlySet<string>> => {
    const idOf = ({ name }: KeptFile) => Number(name.split('-')[0]);
    const rows = await namesKeptAway(database, files.map(idOf).filter(Number.isSafeInteger));
    const names = new Set(rows.map(({ name }) => name));
    return new Set(files.filter(({ name }) => names.has(name)).map(({ path }) => path));
  };

  /** Deletes the large pictures of a photo: it is going for good, or has other ones. */
  const remove = async (photoId: number, version: number): Promise<void> => {
    for (const size of Object.keys(PICTURE_SIZES) as PictureSize[])
      await removeFile(largePath(folder, size, photoId, version));
    await removeTree(join(folder, PAGES, String(photoId)));
  };

  return {
    prune,

    /** Turns the kept picture of a photo whose preview is turned from one version to the next; what is larger is made anew. */
    async turn(id: number, version: number, by: number): Promise<void> {
      const kept = largePath(folder, 'large', id, version);
      if (await isTaken(kept)) await turnKept(kept, by, largePath(folder, 'large', id, version + 1));
      await remove(id, version);
    },

    remove,

    /** The file of a large picture, made now if need be; of several pages one, from 1. Throws a StellinError that says why there is none. */
    async fileOf(photoId: number, size: PictureSize, page = 1): Promise<string> {
      const photo = await findLarge(database, photoId);
      if (!photo) throw new StellinError('notFound', { what: 'such photo' });
      const target = targetOf(photo, size, page);
      if (await isTaken(target)) {
        await markUsed(target);
        return target;
      }
      if (photo.missing) throw new StellinError('noPreview', { why: 'its file is missing.' });
      if (photo.mountPoint === null)
        throw new StellinError('noPreview', { why: `the drive “${photo.drive}” is away; plug it in to see more.` });
      if (inTurn.pendingCount >= MOST_WAITING) throw new StellinError('tooMuchAtOnce');
      const { mountPoint } = photo;
      return inTurn(() => make(photo, mountPoint, size, page)).catch((error: unknown) => {
        throw new StellinError('noPreview', { why: `${messageOf(error)}.` });
      });
    },

    /** Chooses whether a drive is to be browsed while it is away, and starts making what that needs. */
    async browseAway(driveId: string, on: boolean, accountId: number): Promise<void> {
      const drive = await setBrowseAway(database, driveId, on);
      if (!drive) throw new StellinError('notFound', { what: 'such drive' });
      await database.notify(['drives']);
      if (!on || !drive.attached) return;
      await unlessRunning(jobs.start(LARGE_JOB, `Make large pictures of ${drive.label}`, { driveId }, accountId));
    },

    /** Makes the large pictures that are not there yet, of a drive that is to be browsed while it is away. */
    async makeAll(driveId: string, run: JobRun): Promise<number> {
      let [after, count] = [0, 0];
      for (;;) {
        const photos = await largeOfDrive(database, driveId, after);
        if (photos.length === 0) return count;
        for (const photo of photos) {
          if (photo.mountPoint === null) throw new DriveGone(driveId, photo.drive);
          if (!(await isTaken(targetOf(photo, 'large')))) {
            try {
              await make(photo, photo.mountPoint, 'large');
              count += 1;
            } catch (error) {
              if (!(await drives.isAttached(driveId))) throw new DriveGone(driveId, photo.drive);
              await run.failure(photo.path, messageOf(error));
            }
          }
          await run.progress({
            done: Math.min(run.total, run.done + 1),
            current: `Making large pictures: ${photo.path}`,
          });
        }
        after = photos.at(-1)?.id ?? after;
      }
    },
  };
}

export function largePicturesJob(database: Database, large: LargePictures): JobKind {
  return {
    kind: LARGE_JOB,
    takesRoom: true,
    async run(run) {
      const { driveId } = parameters.parse(run.parameters);
      await run.progress({ done: 0, total: await countPictured(database, driveId) });
      return { made: await large.makeAll(driveId, run) };
    },
  };
}
