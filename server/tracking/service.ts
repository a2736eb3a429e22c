// Tracked folders: what comes, changes or goes is taken in by itself. Where the file system tells, within seconds; a look
// through all from time to time finds the rest, and what happened while nobody listened.

import watcher from '@parcel/watcher';
import { dirname, join, relative } from 'node:path';
import type { Logger } from 'pino';
import { commonFolder } from '@stellin/core/intake/commonFolder';
import type { TrackedFolder } from '@stellin/contract/tracking';
import type { Database } from '../database/database';
import type { Drives } from '../drives/service';
import { messageOf, StellinError } from '../errors';
import { repeating } from '../repeating';
import { isTaken } from '../files/relocate';
import { INDEX_JOB } from '../intake/service';
import type { Jobs } from '../jobs/service';
import * as store from './store';

export type Tracking = ReturnType<typeof trackingService>;

const TEND_MS = 1000;
/** Debounce: a file that is being copied raises many events; it is read once there were none for this long. */
const QUIET_MS = 1500;
const CHECK_MINUTES = 30;

interface Watch {
  root: string;
  subscription: watcher.AsyncSubscription | undefined;
  /** Folders below the drive in which something happened. */
  changed: Set<string>;
  lastChange: number;
}

export function trackingService(database: Database, drives: Drives, jobs: Jobs, log: Logger) {
  // One closure for what its functions share; each of them fits a screen.
  const watches = new Map<number, Watch>();

  const listen = async (folder: store.TrackedRow, mountPoint: string): Promise<void> => {
    const root = join(mountPoint, folder.folder);
    const watch: Watch = { root, subscription: undefined, changed: new Set(), lastChange: 0 };
    watches.set(folder.id, watch);
    try {
      watch.subscription = await watcher.subscribe(root, (error, events) => {
        if (error) log.info(`tracking ${root}: ${error.message}`);
        for (const { path } of events ?? []) {
          const inside = relative(mountPoint, path);
          // Hidden files are ours, or no photos.
          if (inside.split('/').some((name) => name.startsWith('.'))) continue;
          const above = dirname(inside) === '.' ? '' : dirname(inside);
          if (!folder.subFolders && above !== folder.folder) continue;
          watch.changed.add(above);
          watch.lastChange = Date.now();
        }
      });
    } catch (error) {
      // Network folders and full tables of watches: looking through from time to time has to do.
      log.info(`tracking ${root}: ${messageOf(error)}`);
    }
  };

  const forget = async (id: number): Promise<void> => {
    const watch = watches.get(id);
    watches.delete(id);
    await watch?.subscription?.unsubscribe().catch((error: unknown) => log.info(`tracking: ${messageOf(error)}`));
  };

  /** Looks through a folder; false when another look through the drive is still going on. */
  const lookThrough = async (tracked: store.TrackedRow, folder: string, subFolders: boolean): Promise<boolean> => {
    const { driveId, label, leaveOut, ignore, templateId, dossierId, accountId } = tracked;
    const title = `Keep up with ${folder === '' ? label : `${label}, ${folder}`}`;
    const parameters = { driveId, folder, subFolders, leaveOut, ignore, templateId, dossierId, quiet: true };
    try {
      await jobs.start(INDEX_JOB, title, parameters, accountId, { driveId });
      return true;
    } catch (error) {
      if (error instanceof StellinError && error.code === 'alreadyRunning') return false;
      throw error;
    }
  };

  const tendOne = async (tracked: store.TrackedRow): Promise<void> => {
    const { id, folder, subFolders, mountPoint, isDue } = tracked;
    const root = mountPoint === null ? undefined : join(mountPoint, folder);
    let watch = watches.get(id);
    if (watch && watch.root !== root) {
      await forget(id);
      watch = undefined;
    }
    if (mountPoint === null) return;
    const isBack = watch === undefined;
    if (isBack) await listen(tracked, mountPoint);
    if (isBack || isDue) {
      if (await lookThrough(tracked, folder, subFolders)) await store.noteChecked(database, id);
      // Not listened to yet in earnest: the next round tries the whole again.
      else if (isBack) await forget(id);
      return;
    }
    if (!watch || watch.changed.size === 0 || Date.now() - watch.lastChange < QUIET_MS) return;
    const changed = [...watch.changed];
    watch.changed.clear();
    // A folder that came or went tells of itself in the one above, so sub-folders are always looked through.
    let place = commonFolder(changed);
    while (place !== '' && !(await isTaken(join(mountPoint, place))))
      place = dirname(place) === '.' ? '' : dirname(place);
    if (!(await lookThrough(tracked, place, subFolders))) for (const path of changed) watch.changed.add(path);
  };

  const tend = async (): Promise<void> => {
    const tracked = await store.listTracked(database, CHECK_MINUTES);
    const ids = new Set(tracked.map(({ id }) => id));
    for (const id of [...watches.keys()]) if (!ids.has(id)) await forget(id);
    for (const folder of tracked) await tendOne(folder);
  };
  const tending = repeating('tracking', TEND_MS, tend, log);

  return {
    /** Begins to look after tracked folders. */
    start: tending.start,

    async list(): Promise<TrackedFolder[]> {
      const tracked = await store.listTracked(database, CHECK_MINUTES);
      return tracked.map(({ accountId: _, label: __, mountPoint: ___, isDue: ____, ...folder }) => ({
        ...folder,
        listens: watches.get(folder.id)?.subscription !== undefined,
      }));
    },

    async track(folder: Omit<TrackedFolder, 'id' | 'checkedAt' | 'listens'>, accountId: number): Promise<void> {
      await drives.requireAttached(folder.driveId);
      await store.addTracked(database, { ...folder, accountId });
      await database.notify(['drives']);
    },

    async untrack(id: number): Promise<void> {
      await store.removeTracked(database, id);
      await database.notify(['drives']);
    },

    async close(): Promise<void> {
      await tending.close();
      for (const id of [...watches.keys()]) await forget(id);
    },
  };
}
