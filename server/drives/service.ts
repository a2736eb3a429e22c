// Drives: which are there, which are away, recognised by their marker wherever they are mounted.

import { readdir } from 'node:fs/promises';
import { basename, join } from 'node:path';
import type { Logger } from 'pino';
import type { Drive } from '@stellin/contract/drives';
import type { Database } from '../database/database';
import { messageOf, StellinError, systemCode } from '../errors';
import { readMarker, writeMarker, type Marker } from './marker';
import * as store from './store';

interface Mounted {
  mountPoint: string;
  marker: Marker | undefined;
}

export type Drives = ReturnType<typeof driveService>;

const WATCH_MS = 1500;

export function driveService(database: Database, mountRoots: readonly string[], log: Logger) {
  let mounted: Mounted[] = [];
  let timer: NodeJS.Timeout | undefined;
  let stopped = false;

  const refresh = async (): Promise<void> => {
    mounted = (await Promise.all(mountRoots.map((root) => lookForDrives(root, log)))).flat();
    const seen = mounted.flatMap(({ mountPoint, marker }) => (marker ? [{ id: marker.id, mountPoint }] : []));
    // A copied drive carries its original's marker; the first one found counts.
    const first = seen.filter(({ id }, i) => seen.findIndex((other) => other.id === id) === i);
    if (await store.noteAttached(database, first)) await database.notify(['drives', 'photos', 'writeBack']);
  };

  const watch = async (): Promise<void> => {
    try {
      const before = JSON.stringify(mounted);
      await refresh();
      if (JSON.stringify(mounted) !== before) await database.notify(['drives']);
    } catch (error) {
      log.warn(`drives: ${messageOf(error)}`);
    }
    if (!stopped) timer = setTimeout(() => void watch(), WATCH_MS);
  };

  const requireAttached = async (id: string): Promise<store.DriveRow & { mountPoint: string }> => {
    const drive = await store.findDrive(database, id);
    if (!drive) throw new StellinError('notFound', { what: 'such drive' });
    if (!drive.attached || drive.mountPoint === null) throw new StellinError('driveAway', { drive: drive.label });
    return { ...drive, mountPoint: drive.mountPoint };
  };

  return {
    refresh,
    /** Keeps looking which drives are there. */
    watch,
    stop() {
      stopped = true;
      clearTimeout(timer);
    },

    requireAttached,

    /** Whether a drive is there right now, looked up afresh. */
    async isAttached(id: string): Promise<boolean> {
      await refresh();
      return (await store.findDrive(database, id))?.attached ?? false;
    },

    /** Catalogued drives and new ones. */
    async list(): Promise<Drive[]> {
      const known = await store.listDrives(database);
      const ids = new Set(known.map(({ id }) => id));
      const fresh = mounted.filter(({ marker }) => !marker || !ids.has(marker.id));
      return [
        ...known.map(({ attached, ...drive }): Drive => ({
          ...drive,
          key: drive.id,
          state: attached ? 'attached' : 'away',
          mountPoint: attached ? drive.mountPoint : null,
        })),
        ...fresh.map(({ mountPoint, marker }): Drive => ({
          key: mountPoint,
          id: null,
          label: marker?.label ?? basename(mountPoint),
          state: 'new',
          mountPoint,
          photos: 0,
          lastSeen: null,
        })),
      ];
    },

    listFolders: () => store.listFolders(database),

    /** Where the drive of a key (an id, or the mount point of a new drive) is mounted. Only places that the last look found count. */
    async mountPointOf(key: string): Promise<{ mountPoint: string; label: string }> {
      const fresh = mounted.find(({ mountPoint }) => mountPoint === key);
      if (fresh) return { mountPoint: fresh.mountPoint, label: fresh.marker?.label ?? basename(fresh.mountPoint) };
      return requireAttached(requireUuid(key));
    },

    /** The drive of a key, catalogued (and marked) now if it was new. */
    async catalogue(key: string): Promise<{ id: string; label: string }> {
      await refresh();
      const fresh = mounted.find(({ mountPoint }) => mountPoint === key);
      if (!fresh) return requireAttached(requireUuid(key));
      const marker =
        fresh.marker ?? (await writeMarker(fresh.mountPoint, basename(fresh.mountPoint).replaceAll('/', ' ')));
      await store.insertDrive(database, { ...marker, mountPoint: fresh.mountPoint });
      await refresh();
      return marker;
    },
  };
}

function requireUuid(key: string): string {
  if (!/^[0-9a-f-]{36}$/i.test(key))
    throw new StellinError('notFound', { what: 'such drive; it may have been unplugged' });
  return key;
}

async function lookForDrives(root: string, log: Logger): Promise<Mounted[]> {
  const entries = await readdir(root, { withFileTypes: true }).catch((error: unknown) => {
    if (systemCode(error) === 'ENOENT') return [];
    throw error;
  });
  const folders = entries
    .filter((entry) => entry.isDirectory() && !entry.name.startsWith('.'))
    .sort((a, b) => (a.name < b.name ? -1 : 1));
  return Promise.all(
    folders.map(async ({ name }) => {
      const mountPoint = join(root, name);
      const marker = await readMarker(mountPoint).catch((error: unknown) => {
        log.warn(`drives: ${messageOf(error)}`);
        return undefined;
      });
      return { mountPoint, marker };
    }),
  );
}
