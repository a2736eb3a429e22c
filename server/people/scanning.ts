// Looking for faces: a job goes through all pictures that have not been looked at, a few at a time, so that one that is cut
// off goes on where it was. A photo on somebody's screen is looked at at once.

import { kindFacts } from '@stellin/core/metadata/containers/index';
import { sidewaysOf } from '@stellin/core/people/sideways';
import type { Database } from '../database/database';
import type { Drives } from '../drives/service';
import { resolveInside } from '../files/drivePath';
import { faultPoint } from '../files/fault';
import { DriveGone, type JobKind, type Jobs } from '../jobs/service';
import { messageOf, StellinError } from '../errors';
import type { FoundFace } from './faces.worker';
import type { Looker } from './looking';
import { namesFound } from './names';
import type { FacePictures } from './pictures';
import * as store from './scanStore';

export const FACES_JOB = 'faces';
/** Small, so that pausing and stopping need not wait long. */
const PICTURES_PER_BATCH = 4;
/** What the file system says when a drive has gone. */
const GONE = new Set(['ENOENT', 'ENOTDIR', 'EIO', 'ENODEV', 'ENXIO', 'ESTALE']);

const NOT_LOOKED_AT = 'it has not been looked at: its drive is away, or looking for faces is switched off there';

interface Services {
  database: Database;
  drives: Drives;
  jobs: Jobs;
  looker: Looker;
  pictures: FacePictures;
  /** Whether what is taken in is looked at by itself. */
  byItself: boolean;
}

/** How a picture of a kind that can be turned stands, as the faces in it say. */
const standing = ({ kind }: store.ScanTask, faces: readonly FoundFace[]): number =>
  kindFacts(kind).turns ? sidewaysOf(faces) : 0;

export type Scanning = ReturnType<typeof scanningService>;

export function scanningService(services: Services) {
  // One closure for what its functions share; each of them fits a screen.
  const { database, drives, jobs, looker, pictures, byItself } = services;
  let held = false;
  const atOnce = new Map<number, Promise<void>>();

  /** Looks at some pictures and keeps what was found. Returns how many faces. */
  const scan = async (
    tasks: readonly store.ScanTask[],
    failed: (path: string, message: string) => Promise<void>,
    urgent = false,
  ): Promise<number> => {
    const scanned = await Promise.all(
      tasks.map(async (task): Promise<store.Scanned | undefined> => {
        const looked = await lookAt(task, urgent);
        if (looked.ok)
          return {
            photoId: task.id,
            hash: task.hash,
            problem: '',
            faces: looked.faces,
            sideways: standing(task, looked.faces),
          };
        if (GONE.has(looked.code ?? '') && !(await drives.isAttached(task.driveId)))
          throw new DriveGone(task.driveId, task.driveLabel);
        await failed(`${task.driveLabel}: ${task.path}`, looked.message);
        return { photoId: task.id, hash: task.hash, problem: looked.message, faces: [], sideways: 0 };
      }),
    );
    const done = scanned.filter((one) => one !== undefined);
    const saved = await database.transaction(async (tx) => {
      const made = await store.saveScanned(database, done, tx);
      await namesFound(
        database,
        done.map(({ photoId }) => photoId),
        tx,
      );
      await database.notify(['people', 'photos'], tx);
      return made;
    });
    await Promise.all(saved.map(({ id, picture }) => pictures.keep(id, picture)));
    return saved.length;
  };

  const lookAt = async (task: store.ScanTask, urgent: boolean) => {
    try {
      return await looker.look({ ...task, path: await resolveInside(task.mountPoint, task.path) }, urgent);
    } catch (error) {
      if (error instanceof StellinError) return { ok: false as const, message: error.message, code: undefined };
      const code = error instanceof Error && 'code' in error ? String(error.code) : undefined;
      return { ok: false as const, message: messageOf(error), code };
    }
  };

  const job: JobKind = {
    kind: FACES_JOB,
    takesRoom: true,
    async run(run) {
      const total = run.done + (await store.countWaiting(database));
      let [after, faces, done] = [0, 0, run.done];
      const started = performance.now();
      const gone = new Map<string, DriveGone>();
      await run.progress({ total, current: 'Looking for faces' });
      for (;;) {
        const tasks = await store.nextTasks(database, after, PICTURES_PER_BATCH);
        if (tasks.length === 0) break;
        try {
          faces += await scan(tasks, run.failure);
        } catch (error) {
          // Drives that are there go on; this one is waited for at the end.
          if (!(error instanceof DriveGone) || gone.has(error.driveId)) throw error;
          gone.set(error.driveId, error);
          continue;
        }
        faultPoint('faces:batch');
        after = tasks.at(-1)?.id ?? after;
        done += tasks.length;
        const rate = (faces / ((performance.now() - started) / 1000)).toFixed(1);
        await run.progress({ done, current: `${faces} faces found, ${rate} a second: ${tasks.at(-1)?.path ?? ''}` });
      }
      for (const error of gone.values()) if (!(await drives.isAttached(error.driveId))) throw error;
      return { faces };
    },
  };

  /** Starts looking, unless that is under way or there is nothing to look at. */
  const start = async (accountId: number | null): Promise<void> => {
    if ((await store.countWaiting(database)) === 0) return;
    await jobs.start(FACES_JOB, 'Look for faces', {}, accountId).catch((error: unknown) => {
      if (!(error instanceof StellinError && error.code === 'alreadyRunning')) throw error;
    });
  };

  return {
    job,

    /** After something was taken in: it is looked at, unless that is switched off. */
    async follow(accountId: number | null): Promise<void> {
      if (byItself && !held) await start(accountId);
    },

    /** Nothing is looked at by itself while much else is to be done. */
    hold(): void {
      held = true;
    },

    async release(): Promise<void> {
      held = false;
      if (byItself) await start(null);
    },

    /** Looks at some pictures now. */
    async some(limit: number, progress: (done: number) => void): Promise<void> {
      for (let done = 0, after = 0; done < limit;) {
        const tasks = await store.nextTasks(database, after, Math.min(PICTURES_PER_BATCH, limit - done));
        if (tasks.length === 0) return;
        await scan(tasks, () => Promise.resolve());
        done += tasks.length;
        after = tasks.at(-1)?.id ?? after;
        progress(done);
      }
    },

    start,

    /** Looks at a photo now, if it has not been looked at. Returns why it could not be, or null. */
    async now(photoId: number): Promise<string | null> {
      const task = await store.findTask(database, photoId);
      if (task) {
        const looking =
          atOnce.get(photoId) ??
          scan([task], () => Promise.resolve(), true)
            .then(() => undefined)
            .finally(() => atOnce.delete(photoId));
        atOnce.set(photoId, looking);
        try {
          await looking;
        } catch (error) {
          return messageOf(error);
        }
      }
      const problem = (await store.problemOf(database, photoId)) ?? NOT_LOOKED_AT;
      return problem === '' ? null : problem;
    },

    /** Finds out what a drawn face is like; nothing where its drive is away or no face can be seen. */
    async lookInto(face: {
      id: number;
      photoId: number;
      box: Parameters<Looker['lookInto']>[0]['box'];
    }): Promise<void> {
      const picture = await store.findPicture(database, face.photoId);
      if (!picture) return;
      const path = await resolveInside(picture.mountPoint, picture.path);
      const found = await looker.lookInto({ ...picture, path, box: face.box });
      if (!found) return;
      await store.saveDrawn(database, face.id, found);
      await pictures.keep(face.id, found.picture);
      await database.notify(['people']);
    },

    state: async () => ({ ...(await store.countFaces(database)), waiting: await store.countWaiting(database) }),
  };
}
